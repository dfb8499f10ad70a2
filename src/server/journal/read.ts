import { and, arrayOverlaps, desc, eq, lt, or, sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import type { JournalDetail, JournalLine } from '@/core/journal/model';
import { entryInWords } from '@/core/journal/words';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { seesAll, type Actor } from '../gate/actor';
import { homeIsTold, paperAllows, paperIsDisposed, placeAllows, placeIsKnown } from '../gate/visible';
import { db } from '../db/client';
import { accessChange, document, journal, person, place, valueBatch } from '../db/schema';

/** Details that name a place, with the detail that holds its id: shown only to readers who may know of the place. */
const namedPlaces: readonly (readonly [name: string, id: string])[] = [
  ['from', 'fromId'],
  ['to', 'toId'],
];

/** The newest forty entries about a place or a paper that the caller may see, newest first. */
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
      undoes: sql<JournalLine['undoes']>`case
        when exists (select from ${valueBatch} where ${valueBatch.entryId} = ${journal.id})
          and ${journal.act} in ('values.set', 'values.undone') then 'values'
        when exists (select from ${accessChange} where ${accessChange.entryId} = ${journal.id}) then 'access' end`,
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
  const sight = await sightOf(
    actor,
    rows.flatMap((row) => row.subjects),
    input,
  );
  const open = rows.filter((row) => sight === null || isOpen(row, sight));
  return open.map(({ id, at, who, act, detail, subjects, undoes }) => ({
    undoes,
    id,
    at: at.toISOString(),
    who: who ?? 'The library',
    words: entryInWords(act, {
      ...(sight === null ? detail : forReader(detail, sight)),
      ...(sight !== null && countsMany(detail)
        ? { count: counted(subjects.filter((each) => sight.papers.get(each)).length, 'paper') }
        : {}),
    }),
  }));
}

/** Whether an entry is about several papers, which it counts and does not name. */
const countsMany = (detail: JournalDetail): boolean => /^[\d,]+ papers$/u.test(String(detail['count'] ?? ''));

/** Which of the existing papers and places among some ids the caller may know of. */
interface Sight {
  readonly papers: ReadonlyMap<string, boolean>;
  readonly places: ReadonlyMap<string, boolean>;
}

/**
 * Null if the caller sees everything. In the journal of a paper whose home they may not be told, bare steps are left out
 * too: one of them may be that home.
 */
async function sightOf(
  actor: Actor,
  ids: readonly string[],
  { subject, id }: ReadInputOf<'journal.of'>,
): Promise<Sight | null> {
  if (seesAll(actor)) return null;
  const [paper] =
    subject === 'place'
      ? []
      : await db()
          .select({ told: sql<boolean>`(select ${homeIsTold(actor)})` })
          .from(document)
          .innerJoin(place, eq(place.id, document.homeId))
          .where(eq(document.id, id));
  const isKnown = paper?.told === false ? placeAllows(actor, 'see') : placeIsKnown(actor);
  const among = sql`any(${sql.param([...new Set(ids)])}::uuid[])`;
  const papers = await db()
    .select({ id: document.id, seen: sql<boolean>`(select ${or(paperAllows(actor, 'see'), paperIsDisposed(actor))})` })
    .from(document)
    .where(sql`${document.id} = ${among}`);
  const places = await db()
    .select({ id: place.id, known: sql<boolean>`(select ${isKnown})` })
    .from(place)
    .where(sql`${place.id} = ${among}`);
  return {
    papers: new Map(papers.map((row) => [row.id, row.seen])),
    places: new Map(places.map((row) => [row.id, row.known])),
  };
}

/**
 * Whether an entry may be shown: not if it would name a paper or place that the reader may not know of. A move can be
 * shown without either end; of several papers only those the reader may know of are counted.
 */
function isOpen(
  { act, detail, subjects }: { act: string; detail: JournalDetail; subjects: readonly string[] },
  { papers, places }: Sight,
): boolean {
  // Who might have known of a removed place can no longer be told.
  if (act === 'place.removed') return false;
  const spoken = subjects.filter((id) => papers.has(id));
  if (countsMany(detail)) return spoken.some((id) => papers.get(id));
  const ends = namedPlaces.map(([, key]) => detail[key]);
  return spoken.every((id) => papers.get(id)) && subjects.every((id) => places.get(id) !== false || ends.includes(id));
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

function forReader(detail: JournalDetail, { places }: Sight): JournalDetail {
  const hidden = new Set(
    namedPlaces.filter(([, key]) => key in detail && places.get(String(detail[key])) !== true).map(([name]) => name),
  );
  return Object.fromEntries(Object.entries(detail).filter(([key]) => !hidden.has(key)));
}
