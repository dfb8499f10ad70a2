import { and, sql } from 'drizzle-orm';
import { searchKey } from '@/core/text/fold';
import { namesOn, pathsOf } from '../known/names';
import { asks } from '../acts/operation';
import { placeAllows, placeIsStill } from '../gate/visible';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { place } from '../db/schema';

/**
 * Places to file into or to move to, by words anywhere on their path ("finance 26 sep"). Without words: series and
 * dossiers.
 */
export const choosePlaces = asks('places.choose', async (actor, input) => {
  const words = searchKey(input.words).split(' ').filter(Boolean);
  const onTheWay = words.map(
    (word) => sql`exists (
      select from ${place} as step
      where step.id = any(${place.lineage}) and step.kind <> 'library' and step.search_key like ${`%${escapeLike(word)}%`})`,
  );
  const last = words.at(-1);
  const rows = await db()
    .select({ id: place.id, name: place.name, reference: place.reference, kind: place.kind, lineage: place.lineage })
    .from(place)
    .where(
      and(
        sql`${place.kind} <> 'library'`,
        placeAllows(actor, input.capability),
        // Locked and closed places take nothing.
        sql`not ${placeIsStill(input.capability)}`,
        words.length === 0 ? sql`${place.kind} in ('series', 'dossier')` : and(...onTheWay),
      ),
    )
    .orderBy(
      ...(last === undefined ? [] : [sql`${place.searchKey} like ${`%${escapeLike(last)}%`} desc`]),
      sql`array_length(${place.lineage}, 1), ${place.name}, ${place.id}`,
    )
    .limit(30);
  const paths = await pathsOf(
    db(),
    actor,
    rows.map((row) => row.lineage),
  );
  return rows.map(({ lineage: _lineage, ...row }, at) => ({ ...row, path: namesOn(paths[at]) }));
});
