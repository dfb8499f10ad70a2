import { arrayContains, eq, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { mayHold } from '@/core/tree/placeKind';
import type { MoveForecast } from '@/core/places/contract';
import { acts, asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { impactOf } from '../access/forecast';
import { recomputeScopes } from '../scopes/scopes';
import { partBelow } from '../scopes/parts';
import { paperAllows } from '../gate/visible';
import { forecastPlaceMove, recomputeGiven } from '../columns/given';
import type { Tx } from '../db/client';
import { document, place } from '../db/schema';
import { snapshot } from '../db/transaction';
import { movePlaceRows } from '../tree/move';
import { requireFreeNames } from '../tree/names';

/** A place and its new parent; refuses if the caller may not move the one into the other. */
async function movable(tx: Tx, actor: Actor, placeId: string, toId: string) {
  const moved = await placeFor(tx, actor, placeId, 'manage');
  const target = await placeFor(tx, actor, toId, 'manage');
  if (target.lineage.includes(moved.id)) refuse('into-itself');
  if (moved.kind === 'year' || !mayHold(target.kind, moved.kind)) {
    refuse('invalid', `A ${moved.kind} cannot stand in a ${target.kind}. Nothing was moved.`);
  }
  if (moved.parentId === null) refuse('invalid', 'The library itself cannot be moved.');
  return { moved, target, parentId: moved.parentId };
}

/** The same for a plain move, which common folders cannot make: they stay with their series. */
async function freelyMovable(tx: Tx, actor: Actor, placeId: string, toId: string) {
  const found = await movable(tx, actor, placeId, toId);
  if (found.moved.seenIn !== null)
    refuse(
      'invalid',
      `“${found.moved.name}” is common to all dossiers of its series. Make it one dossier’s only first.`,
    );
  return found;
}

/** Moves a place with everything below it, in one act. */
export const movePlace = acts('place.move', ['tree', 'access', 'given'], async (tx, actor, input) => {
  const { moved, target, parentId } = await freelyMovable(tx, actor, input.placeId, input.toId);
  const [from] = await tx.select({ name: place.name }).from(place).where(eq(place.id, parentId));
  if (parentId === target.id) return { entry: null, result: { fromId: parentId } };
  await putInto(tx, actor, moved, target);
  const detail = { name: moved.name, from: { id: parentId, name: from?.name ?? '' }, to: target };
  return {
    entry: { act: 'place.moved', subjects: [moved.id, parentId, target.id], detail },
    result: { fromId: parentId },
  };
});

type Place = Awaited<ReturnType<typeof placeFor>>;

/** Moves a place with everything below it to the end of another, and recomputes everything derived from its position. */
export async function putInto(tx: Tx, actor: Actor, moved: Place, target: Place): Promise<void> {
  await requireFreeNames(tx, actor, [{ parentId: target.id, name: moved.name }], moved.id);
  await movePlaceRows(tx, moved.id, target.id);
  await recomputeScopes(tx, moved.id);
  await recomputeGiven(tx, moved.id);
}

/** Who would lose and gain access by a move of a place, and how many papers it would move. */
export const forecastMove = asks('place.moveForecast', async (actor, input) => {
  return snapshot(async (tx) => {
    const { moved, target } = await freelyMovable(tx, actor, input.placeId, input.toId);
    return forecastInto(tx, actor, moved.id, target.id);
  });
});

/** The same for a move that has been checked. */
export async function forecastInto(tx: Tx, actor: Actor, placeId: string, toId: string): Promise<MoveForecast> {
  const [papers] = await tx
    .select({ count: sql<number>`count(*)::int` })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(sql`${paperAllows(actor, 'see')} and ${arrayContains(place.lineage, [placeId])}`);
  return {
    paperCount: papers?.count ?? 0,
    impact: await impactOf(tx, actor, await partBelow(tx, placeId), { kind: 'placeMove', placeId, toId }),
    values: (await forecastPlaceMove(tx, placeId, toId)).columns,
  };
}
