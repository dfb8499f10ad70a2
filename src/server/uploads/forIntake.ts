import { refuse } from '@/core/errors/refusal';
import { db } from '../db/client';
import { place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { placeAllows } from '../gate/visible';

/** Whether somebody may put something into the intake: whoever may add papers somewhere. */
export async function mayPutIn(actor: Actor): Promise<boolean> {
  const found = await db().select({ id: place.id }).from(place).where(placeAllows(actor, 'add')).limit(1);
  return found.length > 0;
}

/** Refuses who may not put anything into the intake. */
export async function requireMayPutIn(actor: Actor): Promise<void> {
  if (!(await mayPutIn(actor)))
    refuse('not-allowed', 'Whoever may add papers somewhere puts something into the intake.');
}
