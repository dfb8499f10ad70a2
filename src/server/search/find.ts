import { and, eq, sql } from 'drizzle-orm';
import type { Found } from '@/core/search/contract';
import { marksIn } from '@/core/search/marks';
import { searchKey } from '@/core/text/fold';
import { namesOn, pathsOf } from '../known/names';
import { asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { colleagueIsKnown, homeIsTold, paperAllows, placeIsKnown } from '../gate/visible';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { document, person, place, view } from '../db/schema';
import { standName } from '../known/standing';
import { viewIsFor } from '../known/views';

/**
 * Suggestions of the find field: places, papers and people whose name contains every word of the query, those that begin
 * with it first; and, for longer queries with few results, similar names. Only what the caller may know of; people are
 * found by everyone in the organisation.
 */
export const find = asks('find', async (actor, input) => {
  const query = searchKey(input.words);
  if (query === '') return [];
  const [places, papers, people, views] = await Promise.all([
    findPlaces(actor, query),
    findPapers(actor, query),
    findPeople(actor, query),
    findViews(actor, query),
  ]);
  const plain = { reference: null, stamp: null, path: [], about: null, placeId: null };
  const marks = ({ name }: { readonly name: string }) => marksIn(name, input.words);
  const paths = await pathsOf(db(), actor, [
    ...places.map((row) => row.lineage.slice(0, -1)),
    ...papers.map((row) => (row.told ? row.lineage : [])),
  ]);
  const placed = places.map(({ lineage: _lineage, ...row }, at) => ({ ...row, path: namesOn(paths[at]) }));
  // Shows the place through which the caller sees the paper, if they may not be told its home.
  const filed = papers.map(({ lineage: _lineage, stand, told, ...row }, at) => ({
    ...row,
    path: told ? namesOn(paths[places.length + at]) : [stand],
  }));
  return [
    ...placed.map((row): Found => ({ ...plain, ...row, marks: marks(row) })),
    ...filed.map((row): Found => ({ ...plain, ...row, kind: 'paper', marks: marks(row) })),
    ...people.map(({ email, ...row }): Found => ({
      ...plain,
      ...row,
      kind: 'person',
      about: email,
      marks: marks(row),
    })),
    ...views.map((row): Found => ({ ...plain, ...row, kind: 'view', marks: marks(row) })),
  ];
});

type Key = typeof document.searchKey | typeof place.searchKey | typeof person.searchKey;

/** The key contains every word of the query. `like` with three letters or more uses the trigram index. */
const hasWords = (key: Key, query: string) =>
  and(...query.split(' ').map((word) => sql`${key} like ${`%${escapeLike(word)}%`}`)) ?? sql`false`;

/** Some words of the key are similar to the query (pg_trgm, word similarity of at least 0.6 by default). */
const isNear = (key: Key, query: string) => (query.length < 4 ? sql`false` : sql`${query} <% ${key}`);

/** Sorts names that begin with the query first, then those with a word that does, then the rest; shorter names first. */
const rank = (key: Key, query: string) => sql`
  case
    when starts_with(${key}, ${query}) then 0
    when ${key} like ${`% ${escapeLike(query)}%`} then 1
    when ${hasWords(key, query)} then 2
    else 3 + (1 - word_similarity(${query}, ${key}))
  end, length(${key}), ${key}`;

async function findPlaces(actor: Actor, query: string) {
  return db()
    .select({ id: place.id, kind: place.kind, name: place.name, reference: place.reference, lineage: place.lineage })
    .from(place)
    .where(
      and(
        sql`${place.kind} not in ('library', 'year')`,
        placeIsKnown(actor),
        sql`(${hasWords(place.searchKey, query)} or ${isNear(place.searchKey, query)})`,
      ),
    )
    .orderBy(rank(place.searchKey, query))
    .limit(5);
}

async function findPapers(actor: Actor, query: string) {
  return db()
    .select({
      id: document.id,
      name: document.title,
      stamp: document.stamp,
      lineage: place.lineage,
      stand: standName(actor),
      told: sql<boolean>`${homeIsTold(actor)}`,
    })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        paperAllows(actor, 'see'),
        sql`(${hasWords(document.searchKey, query)} or ${isNear(document.searchKey, query)})`,
      ),
    )
    .orderBy(rank(document.searchKey, query))
    .limit(5);
}

async function findPeople(actor: Actor, query: string) {
  return db()
    .select({ id: person.id, name: person.name, email: person.email })
    .from(person)
    .where(
      and(
        eq(person.active, true),
        colleagueIsKnown(actor),
        sql`(${hasWords(person.searchKey, query)} or ${isNear(person.searchKey, query)})`,
      ),
    )
    .orderBy(rank(person.searchKey, query))
    .limit(4);
}

/** Saved views for the caller, of places that they may know of, whose names have every word. They are few: no index is kept of them. */
async function findViews(actor: Actor, query: string) {
  const views = await db()
    .select({
      id: view.id,
      name: view.name,
      about: place.name,
      placeId: sql<string | null>`case when ${place.kind} = 'library' then null else ${place.id} end`,
    })
    .from(view)
    .innerJoin(place, eq(place.id, view.placeId))
    .where(and(placeIsKnown(actor), viewIsFor(actor)))
    .orderBy(sql`length(${view.name})`, view.name)
    .limit(mostViews);
  return views.filter(({ name }) => query.split(' ').every((word) => searchKey(name).includes(word))).slice(0, 3);
}

/** So many views are looked at. */
const mostViews = 1000;
