import { and, eq, sql, type SQL } from 'drizzle-orm';
import type { PlaceChoice } from '@/core/places/contract';
import { searchKey } from '@/core/text/fold';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { escapeLike } from '../db/like';
import { bookmark, look, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { ownOf, placeAllows, placeIsKnown, placeIsStill } from '../gate/visible';
import { namesOn, pathsOf } from '../known/names';

/** How many places are offered, and how many of them because they were used lately. */
const [mostOffered, mostLately] = [30, 5];

/**
 * Places to file into or to move to, by words anywhere on their path ("finance 26 sep"). Without words: what the caller
 * bookmarked, where they were lately, series and dossiers; or what is directly in a place.
 */
export const choosePlaces = asks('places.choose', async (actor, { words: typed, capability, withinId }) => {
  const words = searchKey(typed).split(' ').filter(Boolean);
  const onTheWay = words.map(
    (word) => sql`exists (
      select from ${place} as step
      where step.id = any(${place.lineage}) and step.kind <> 'library' and step.search_key like ${`%${escapeLike(word)}%`})`,
  );
  // A closed place takes nothing; a locked one stays where it is.
  const takes = and(
    sql`${place.kind} <> 'library'`,
    placeAllows(actor, capability),
    sql`not ${placeIsStill(capability)}`,
  );
  const last = words.at(-1);
  const order = [
    ...(last === undefined ? [] : [sql`${place.searchKey} like ${`%${escapeLike(last)}%`} desc`]),
    sql`array_length(${place.lineage}, 1), ${place.name}, ${place.id}`,
  ];
  const below = withinId ? sql`${place.lineage} @> array[${withinId}::uuid] and ${place.id} <> ${withinId}` : undefined;
  if (words.length > 0) return offered(actor, await found(and(takes, ...onTheWay, below), order));
  if (withinId) return offered(actor, await found(and(takes, eq(place.parentId, withinId)), order));
  const near = await nearPlaces(actor, takes);
  const others = await found(and(takes, sql`${place.kind} in ('series', 'dossier')`), order);
  return offered(actor, [...near, ...others.filter(({ id }) => !near.some((each) => each.id === id))]);
});

const shown = {
  id: place.id,
  name: place.name,
  reference: place.reference,
  kind: place.kind,
  lineage: place.lineage,
};
type Found = Pick<PlaceChoice, keyof typeof shown & keyof PlaceChoice> & {
  readonly lineage: string[];
  readonly near: PlaceChoice['near'];
};

async function found(condition: SQL | undefined, order: readonly SQL[]): Promise<Found[]> {
  const rows = await db()
    .select(shown)
    .from(place)
    .where(condition)
    .orderBy(...order)
    .limit(mostOffered);
  return rows.map((row) => ({ ...row, near: null }));
}

/** What the caller bookmarked, in their order, and where they were lately. */
async function nearPlaces(actor: Actor, takes: SQL | undefined): Promise<Found[]> {
  const personId = ownOf(actor);
  if (personId === null) return [];
  const bookmarked = await db()
    .select(shown)
    .from(bookmark)
    .innerJoin(place, sql`${place.id} = case when ${bookmark.kind} = 'place' then ${bookmark.ref}::uuid end`)
    .where(and(eq(bookmark.personId, personId), eq(bookmark.kind, 'place'), takes))
    .orderBy(bookmark.position)
    .limit(mostOffered);
  const lately = await db()
    .select(shown)
    .from(look)
    .innerJoin(place, eq(place.id, look.placeId))
    .where(and(eq(look.personId, personId), takes))
    .orderBy(sql`${look.at} desc`)
    .limit(mostLately);
  return [
    ...bookmarked.map((row) => ({ ...row, near: 'bookmarked' as const })),
    ...lately
      .filter(({ id }) => !bookmarked.some((row) => row.id === id))
      .map((row) => ({ ...row, near: 'lately' as const })),
  ];
}

async function offered(actor: Actor, rows: readonly Found[]): Promise<PlaceChoice[]> {
  const [paths, opening] = await Promise.all([
    pathsOf(
      db(),
      actor,
      rows.map((row) => row.lineage),
    ),
    db()
      .selectDistinct({ id: place.parentId })
      .from(place)
      .where(
        and(
          idIn(
            place.parentId,
            rows.map(({ id }) => id),
          ),
          placeIsKnown(actor),
        ),
      ),
  ]);
  const opens = new Set(opening.map(({ id }) => id));
  return rows.map(({ lineage: _lineage, ...row }, at) => ({
    ...row,
    path: namesOn(paths[at]),
    opens: opens.has(row.id),
  }));
}
