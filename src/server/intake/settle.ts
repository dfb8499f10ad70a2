import { eq } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import type { Tx } from '../db/client';
import { arrival } from '../db/schema';

/** An arrival as it is stored. */
export type Arrival = typeof arrival.$inferSelect;

/** Refuses what somebody has seen to, or changed, since it was looked at. */
export function requireWaiting({ state, revision }: Arrival, seen: number): void {
  if (state !== 'waiting') refuse('conflict', 'Somebody has seen to this meanwhile. Nothing was done twice.');
  if (revision !== seen) refuse('conflict', 'This was changed meanwhile. Load it again.');
}

/** Notes what became of an arrival whose row is locked. */
export const settle = (tx: Tx, { id, revision }: Arrival, set: Partial<Arrival>) =>
  tx
    .update(arrival)
    .set({ ...set, revision: revision + 1 })
    .where(eq(arrival.id, id));
