import { and, arrayOverlaps, desc, eq, inArray, lt, or, sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import type { JournalDetail, JournalLine } from '@/core/journal/model';
import { entryInWords } from '@/core/journal/words';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { z } from 'zod';
import type { Actor } from '../access/actor';
import { paperAllows, paperIsDisposed, placeAllows, placeIsKnown } from '../access/visible';
import { db } from '../db/client';
import { document, journal, person, place, valueChange } from '../db/schema';

/** Details that name a place, by the detail that holds its id: shown only to those who may know of it. */
const namedPlaces: readonly (readonly [name: string, id: string])[] = [
  ['from', 'fromId'],
  ['to', 'toId'],
];

/** The last forty entries about a place or a paper that the actor may see, newest first. */
export async function journalOf(actor: Actor, input: ReadInputOf<'journal.of'>): Promise<JournalLine[]> {
  await requireSight(actor, input);
  const rows = await db()
    .select({
      id: journal.id,
      at: journal.at,
      who: person.name,
      act: journal.act,
      detail: journal.detail,
      subjects: journal.subjects,
      undoable: sql<boolean>`${journal.act} in ('values.set', 'values.undone') and exists (
        select from ${valueChange} where ${valueChange.entryId} = ${journal.id})`,
    })
    .from(journal)
    .leftJoin(person, eq(person.id, journal.personId))
    .where(
      and(
        arrayOverlaps(journal.subjects, [input.id]),
        input.before === null ? sql`true` : lt(journal.id, input.before),
      ),
    )
    .orderBy(desc(journal.id))
    .limit(40);
  const known = await knownPlaces(
    actor,
    rows.map((row) => row.detail),
  );
  const seen = await seenAmong(
    actor,
    rows.filter((row) => countsMany(row.detail)).flatMap((row) => row.subjects),
  );
  return rows.map(({ id, at, who, act, detail, subjects, undoable }) => ({
    undoable,
    id,
    at: at.toISOString(),
    who: who ?? 'The library',
    words: entryInWords(act, {
      ...forReader(detail, known),
      ...(seen && countsMany(detail)
        ? { count: counted(subjects.filter((each) => seen.has(each)).length, 'paper') }
        : {}),
    }),
  }));
}

/** An entry about several papers says how many, not which. */
const countsMany = (detail: JournalDetail): boolean => /^[\d,]+ papers$/u.test(String(detail['count'] ?? ''));

/** Which papers among some ids the actor may see: a count must not tell of others. Null where they see all. */
async function seenAmong(actor: Actor, ids: readonly string[]): Promise<ReadonlySet<string> | null> {
  if (actor.keeper) return null;
  const rows = await db()
    .select({ id: document.id })
    .from(document)
    .where(
      and(
        sql`${document.id} = any(${sql.param([...new Set(ids)])}::uuid[])`,
        or(paperAllows(actor, 'see'), paperIsDisposed(actor)),
      ),
    );
  return new Set(rows.map((row) => row.id));
}

async function requireSight(actor: Actor, { subject, id }: ReadInputOf<'journal.of'>): Promise<void> {
  const [found] =
    subject === 'place'
      ? await db()
          .select({ id: place.id })
          .from(place)
          .where(and(eq(place.id, id), placeAllows(actor, 'see')))
      : await db()
          .select({ id: document.id })
          .from(document)
          .where(and(eq(document.id, id), or(paperAllows(actor, 'see'), paperIsDisposed(actor))));
  if (!found) refuse('not-found');
}

async function knownPlaces(actor: Actor, details: readonly JournalDetail[]): Promise<Set<string>> {
  const ids = details.flatMap((detail) => namedPlaces.flatMap(([, key]) => z.uuid().safeParse(detail[key]).data ?? []));
  if (ids.length === 0) return new Set();
  const rows = await db()
    .select({ id: place.id })
    .from(place)
    .where(and(inArray(place.id, ids), placeIsKnown(actor)));
  return new Set(rows.map((row) => row.id));
}

function forReader(detail: JournalDetail, known: ReadonlySet<string>): JournalDetail {
  const hidden = new Set(
    namedPlaces.filter(([, key]) => key in detail && !known.has(String(detail[key]))).map(([name]) => name),
  );
  return Object.fromEntries(Object.entries(detail).filter(([key]) => !hidden.has(key)));
}
