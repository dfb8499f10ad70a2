import { and, eq } from 'drizzle-orm';
import { writeDay } from '@/core/calendar/typedDay';
import type { Proposal } from '@/core/intake/model';
import { searchKey } from '@/core/text/fold';
import { namesWords } from '@/core/text/namesWords';
import { db } from '../db/client';
import { filingPlan, place } from '../db/schema';
import { expectedOf } from '../expected/slots';
import type { Actor } from '../gate/actor';
import { placeAllows } from '../gate/visible';

/** A paper that is expected in a dossier, which an arrival seems to be. */
export interface ExpectedThere {
  readonly dossierId: string;
  /** Where it is looked for. */
  readonly placeId: string;
  /** What it is called, and until when it is expected, in words. */
  readonly says: string;
  /** The values that make a paper meet it, by the ids of columns. */
  readonly values: Readonly<Record<string, string>>;
}

/** Whether anything is expected in a dossier that somebody may add to. */
async function expectsAnything(actor: Actor, dossierId: string): Promise<boolean> {
  const [found] = await db()
    .select({ expected: filingPlan.expected })
    .from(place)
    .innerJoin(filingPlan, eq(filingPlan.seriesId, place.parentId))
    .where(and(eq(place.id, dossierId), placeAllows(actor, 'add')));
  return (found?.expected.length ?? 0) > 0;
}

/**
 * The expected paper of the likeliest dossier that is still missing, or runs out, and whose name stands in the subject or in a title
 * of what would be filed; the first due of several. Null: there is none, or it is not known yet what the dossier has.
 */
export async function expectedAmong(
  actor: Actor,
  { candidates, parts }: Proposal,
  subject: string,
): Promise<ExpectedThere | null> {
  const dossierId = candidates[0]?.dossierId;
  if (dossierId === undefined || !(await expectsAnything(actor, dossierId))) return null;
  const { slots } = await expectedOf(actor, { dossierId });
  const names = searchKey([subject, ...parts.flatMap(({ counts, title }) => (counts ? [title] : []))].join('\n'));
  const [first] = slots
    .filter(({ state }) => state === 'gap' || state === 'ahead' || state === 'ending')
    .filter(({ name }) => namesWords(names, searchKey(name)))
    .toSorted((one, other) => (one.due < other.due ? -1 : 1));
  return first?.place
    ? {
        dossierId,
        placeId: first.place.id,
        says: `“${first.name}” is expected here, due ${writeDay(first.due)}.`,
        values: first.values ?? {},
      }
    : null;
}
