import { inArray, max, sql } from 'drizzle-orm';
import type { Details } from '@/core/filing/details';
import { maxDepth } from '@/core/places/model';
import { refuse } from '@/core/errors/refusal';
import { nameKey, searchKey } from '@/core/text/fold';
import type { Actor } from '../access/actor';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { place } from '../db/schema';

/** A place to be made, in one that is there or in one of those made before it. */
export interface NewPlace {
  readonly id: string;
  readonly parentId: string;
  readonly kind: 'dossier' | 'year' | 'folder';
  readonly name: string;
  readonly reference?: string | null;
  readonly details?: Details;
  /** Its own; left out where it has its parent's. */
  readonly filingYear?: number;
  readonly meetingDay: string | null;
  readonly plannedKey: string | null;
}

const rowsAtOnce = 1000;

/**
 * Makes many places, each last in its place, in as few statements as there are thousands of them. They start with their
 * parents' scopes; what they give is worked out by whoever calls this, once for all.
 */
export async function insertPlaces(tx: Tx, actor: Actor, places: readonly NewPlace[]): Promise<void> {
  if (places.length === 0) return;
  const fresh = new Set(places.map((each) => each.id));
  const outer = [...new Set(places.map((each) => each.parentId).filter((id) => !fresh.has(id)))];
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
  const rows = places.map((each) => {
    const parent = parents.get(each.parentId);
    if (!parent) throw new Error(`The place ${each.parentId} is made after what is to stand in it`);
    if (parent.lineage.length > maxDepth)
      refuse('invalid', `Folders go ${maxDepth} steps deep at most. Nothing was made.`);
    const position = (positions.get(each.parentId) ?? 0) + 1;
    positions.set(each.parentId, position);
    const made = {
      id: each.id,
      lineage: [...parent.lineage, each.id],
      filingYear: each.filingYear ?? parent.filingYear,
      scopeId: parent.scopeId,
    };
    parents.set(each.id, made);
    return {
      ...made,
      parentId: each.parentId,
      kind: each.kind,
      reference: each.reference ?? null,
      details: each.details ?? {},
      name: each.name,
      nameKey: nameKey(each.name),
      searchKey: searchKey(`${each.reference ?? ''} ${each.name}`),
      position,
      meetingDay: each.meetingDay,
      plannedKey: each.plannedKey,
      plannedName: each.plannedKey === null ? null : each.name,
      createdAt: at,
      createdBy: actor.personId,
    };
  });
  for (let from = 0; from < rows.length; from += rowsAtOnce)
    await tx.insert(place).values(rows.slice(from, from + rowsAtOnce));
}
