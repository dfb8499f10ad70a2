import { sql, type SQL } from 'drizzle-orm';
import { bitOf, type Capability } from '@/core/access/capability';
import { document, label, place, scope, scopeEntry } from '../db/schema';
import type { Actor } from './actor';

/**
 * The one gate. Every query for places or papers has one of these conditions in its WHERE, and nothing else
 * decides what an actor may reach. Each returns SQL, never undefined: an access condition that is not there
 * would let everyone in.
 */

/** The scopes in which the actor has a capability. */
const scopesWith = (actor: Actor, capability: Capability): SQL =>
  sql`(select ${scopeEntry.scopeId} from ${scopeEntry}
       where ${scopeEntry.personId} = ${actor.personId} and ${scopeEntry.capabilities} & ${bitOf(capability)} <> 0)`;

/** Places in which the actor has a capability. */
export function placeAllows(actor: Actor, capability: Capability): SQL {
  return actor.keeper ? sql`true` : sql`${place.scopeId} in ${scopesWith(actor, capability)}`;
}

/**
 * Places the actor may know of: those they may see, and the bare steps to them. All places of a scope lie
 * beneath the scope's own place, so the steps are that place's lineage.
 */
export function placeIsKnown(actor: Actor): SQL {
  if (actor.keeper) return sql`true`;
  const scopes = scopesWith(actor, 'see');
  return sql`(${place.scopeId} in ${scopes} or ${place.id} in (
    select unnest(owner.lineage) from ${scope} as owned
    join ${place} as owner on owner.id = owned.place_id
    where owned.id in ${scopes}))`;
}

/** Papers for which the actor has a capability, through their home; those in the disposal tray as well. */
function documentAllows(actor: Actor, capability: Capability): SQL {
  if (actor.keeper) return sql`true`;
  return sql`${document.homeId} in (select ${place.id} from ${place} where ${placeAllows(actor, capability)})`;
}

/** Papers in use for which the actor has a capability. */
export function paperAllows(actor: Actor, capability: Capability): SQL {
  return sql`(${document.disposedAt} is null and ${documentAllows(actor, capability)})`;
}

/** Papers in the disposal tray that the actor may put back. */
export function paperIsDisposed(actor: Actor): SQL {
  return sql`(${document.disposedAt} is not null and ${documentAllows(actor, 'amend')})`;
}

/** Labels that exist for an actor: the library's, and their own. */
export const labelIsKnown = (actor: Actor): SQL =>
  sql`(${label.ownerId} is null or ${label.ownerId} = ${actor.personId})`;
