import { arrayContains, eq, max, sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import { refuse } from '@/core/errors/refusal';
import { maxDepth, mayHold } from '@/core/places/model';
import type { MoveForecast } from '@/core/places/contract';
import { perform } from '../act';
import type { Actor } from '../access/actor';
import { placeFor } from '../access/held';
import { impactOf } from '../access/forecast';
import { partBelow, recomputeScopes } from '../access/scopes';
import { paperAllows } from '../access/visible';
import { forecastPlaceMove, recomputeGiven } from '../columns/given';
import { db, type Tx } from '../db/client';
import { document, place } from '../db/schema';

/** The place and its new parent, where the actor may move the one into the other. */
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

/** The same, for a move by itself: a common folder stays with its series. */
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
export async function movePlace(actor: Actor, input: ReadInputOf<'place.move'>): Promise<{ fromId: string }> {
  return perform(actor, async (tx) => {
    await oneMoveAtATime(tx);
    const { moved, target, parentId } = await freelyMovable(tx, actor, input.placeId, input.toId);
    const [from] = await tx.select({ name: place.name }).from(place).where(eq(place.id, parentId));
    if (parentId === target.id) return { entry: null, result: { fromId: parentId } };
    await putInto(tx, moved, target);
    const detail = { name: moved.name, from: from?.name ?? '', to: target.name, fromId: parentId, toId: target.id };
    return {
      entry: { act: 'place.moved', subjects: [moved.id, parentId, target.id], detail },
      result: { fromId: parentId },
    };
  });
}

/** Two crossing moves could otherwise each put the other's target below itself. */
export const oneMoveAtATime = (tx: Tx) => tx.execute(sql`select pg_advisory_xact_lock(7301003)`);

type Place = Awaited<ReturnType<typeof placeFor>>;

/** Puts a place, with everything below it, last in another. */
export async function putInto(tx: Tx, moved: Place, target: Place): Promise<void> {
  const [deepest] = await tx
    .select({ depth: sql<number>`max(array_length(${place.lineage}, 1))` })
    .from(place)
    .where(arrayContains(place.lineage, [moved.id]));
  const shift = target.lineage.length + 1 - moved.lineage.length;
  if ((deepest?.depth ?? 0) + shift > maxDepth + 1) {
    refuse('invalid', `Folders go ${maxDepth} steps deep at most. Nothing was moved.`);
  }
  const [last] = await tx
    .select({ position: max(place.position) })
    .from(place)
    .where(eq(place.parentId, target.id));
  await tx
    .update(place)
    .set({ parentId: target.id, position: (last?.position ?? 0) + 1, revision: moved.revision + 1 })
    .where(eq(place.id, moved.id));
  // A dossier keeps its years; a folder and all below it belong to the year, if any, that it now stands in.
  const year = moved.kind === 'dossier' ? sql`${place.filingYear}` : sql`${target.filingYear}::integer`;
  await tx.execute(sql`
    update ${place}
    set lineage = ${sql.param(target.lineage)}::uuid[] || ${place.lineage}[${sql.raw(String(moved.lineage.length))}:],
        filing_year = ${year}
    where ${arrayContains(place.lineage, [moved.id])}`);
  await recomputeScopes(tx, moved.id);
  await recomputeGiven(tx, moved.id);
}

/** Who would lose and gain sight of a place by its move, and how many papers go with it. */
export async function forecastMove(actor: Actor, input: ReadInputOf<'place.moveForecast'>): Promise<MoveForecast> {
  return db().transaction(async (tx) => {
    const { moved, target } = await freelyMovable(tx, actor, input.placeId, input.toId);
    return forecastInto(tx, actor, moved.id, target.id);
  });
}

/** The same, for a move that is known to be allowed. */
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
