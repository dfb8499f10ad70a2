import { and, eq, sql } from 'drizzle-orm';
import type { Actor } from '../gate/actor';
import { placeIsKnown } from '../gate/visible';
import { now } from '../base/clock';
import { db } from '../db/client';
import { place } from '../db/schema';
import { refuse } from '@/core/errors/refusal';

/** Returning within this time counts as the same visit. */
const sameLook = '30 minutes';

/**
 * Records a visit to a place, for the condition "since I last looked". Has no journal entry: what people read is private.
 */
export async function lookAtPlace(actor: Actor, { placeId }: { placeId: string }): Promise<null> {
  const [known] = await db()
    .select({ id: place.id })
    .from(place)
    .where(and(eq(place.id, placeId), placeIsKnown(actor)));
  if (!known) refuse('not-found');
  // Impersonating someone does not count as their visit.
  if (actor.seenBy) return null;
  const at = now().toISOString();
  await db().execute(sql`
    insert into look (person_id, place_id, at) values (${actor.personId}, ${placeId}, ${at}::timestamptz)
    on conflict (person_id, place_id) do update
    set before = case when look.at < excluded.at - ${sameLook}::interval then look.at else look.before end, at = excluded.at`);
  return null;
}
