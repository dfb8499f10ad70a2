import { sql, type SQL } from 'drizzle-orm';
import { membership, view, viewGroup } from '../db/schema';
import type { Actor } from '../gate/actor';
import { ownOf } from '../gate/visible';

/** Views offered to the caller: their own, those of their groups, and those for everyone. */
export const viewIsFor = (actor: Actor): SQL => sql`(${view.ownerId} = ${ownOf(actor)}::uuid or ${view.audience} = 'all'
  or (${view.audience} = 'groups' and exists (
    select from ${viewGroup} join ${membership} on ${membership.groupId} = ${viewGroup.groupId}
    where ${viewGroup.viewId} = ${view.id} and ${membership.personId} = ${actor.personId})))`;
