import { and, arrayContains, sql } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { nameKey } from '@/core/text/fold';
import { stepsOf } from '@/core/uploads/path';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { place } from '../db/schema';
import { takenTitles } from '../documents/file';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { placeAllows } from '../gate/visible';

/** What would become of files and the folders they come in; as far as the caller may know, and at this moment. */
export const foreseeUploads = asks('uploads.foresee', async (actor, { placeId, files }) => {
  const target = await placeFor(db(), actor, placeId, 'add');
  const below = await foldersBelow(actor, placeId);
  const folders: Record<string, 'there' | 'made' | 'refused'> = {};
  const homes = new Map<string, string>();
  for (const path of new Set(files.map((file) => file.relativePath))) {
    let at: { id: string; mayMake: boolean } | undefined = { id: placeId, mayMake: has(target.held, 'amend') };
    let mayMake = at.mayMake;
    const steps = stepsOf(path);
    for (const [index, step] of steps.entries()) {
      at = at && below.get(`${at.id} ${nameKey(step)}`);
      mayMake = at?.mayMake ?? mayMake;
      folders[steps.slice(0, index + 1).join('/')] = at ? 'there' : mayMake ? 'made' : 'refused';
    }
    if (at) homes.set(path, at.id);
  }
  const asked = files.flatMap(({ relativePath, title }, index) => {
    const home = homes.get(relativePath);
    return home === undefined ? [] : [{ placeId: home, title, index }];
  });
  const isTaken = asked.length === 0 ? () => false : await takenTitles(db(), actor, asked);
  return { folders, taken: asked.filter((each) => isTaken(each.placeId, each.title)).map((each) => each.index) };
});

/** The places below one that the caller may see, by the place they are in and their name. */
async function foldersBelow(actor: Actor, placeId: string) {
  const rows = await db()
    .select({
      id: place.id,
      parentId: place.parentId,
      nameKey: place.nameKey,
      mayMake: sql<boolean>`${placeAllows(actor, 'amend')}`,
    })
    .from(place)
    .where(and(arrayContains(place.lineage, [placeId]), placeAllows(actor, 'see')))
    .orderBy(sql`${place.position} desc`, sql`${place.id} desc`);
  return new Map(rows.map((row) => [`${row.parentId} ${row.nameKey}`, row]));
}
