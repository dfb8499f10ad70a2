import { dossierOf } from '../db/lineage';
import { eq, sql } from 'drizzle-orm';
import type { WantedFolder } from '@/core/plans/expand';
import { freeTitle } from '@/core/files/title';
import { nameKey, searchKey } from '@/core/text/fold';
import type { Actor } from '../gate/actor';
import { recomputeScopes } from '../scopes/scopes';
import { placeIsKnown } from '../gate/visible';
import { recomputeGiven } from '../columns/given';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { place } from '../db/schema';
import { makePlaces } from '../places/make';
import type { NewPlace } from '../tree/insert';
import { movePlaceRows } from '../tree/move';
import type { Arranged } from './read';

/**
 * Makes dossiers agree with their plan: frees names and removes empty folders, then moves and renames folders, then makes
 * missing ones. `rootId` is a place above all of them.
 */
export async function applyPlan(tx: Tx, actor: Actor, rootId: string, arranged: readonly Arranged[]): Promise<void> {
  const removed = arranged.flatMap(({ difference }) => difference.remove.map((folder) => folder.id));
  // Some still contain a folder that the plan moves elsewhere: those go after the moves.
  const waiting = await removeEmpty(tx, removed);
  const leaving = arranged.flatMap(({ difference }) => difference.leave.map((folder) => folder.id));
  if (leaving.length > 0)
    await tx.update(place).set({ plannedKey: null, plannedName: null }).where(idIn(place.id, leaving));
  const added: NewPlace[] = [];
  let moved = false;
  for (const dossier of arranged) {
    const { difference } = dossier;
    if (difference.adopt.length + difference.rename.length + difference.move.length + difference.add.length === 0)
      continue;
    const names = await namesBeside(tx, actor, dossier.id, waiting);
    const ids = new Map(
      (
        await tx
          .select({ id: place.id, key: place.plannedKey })
          .from(place)
          .where(sql`${dossierOf(place.lineage)} = ${dossier.id}::uuid and ${place.plannedKey} is not null`)
      ).map((row) => [row.key ?? '', row.id]),
    );
    for (const { id, wanted } of difference.adopt) {
      ids.set(wanted.key, id);
      await tx
        .update(place)
        .set({ plannedKey: wanted.key, plannedName: sql`${place.name}`, meetingDay: wanted.meetingDay })
        .where(eq(place.id, id));
    }
    const parentOf = (wanted: WantedFolder): string => {
      const parent =
        wanted.parentKey !== null
          ? ids.get(wanted.parentKey)
          : wanted.startYear === null
            ? dossier.id
            : dossier.yearPlaces.get(wanted.startYear);
      if (parent === undefined) throw new Error(`The plan has ${wanted.name} in what is not there`);
      return parent;
    };
    // A folder that moves takes its new name when it moves.
    const going = new Set(difference.move.map((each) => each.id));
    for (const { id, from, wanted } of difference.rename.filter((each) => !going.has(each.id))) {
      const beside = names.get(parentOf(wanted)) ?? new Set<string>();
      beside.delete(nameKey(from));
      const name = freeTitle(wanted.name, beside, nameKey);
      names.set(parentOf(wanted), beside.add(nameKey(name)));
      await tx
        .update(place)
        .set({
          name,
          nameKey: nameKey(name),
          searchKey: searchKey(name),
          plannedName: name,
          meetingDay: wanted.meetingDay,
          revision: sql`${place.revision} + 1`,
        })
        .where(eq(place.id, id));
    }
    const renamed = new Set(difference.rename.map((each) => each.id));
    for (const { id, name, wanted } of difference.move) {
      moved = true;
      const planned = renamed.has(id) ? wanted : null;
      await movePlanned(tx, id, parentOf(wanted), names, planned?.name ?? name, planned);
    }
    for (const wanted of difference.add) {
      const parentId = parentOf(wanted);
      const beside = names.get(parentId) ?? new Set<string>();
      const name = freeTitle(wanted.name, beside, nameKey);
      names.set(parentId, beside.add(nameKey(name)));
      const id = crypto.randomUUID();
      ids.set(wanted.key, id);
      added.push({ id, parentId, kind: 'folder', name, meetingDay: wanted.meetingDay, plannedKey: wanted.key });
    }
  }
  if ((await removeEmpty(tx, waiting)).length > 0) throw new Error('An empty folder of the plan could not be removed');
  await makePlaces(tx, actor, added);
  if (moved) await recomputeScopes(tx, rootId);
  await recomputeGiven(tx, rootId);
}

/** Removes folders that contain no others, innermost first; returns those that still contain something. */
export async function removeEmpty(tx: Tx, ids: readonly string[]): Promise<readonly string[]> {
  let left = ids;
  while (left.length > 0) {
    const gone = await tx
      .delete(place)
      .where(
        sql`${idIn(place.id, left)} and not exists (select from ${place} as inner_place where inner_place.parent_id = ${place.id})`,
      )
      .returning({ id: place.id });
    if (gone.length === 0) break;
    const done = new Set(gone.map((row) => row.id));
    left = left.filter((id) => !done.has(id));
  }
  return left;
}

/** The names in use in each place of a dossier, as far as the caller may know of them; without folders about to go. */
async function namesBeside(
  tx: Tx,
  actor: Actor,
  dossierId: string,
  going: readonly string[],
): Promise<Map<string, Set<string>>> {
  const rows = await tx
    .select({ parentId: place.parentId, key: place.nameKey })
    .from(place)
    .where(
      sql`${dossierOf(place.lineage)} = ${dossierId}::uuid and ${place.id} <> ${dossierId}::uuid
        and ${place.id} <> all(${sql.param([...going])}::uuid[]) and ${placeIsKnown(actor)}`,
    );
  const names = new Map<string, Set<string>>();
  for (const { parentId, key } of rows) names.set(parentId ?? '', (names.get(parentId ?? '') ?? new Set()).add(key));
  return names;
}

/** Moves a folder with everything below it, under a free name. `planned`: its plan entry, if its name comes from the plan. */
async function movePlanned(
  tx: Tx,
  id: string,
  parentId: string,
  names: Map<string, Set<string>>,
  name: string,
  planned: WantedFolder | null,
): Promise<void> {
  const [folder] = await tx.select({ name: place.name }).from(place).where(eq(place.id, id));
  if (!folder) throw new Error('A folder of the plan is not where it was');
  const beside = names.get(parentId) ?? new Set<string>();
  const free = freeTitle(name, beside, nameKey);
  names.set(parentId, beside.add(nameKey(free)));
  await movePlaceRows(tx, id, parentId);
  await tx
    .update(place)
    .set({
      name: free,
      nameKey: nameKey(free),
      searchKey: searchKey(free),
      ...(free === folder.name ? {} : { plannedName: free }),
      ...(planned ? { meetingDay: planned.meetingDay } : {}),
    })
    .where(eq(place.id, id));
}
