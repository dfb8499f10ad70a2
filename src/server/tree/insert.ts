import { max } from 'drizzle-orm';
import type { Details } from '@/core/dossiers/details';
import { maxDepth, mayHold, type PlaceKind } from '@/core/tree/placeKind';
import { refuse } from '@/core/errors/refusal';
import { nameKey, searchKey } from '@/core/text/fold';
import type { Actor } from '../gate/actor';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { place } from '../db/schema';
import { requireFreeNames } from './names';

/** A place to make, in an existing place or in one listed before it. */
export interface NewPlace {
  readonly id: string;
  readonly parentId: string;
  readonly kind: Exclude<PlaceKind, 'library'>;
  readonly name: string;
  readonly reference?: string | null;
  readonly referencePattern?: string | null;
  readonly details?: Details;
  /** Left out if it has its parent's. */
  readonly filingYear?: number | null;
  readonly meetingDay?: string | null;
  readonly plannedKey?: string | null;
  /** For a common folder. */
  readonly seenIn?: string | null;
}

const rowsAtOnce = 1000;

/**
 * Inserts places, each at the end of its parent, a thousand per statement. They start with their parents' scopes and
 * lineages, which are read here under a lock on each parent, since what the caller read may be out of date. `makePlaces`,
 * the only caller, computes what they give.
 */
export async function insertPlaces(tx: Tx, actor: Actor, places: readonly NewPlace[]): Promise<void> {
  if (places.length === 0) return;
  const fresh = new Set(places.map((each) => each.id));
  const outer = [...new Set(places.map((each) => each.parentId).filter((id) => !fresh.has(id)))];
  // Locked until the commit, so that siblings made concurrently get distinct positions and names.
  const held = await tx
    .select({
      id: place.id,
      kind: place.kind,
      lineage: place.lineage,
      filingYear: place.filingYear,
      scopeId: place.scopeId,
    })
    .from(place)
    .where(idIn(place.id, outer))
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
    .where(idIn(place.parentId, outer))
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
