import { and, sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import type { PlaceChoice } from '@/core/places/contract';
import { searchKey } from '@/core/text/fold';
import type { Actor } from '../gate/actor';
import { placeAllows, placeIsStill } from '../gate/visible';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { place } from '../db/schema';
import { namedPath } from '../known/places';

/**
 * Places to file into or to move to, by words anywhere on their path ("finance 26 sep"). Without words: series and
 * dossiers.
 */
export async function choosePlaces(actor: Actor, input: ReadInputOf<'places.choose'>): Promise<PlaceChoice[]> {
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
  return Promise.all(
    rows.map(async ({ lineage, ...row }) => ({
      ...row,
      path: (await namedPath(db(), actor, lineage)).map((step) => step.name),
    })),
  );
}
