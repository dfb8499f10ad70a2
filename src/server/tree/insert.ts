import { max, sql } from 'drizzle-orm';
import type { Details } from '@/core/dossiers/details';
import { maxDepth, mayHold, type PlaceKind } from '@/core/tree/placeKind';
import { refuse } from '@/core/errors/refusal';
import { nameKey, searchKey } from '@/core/text/fold';
import type { Actor } from '../gate/actor';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { place } from '../db/schema';
import { requireFreeNames } from './names';

/** A place to be made, in one that is there or in one of those made before it. */
export interface NewPlace {
  readonly id: string;
  readonly parentId: string;
  readonly kind: Exclude<PlaceKind, 'library'>;
  readonly name: string;
  readonly reference?: string | null;
  readonly referencePattern?: string | null;
  readonly details?: Details;
  /** Its own; left out where it has its parent's. */
  readonly filingYear?: number | null;
  readonly meetingDay?: string | null;
  readonly plannedKey?: string | null;
  /** Of a common folder. */
  readonly seenIn?: string | null;
}

const rowsAtOnce = 1000;

/**
 * Makes places, each last in its place, in as few statements as there are thousands of them. They start with their parents'
 * scopes and ways, which are read here, under a lock on each parent: whatever the caller read of them before may be old. What
 * the new places give is worked out by `makePlaces`, the one caller.
 */
export async function insertPlaces(tx: Tx, actor: Actor, places: readonly NewPlace[]): Promise<void> {
  if (places.length === 0) return;
  const fresh = new Set(places.map((each) => each.id));
  const outer = [...new Set(places.map((each) => each.parentId).filter((id) => !fresh.has(id)))];
  // Held until the end: siblings made at once get one order, and see each other's names.
  const held = await tx
    .select({
      id: place.id,
      kind: place.kind,
      lineage: place.lineage,
      filingYear: place.filingYear,
      scopeId: place.scopeId,
    })
    .from(place)
    .where(sql`${place.id} = any(${sql.param(outer)}::uuid[])`)
    .orderBy(place.id)
    .for('no key update');
  if (held.length < outer.length) refuse('conflict', 'The place was removed meanwhile. Nothing was made.');
  const parents = new Map(held.map((row) => [row.id, { ...row, kind: row.kind }]));
  await requireFreeNames(
    tx,
    actor,
    places.filter((each) => !fresh.has(each.parentId)),
  );
  const lasts = await tx
    .select({ parentId: place.parentId, position: max(place.position) })
    .from(place)
    .where(sql`${place.parentId} = any(${sql.param(outer)}::uuid[])`)
    .groupBy(place.parentId);
  const positions = new Map(lasts.map((row) => [row.parentId ?? '', row.position ?? 0]));
  const at = now();
  const rows = places.map((each) => {
    const parent = parents.get(each.parentId);
    if (!parent) throw new Error(`The place ${each.parentId} is made after what is to stand in it`);
    if (!mayHold(parent.kind, each.kind)) refuse('invalid', `A ${each.kind} cannot stand in a ${parent.kind}.`);
    if (parent.lineage.length > maxDepth)
      refuse('invalid', `Folders go ${maxDepth} steps deep at most. Nothing was made.`);
    const position = (positions.get(each.parentId) ?? 0) + 1;
    positions.set(each.parentId, position);
    const made = {
      id: each.id,
      kind: each.kind,
      lineage: [...parent.lineage, each.id],
      filingYear: each.filingYear ?? parent.filingYear,
      scopeId: parent.scopeId,
    };
    parents.set(each.id, made);
    const plannedKey = each.plannedKey ?? null;
    return {
      ...made,
      parentId: each.parentId,
      reference: each.reference ?? null,
      referencePattern: each.referencePattern ?? null,
      details: each.details ?? {},
      name: each.name,
      nameKey: nameKey(each.name),
      searchKey: searchKey(`${each.reference ?? ''} ${each.name}`),
      position,
      meetingDay: each.meetingDay ?? null,
      plannedKey,
      plannedName: plannedKey === null ? null : each.name,
      seenIn: each.seenIn ?? null,
      createdAt: at,
      createdBy: actor.personId,
    };
  });
  for (let from = 0; from < rows.length; from += rowsAtOnce)
    await tx.insert(place).values(rows.slice(from, from + rowsAtOnce));
}
