import { and, eq, sql } from 'drizzle-orm';
import type { Actor } from '../gate/actor';
import { placeIsKnown } from '../gate/visible';
import { now } from '../base/clock';
import { db } from '../db/client';
import { place } from '../db/schema';
import { refuse } from '@/core/errors/refusal';

/** Who comes back within this time is still having the same look. */
const sameLook = '30 minutes';

/**
 * Notes that someone looks at a place, so that "since I last looked" speaks of the time before. It changes nothing of
 * the library and stands in no journal: what a person reads is their own business.
 */
export async function lookAtPlace(actor: Actor, { placeId }: { placeId: string }): Promise<null> {
  const [known] = await db()
    .select({ id: place.id })
    .from(place)
    .where(and(eq(place.id, placeId), placeIsKnown(actor)));
  if (!known) refuse('not-found');
  // Another's looks are not spent by who looks in their stead.
  if (actor.seenBy) return null;
  const at = now().toISOString();
  await db().execute(sql`
    insert into look (person_id, place_id, at) values (${actor.personId}, ${placeId}, ${at}::timestamptz)
    on conflict (person_id, place_id) do update
    set before = case when look.at < excluded.at - ${sameLook}::interval then look.at else look.before end, at = excluded.at`);
  return null;
}
