import { and, eq, sql } from 'drizzle-orm';
import { actsInSteps } from '../acts/operation';
import { placeIsKnown } from '../gate/visible';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { place } from '../db/schema';
import { refuse } from '@/core/errors/refusal';

/** Returning within this time counts as the same visit. */
const sameLook = '30 minutes';

/**
 * Records a visit to a place, for the condition "since I last looked". Has no journal entry: what people read is private.
 */
export const lookAtPlace = actsInSteps('place.look', async (actor, { placeId }) => {
  const [known] = await db()
    .select({ id: place.id })
    .from(place)
    .where(and(eq(place.id, placeId), placeIsKnown(actor)));
  if (!known) refuse('not-found');
  const at = now().toISOString();
  await writableDb().execute(sql`
    insert into look (person_id, place_id, at) values (${actor.personId}, ${placeId}, ${at}::timestamptz)
    on conflict (person_id, place_id) do update
    set before = case when look.at < excluded.at - ${sameLook}::interval then look.at else look.before end, at = excluded.at`);
  return null;
});
