import { sql } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import { movedBefore } from '@/core/order/movedBefore';
import { refuse } from '@/core/errors/refusal';
import type { Tx } from './client';

type Ordered = PgTable & { readonly id: PgColumn; readonly position: PgColumn };

/**
 * Moves one row of a short list before another (null: to the end), and numbers the list anew from 1. Its rows were locked,
 * or a row that all who change the list lock.
 * @param ids the whole list in its order.
 * @throws Refusal `conflict` if the other is not in the list any more.
 */
export async function reorder(
  tx: Tx,
  table: Ordered,
  ids: readonly string[],
  movedId: string,
  beforeId: string | null,
): Promise<void> {
  if (beforeId !== null && !ids.includes(beforeId)) refuse('conflict');
  const order = movedBefore(ids, movedId, beforeId);
  await setPositions(
    tx,
    table,
    order.map((id, at) => [id, at + 1]),
  );
}

/** Stores positions by id, in one statement. */
export async function setPositions(
  tx: Tx,
  table: Ordered,
  positions: readonly (readonly [id: string, position: number])[],
): Promise<void> {
  await tx.execute(sql`
    update ${table} set position = placed.position
    from unnest(${sql.param(positions.map(([id]) => id))}::uuid[], ${sql.param(positions.map(([, at]) => at))}::float8[])
      as placed (id, position)
    where ${table.id} = placed.id`);
}
