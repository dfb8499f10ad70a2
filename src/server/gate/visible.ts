import { sql, type SQL } from 'drizzle-orm';
import { bitOf, has, type Capability } from '@/core/access/capability';
import { openingLets } from '@/core/access/resolve';
import { stoppedBy } from '@/core/standstill/standstill';
import { document, filing, label, person, place, scope, scopeEntry } from '../db/schema';
import { everywhere, mayEver, seesAll, type Actor, type SeenBy } from './actor';

/**
 * The one gate. Every query for places or papers has one of these conditions in its WHERE, and nothing else
 * decides what an actor may reach. Each returns SQL, never undefined: an access condition that is not there
 * would let everyone in.
 */

/** The scopes in which the actor has a capability. */
const scopesWith = (actor: Actor, capability: Capability): SQL =>
  actor.seenBy
    ? sql`(select unnest(${sql.param(shownTo(actor.seenBy, capability))}::uuid[]))`
    : sql`(select ${scopeEntry.scopeId} from ${scopeEntry}
       where ${scopeEntry.personId} = ${actor.personId} and ${scopeEntry.capabilities} & ${bitOf(capability)} <> 0)`;

/** The scopes in which the actor may see, and not only because a place that lists a paper lets its readers in. */
const scopesTelling = (actor: Actor): SQL =>
  actor.seenBy
    ? sql`(select unnest(${sql.param(shownTo(actor.seenBy, 'see').filter((id) => actor.seenBy?.byOpening.has(id) !== true))}::uuid[]))`
    : sql`(select ${scopeEntry.scopeId} from ${scopeEntry}
       where ${scopeEntry.personId} = ${actor.personId} and ${scopeEntry.capabilities} & ${bitOf('see')} <> 0
         and not ${scopeEntry.byOpening})`;

const shownTo = ({ scopes }: SeenBy, capability: Capability): string[] =>
  [...scopes].filter(([, set]) => has(set, capability)).map(([id]) => id);

/** Whether the actor has a capability in a scope, that of a place under another name for example. */
export function scopeAllows(actor: Actor, capability: Capability, scopeId: SQL): SQL {
  if (has(everywhere(actor), capability)) return sql`true`;
  return mayEver(actor, capability) ? sql`${scopeId} in ${scopesWith(actor, capability)}` : sql`false`;
}

/** Places in which the actor has a capability. */
export function placeAllows(actor: Actor, capability: Capability): SQL {
  return scopeAllows(actor, capability, sql`${place.scopeId}`);
}

/**
 * Places the actor may know of: those they may see, and the bare steps to them and to papers in use that are open to
 * them by their own sheets. All places of a scope lie beneath the scope's own place, so the steps are that place's
 * lineage. A cross-filing makes no step: who comes in by another place learns nothing of the home.
 */
export function placeIsKnown(actor: Actor): SQL {
  if (seesAll(actor)) return sql`true`;
  return sql`(${place.scopeId} in ${scopesWith(actor, 'see')} or ${place.id} in (
    select unnest(owner.lineage) from ${scope} as owned
    left join ${document} as paper on paper.id = owned.document_id and paper.disposed_at is null
    join ${place} as owner on owner.id = coalesce(owned.place_id, paper.home_id)
    where owned.id in ${scopesTelling(actor)}))`;
}

/**
 * Whether the actor may be told where a paper lives: they see it by its home or by its own sheet, and not only by a place
 * that lists it, whatever else they may know of the home. Speaks of papers joined to their homes.
 */
export function homeIsTold(actor: Actor): SQL {
  if (seesAll(actor)) return sql`true`;
  return sql`(case when ${document.scopeId} is null then ${place.scopeId} in ${scopesWith(actor, 'see')}
    else ${document.scopeId} in ${scopesTelling(actor)} end)`;
}

/** Papers for which the actor has a capability; those in the disposal tray as well. */
function documentAllows(actor: Actor, capability: Capability): SQL {
  if (has(everywhere(actor), capability)) return sql`true`;
  if (!mayEver(actor, capability)) return sql`false`;
  const places = sql`(select ${place.id} from ${place} where ${placeAllows(actor, capability)})`;
  const opened = has(openingLets, capability)
    ? sql` or ${document.id} in (
        select ${filing.documentId} from ${filing} where ${filing.kind} = 'opening' and ${filing.placeId} in ${places})`
    : sql``;
  return sql`(${document.scopeId} in ${scopesWith(actor, capability)}
    or (${document.scopeId} is null and (${document.homeId} in ${places}${opened})))`;
}

/** Places where, at this moment, a capability counts for nothing: they are closed or locked, or one above them is. */
export function placeIsStill(capability: Capability): SQL {
  return sql`exists (select from ${place} as above where above.id = any(${place.lineage}) and ${stops('above', capability)})`;
}

/** The same for papers, which can be locked themselves. */
export function paperIsStill(capability: Capability): SQL {
  const own = has(stoppedBy({ locked: true, closed: false }), capability) ? sql`${document.locked}` : sql`false`;
  return sql`(${own} or exists (select from ${place} as lying join ${place} as above on above.id = any(lying.lineage)
    where lying.id = ${document.homeId} and ${stops('above', capability)}))`;
}

function stops(alias: string, capability: Capability): SQL {
  const of = sql.raw(alias);
  const closed = has(stoppedBy({ locked: false, closed: true }), capability) ? sql`${of}.closed` : sql`false`;
  const locked = has(stoppedBy({ locked: true, closed: false }), capability) ? sql`${of}.locked` : sql`false`;
  return sql`(${closed} or ${locked})`;
}

/** Papers about which the actor may be told who else may open them: those that they manage. */
export const readersAreTold = (actor: Actor): SQL => (seesAll(actor) ? sql`true` : documentAllows(actor, 'manage'));

/** Papers in use that the actor may amend at this moment. */
export const paperMayBeAmended = (actor: Actor): SQL =>
  sql`(${paperAllows(actor, 'amend')} and not ${paperIsStill('amend')})`;

/** Papers in use for which the actor has a capability. */
export function paperAllows(actor: Actor, capability: Capability): SQL {
  return sql`(${document.disposedAt} is null and ${documentAllows(actor, capability)})`;
}

/** Papers in the disposal tray that the actor may put back. */
export function paperIsDisposed(actor: Actor): SQL {
  return sql`(${document.disposedAt} is not null and ${documentAllows(actor, 'amend')})`;
}

/** People whom the actor may come across as colleagues: all who have an account, or for someone outside, themselves. */
export const colleagueIsKnown = (actor: Actor): SQL =>
  sql`(${person.id} = ${actor.personId}::uuid or not exists (
    select from ${person} as asking where asking.id = ${actor.personId}::uuid and asking.outside))`;

/** Labels that exist for an actor: the library's, and their own. */
export const labelIsKnown = (actor: Actor): SQL =>
  sql`(${label.ownerId} is null or ${label.ownerId} = ${ownOf(actor)}::uuid)`;

/** Whose private things an actor has: who looks as another would is shown none of theirs. */
export const ownOf = (actor: Actor): string | null => (actor.seenBy ? null : actor.personId);
