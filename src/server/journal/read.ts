import { and, arrayOverlaps, desc, eq, inArray, lt, or, sql, type SQL } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import { actsOf } from '@/core/journal/groups';
import type { JournalLine } from '@/core/journal/model';
import { toldTo, type Sight } from '@/core/journal/told';
import { entryInWords } from '@/core/journal/words';
import { refuse } from '@/core/errors/refusal';
import { searchKey } from '@/core/text/fold';
import { asks } from '../acts/operation';
import { requireKeeper } from '../gate/keeper';
import { seesAll, type Actor } from '../gate/actor';
import { homeIsTold, paperAllows, paperIsDisposed, placeAllows, placeIsKnown } from '../gate/visible';
import { db } from '../db/client';
import { accessChange, destroyedPaper, document, journal, person, place, valueBatch } from '../db/schema';
import { librarySettings } from '../library/settings';

/** What a journal is read of: a paper or a place; null for everything. */
type About = { readonly subject: 'place' | 'document'; readonly id: string } | null;

/** The newest forty entries about a place or a paper that the caller may see, newest first. */
export const journalOf = asks('journal.of', async (actor, input) => {
  await requireSight(actor, input);
  return linesOf(
    actor,
    input,
    await entries(and(isAbout(input.id), input.before === null ? undefined : lt(journal.id, input.before)), 40),
  );
});

/** So many lines are handed out at once, and so many entries looked through for them. */
const [atOnce, mostLooked, batch] = [100, 5000, 500];

/**
 * Entries about a paper, a place with all below it, or, for keepers, everything: by kind of act, person, days and words. What
 * the words are looked for in is what the caller is told. `next`: to go on from; null at the end.
 */
export const findInJournal = asks('journal.find', async (actor, input) => {
  const { about, group, personId, from, to, words } = input;
  if (about) await requireSight(actor, about);
  else requireKeeper(actor);
  const { timeZone } = await librarySettings();
  const asked = [
    about === null ? undefined : about.subject === 'place' ? within(about.id) : isAbout(about.id),
    group === null ? undefined : inArray(journal.act, actsOf(group)),
    personId === null ? undefined : eq(journal.personId, personId),
    from === null ? undefined : sql`(${journal.at} at time zone ${timeZone})::date >= ${from}::date`,
    to === null ? undefined : sql`(${journal.at} at time zone ${timeZone})::date <= ${to}::date`,
  ];
  const wanted = searchKey(words).split(' ').filter(Boolean);
  const lines: JournalLine[] = [];
  let before = input.before;
  for (let looked = 0; looked < mostLooked;) {
    const rows = await entries(and(...asked, before === null ? undefined : lt(journal.id, before)), batch);
    looked += rows.length;
    for (const line of await linesOf(actor, about, rows)) {
      const said = searchKey(`${line.who} ${line.words}`);
      if (!wanted.every((word) => said.includes(word))) continue;
      lines.push(line);
      if (lines.length === atOnce) return { lines, next: line.id };
    }
    before = rows.at(-1)?.id ?? null;
    if (rows.length < batch) return { lines, next: null };
  }
  return { lines, next: before };
});

const isAbout = (id: string): SQL => arrayOverlaps(journal.subjects, [id]);

/** Entries about a place, those below it, and papers that lie there now. */
const within = (id: string): SQL => sql`${journal.subjects} && (
  select array_agg(each.id) from (
    select ${place.id} as id from ${place} where ${place.lineage} @> array[${id}::uuid]
    union all
    select ${document.id} from ${document} join ${place} on ${place.id} = ${document.homeId}
    where ${place.lineage} @> array[${id}::uuid]) as each)`;

const entries = (which: SQL | undefined, most: number) =>
  db()
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
    .where(which)
    .orderBy(desc(journal.id))
    .limit(most);

/** Entries as the caller may be told of them; those of which they may not be told are left out. */
async function linesOf(actor: Actor, which: About, rows: Awaited<ReturnType<typeof entries>>): Promise<JournalLine[]> {
  const sight = await sightOf(
    actor,
    rows.flatMap((row) => row.subjects),
    which,
  );
  return rows.flatMap(({ id, at, who, act, detail, subjects, undoes }) => {
    const told = sight === null ? detail : toldTo({ act, subjects, detail }, sight);
    if (told === null) return [];
    return { undoes, id, at: at.toISOString(), who: who ?? 'The library', words: entryInWords(act, told) };
  });
}

/**
 * Null if the caller sees everything. In the journal of a paper whose home they may not be told, bare steps are left out
 * too: one of them may be that home.
 */
async function sightOf(actor: Actor, ids: readonly string[], about: About): Promise<Sight | null> {
  if (seesAll(actor)) return null;
  const [paper] =
    about?.subject !== 'document'
      ? []
      : await db()
          .select({ told: sql<boolean>`(select ${homeIsTold(actor)})` })
          .from(document)
          .innerJoin(place, eq(place.id, document.homeId))
          .where(eq(document.id, about.id));
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
    .select({ id: destroyedPaper.id, seen: sql<boolean>`false` })
    .from(destroyedPaper)
    .where(sql`${destroyedPaper.id} = ${among}`);
  return {
    papers: new Map([...papers, ...destroyed].map((row) => [row.id, row.seen])),
    places: new Map(places.map((row) => [row.id, row.known])),
  };
}

async function requireSight(actor: Actor, { subject, id }: Pick<ReadInputOf<'journal.of'>, 'subject' | 'id'>) {
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
