import { and, sql } from 'drizzle-orm';
import { db } from '../db/client';
import { place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { placeAllows } from '../gate/visible';
import { expectedOf } from './slots';

/**
 * Where a paper of a meeting goes, and with which values: where the filing plan expects one that is called so, else into the
 * meeting's folder, else into the dossier. `paper`: the one that the plan takes for it already.
 * @param called matches the name of the expected paper
 */
export async function expectedHome(actor: Actor, dossierId: string, meetingId: string, called: RegExp) {
  const { slots } = await expectedOf(actor, { dossierId });
  const slot = slots.find((each) => each.meetingId === meetingId && called.test(each.name));
  const [folder] = await db()
    .select({ id: place.id })
    .from(place)
    .where(
      and(
        sql`${place.lineage} @> array[${dossierId}::uuid]`,
        sql`${place.plannedKey} like ${`% ${meetingId}`}`,
        placeAllows(actor, 'see'),
      ),
    )
    .orderBy(sql`array_length(${place.lineage}, 1)`)
    .limit(1);
  return {
    placeId: slot?.place?.id ?? folder?.id ?? dossierId,
    values: slot?.values ?? {},
    paper: slot?.paper ?? null,
  };
}
