import { inArray, max, sql } from 'drizzle-orm';
import { maxDepth } from '@/core/places/model';
import { refuse } from '@/core/errors/refusal';
import { nameKey, searchKey } from '@/core/text/fold';
import type { Actor } from '../access/actor';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { place } from '../db/schema';

/** A folder to be made, in a place that is there or in one of those made before it. */
export interface NewFolder {
  readonly id: string;
  readonly parentId: string;
  readonly name: string;
  readonly meetingDay: string | null;
  readonly plannedKey: string | null;
}

const rowsAtOnce = 1000;

/**
 * Makes many folders, each last in its place, in as few statements as there are thousands of them. They start with their
 * parents' scopes; what they give is worked out by whoever calls this, once for all.
 */
export async function insertFolders(tx: Tx, actor: Actor, folders: readonly NewFolder[]): Promise<void> {
  if (folders.length === 0) return;
  const fresh = new Set(folders.map((folder) => folder.id));
  const outer = [...new Set(folders.map((folder) => folder.parentId).filter((id) => !fresh.has(id)))];
  const parents = new Map(
    (
      await tx
        .select({ id: place.id, lineage: place.lineage, filingYear: place.filingYear, scopeId: place.scopeId })
        .from(place)
        .where(sql`${place.id} = any(${sql.param(outer)}::uuid[])`)
    ).map((row) => [row.id, row]),
  );
  const lasts = await tx
    .select({ parentId: place.parentId, position: max(place.position) })
    .from(place)
    .where(inArray(place.parentId, outer.length === 0 ? [actor.personId] : outer))
    .groupBy(place.parentId);
  const positions = new Map(lasts.map((row) => [row.parentId ?? '', row.position ?? 0]));
  const at = now();
  const rows = folders.map((folder) => {
    const parent = parents.get(folder.parentId);
    if (!parent) throw new Error(`The place ${folder.parentId} is made after what is to stand in it`);
    if (parent.lineage.length > maxDepth)
      refuse('invalid', `Folders go ${maxDepth} steps deep at most. Nothing was made.`);
    const position = (positions.get(folder.parentId) ?? 0) + 1;
    positions.set(folder.parentId, position);
    const made = {
      id: folder.id,
      lineage: [...parent.lineage, folder.id],
      filingYear: parent.filingYear,
      scopeId: parent.scopeId,
    };
    parents.set(folder.id, made);
    return {
      ...made,
      parentId: folder.parentId,
      kind: 'folder' as const,
      name: folder.name,
      nameKey: nameKey(folder.name),
      searchKey: searchKey(folder.name),
      position,
      meetingDay: folder.meetingDay,
      plannedKey: folder.plannedKey,
      plannedName: folder.plannedKey === null ? null : folder.name,
      createdAt: at,
      createdBy: actor.personId,
    };
  });
  for (let from = 0; from < rows.length; from += rowsAtOnce)
    await tx.insert(place).values(rows.slice(from, from + rowsAtOnce));
}
