import { and, arrayOverlaps, desc, eq, lt, or, sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import type { JournalLine } from '@/core/journal/model';
import { toldTo, type Sight } from '@/core/journal/told';
import { entryInWords } from '@/core/journal/words';
import { refuse } from '@/core/errors/refusal';
import { asks } from '../acts/operation';
import { seesAll, type Actor } from '../gate/actor';
import { homeIsTold, paperAllows, paperIsDisposed, placeAllows, placeIsKnown } from '../gate/visible';
import { db } from '../db/client';
import { accessChange, destroyedPaper, document, journal, person, place, valueBatch } from '../db/schema';

/** The newest forty entries about a place or a paper that the caller may see, newest first. */
export const journalOf = asks('journal.of', async (actor, input) => {
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
  return rows.flatMap(({ id, at, who, act, detail, subjects, undoes }) => {
    const told = sight === null ? detail : toldTo({ act, subjects, detail }, sight);
    if (told === null) return [];
    return { undoes, id, at: at.toISOString(), who: who ?? 'The library', words: entryInWords(act, told) };
  });
});

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
  // Who could see a paper that was destroyed can no longer be told: its title stays with those who see everything.
  const destroyed = await db()
    .select({ id: destroyedPaper.id })
    .from(destroyedPaper)
    .where(sql`${destroyedPaper.id} = ${among}`);
  return {
    papers: new Map(
      [...papers, ...destroyed.map(({ id: gone }) => ({ id: gone, seen: false }))].map((row) => [row.id, row.seen]),
    ),
    places: new Map(places.map((row) => [row.id, row.known])),
  };
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
