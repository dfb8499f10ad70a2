import { and, eq, inArray, or, sql, type SQL } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { refuse } from '@/core/errors/refusal';
import type { Tx } from '../db/client';
import { arrival, place } from '../db/schema';
import { everywhere, type Actor } from '../gate/actor';
import { placeAllows } from '../gate/visible';

/**
 * Arrivals that the caller may check: those that most likely go where they may add papers, what they are asked about, and what they
 * put in themselves, as long as it is not filed; for keepers all. For queries that left join `place` to `arrival.dossierId`.
 */
export const arrivalIsTheirs = (actor: Actor): SQL =>
  has(everywhere(actor), 'add')
    ? sql`true`
    : (or(
        and(sql`${arrival.dossierId} is not null`, placeAllows(actor, 'add')),
        and(eq(arrival.askedOf, actor.personId), eq(arrival.state, 'waiting')),
        and(eq(arrival.broughtBy, actor.personId), inArray(arrival.state, ['unread', 'waiting', 'cut', 'joined'])),
      ) as SQL);

/** An arrival that the caller may check, locked: of two who check it at once the second sees what the first has done. */
export async function arrivalFor(tx: Tx, actor: Actor, arrivalId: string) {
  const [found] = await tx.select().from(arrival).where(eq(arrival.id, arrivalId)).for('update');
  if (!found) refuse('not-found');
  const [theirs] = await tx
    .select({ id: arrival.id })
    .from(arrival)
    .leftJoin(place, eq(place.id, arrival.dossierId))
    .where(and(eq(arrival.id, arrivalId), arrivalIsTheirs(actor)));
  // What is about to be taken apart or joined was seen, and can still be had back.
  const isSeen = found.state !== 'unread' || found.cut !== null || found.joins !== null;
  if (!theirs || !isSeen || found.state === 'again') refuse('not-found');
  return found;
}
