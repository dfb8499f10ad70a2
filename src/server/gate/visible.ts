import { sql, type SQL } from 'drizzle-orm';
import { bitOf, has, type Capability } from '@/core/access/capability';
import { openingLets } from '@/core/access/resolve';
import { stoppedBy } from '@/core/standstill/standstill';
import { document, filing, label, person, place, scope, scopeEntry } from '../db/schema';
import { everywhere, mayEver, seesAll, type Actor, type SeenBy } from './actor';

/**
 * The gate. Every query for places or papers has one of these conditions in its WHERE; nothing else decides what a caller
 * may reach. Each returns SQL, never undefined: a missing condition would let everyone in.
 */

/** Scopes in which the caller has a capability. */
const scopesWith = (actor: Actor, capability: Capability): SQL =>
  actor.seenBy
    ? sql`(select unnest(${sql.param(shownTo(actor.seenBy, capability))}::uuid[]))`
    : sql`(select ${scopeEntry.scopeId} from ${scopeEntry}
       where ${scopeEntry.personId} = ${actor.personId} and ${scopeEntry.capabilities} & ${bitOf(capability)} <> 0)`;

/** Scopes that the caller may see other than through a cross-filing's place. */
const scopesTelling = (actor: Actor): SQL =>
  actor.seenBy
    ? sql`(select unnest(${sql.param(shownTo(actor.seenBy, 'see').filter((id) => actor.seenBy?.byOpening.has(id) !== true))}::uuid[]))`
    : sql`(select ${scopeEntry.scopeId} from ${scopeEntry}
       where ${scopeEntry.personId} = ${actor.personId} and ${scopeEntry.capabilities} & ${bitOf('see')} <> 0
         and not ${scopeEntry.byOpening})`;

const shownTo = ({ scopes }: SeenBy, capability: Capability): string[] =>
  [...scopes].filter(([, set]) => has(set, capability)).map(([id]) => id);

/** Whether the caller has a capability in a scope given as SQL: that of a joined place, for instance. */
export function scopeAllows(actor: Actor, capability: Capability, scopeId: SQL): SQL {
  if (has(everywhere(actor), capability)) return sql`true`;
  return mayEver(actor, capability) ? sql`${scopeId} in ${scopesWith(actor, capability)}` : sql`false`;
}

/** Places in which the caller has a capability. */
export function placeAllows(actor: Actor, capability: Capability): SQL {
  return scopeAllows(actor, capability, sql`${place.scopeId}`);
}

/**
 * Places the caller may know of: those they may see, and the bare steps above those and above papers that are open to
 * them by the papers' own sheets. All places of a scope lie below the scope's own place, so that place's lineage gives
 * the steps. A cross-filing gives none: its readers learn nothing of the paper's home.
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
 * Whether the caller may be told a paper's home: they see the paper by its home or by its own sheet, not only through a
 * cross-filing. For queries that join papers to their homes.
 */
export function homeIsTold(actor: Actor): SQL {
  if (seesAll(actor)) return sql`true`;
  return sql`(case when ${document.scopeId} is null then ${place.scopeId} in ${scopesWith(actor, 'see')}
    else ${document.scopeId} in ${scopesTelling(actor)} end)`;
}

/** Papers for which the caller has a capability, including those in the disposal tray. */
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

/** Places in which a capability has no effect now, because they or a place above them are closed or locked. */
export function placeIsStill(capability: Capability): SQL {
  return sql`exists (select from ${place} as above where above.id = any(${place.lineage}) and ${stops('above', capability)})`;
}

/** The same for the place where a paper lies, in queries of papers. */
export const placeIsStillOf = (capability: Capability): SQL =>
  sql`exists (select from ${place} as lying join ${place} as above on above.id = any(lying.lineage)
    where lying.id = ${document.homeId} and ${stops('above', capability)})`;

/** The same for papers, which can also be locked themselves. */
export function paperIsStill(capability: Capability): SQL {
  const own = has(stoppedBy({ locked: true, closed: false }), capability) ? sql`${document.locked}` : sql`false`;
  return sql`(${own} or ${placeIsStillOf(capability)})`;
}

/** Papers that are locked, by themselves or by a place: closed places are no matter. For queries that join papers to their homes. */
export const paperIsLocked: SQL = sql`(${document.locked} or exists (
  select from ${place} as above where above.id = any(${place.lineage}) and above.locked))`;

function stops(alias: string, capability: Capability): SQL {
  const of = sql.raw(alias);
  const closed = has(stoppedBy({ locked: false, closed: true }), capability) ? sql`${of}.closed` : sql`false`;
  const locked = has(stoppedBy({ locked: true, closed: false }), capability) ? sql`${of}.locked` : sql`false`;
  return sql`(${closed} or ${locked})`;
}

/** Papers whose readers the caller may be told: those that they manage. */
export const readersAreTold = (actor: Actor): SQL => (seesAll(actor) ? sql`true` : documentAllows(actor, 'manage'));

/** Papers, not disposed of, that the caller may change now. */
export const paperMayBeAmended = (actor: Actor): SQL =>
  sql`(${paperAllows(actor, 'amend')} and not ${paperIsStill('amend')})`;

/** Papers, not disposed of, for which the caller has a capability. */
export function paperAllows(actor: Actor, capability: Capability): SQL {
  return sql`(${document.disposedAt} is null and ${documentAllows(actor, capability)})`;
}

/** Papers in the disposal tray that the caller may restore; or for which they have another capability. */
export function paperIsDisposed(actor: Actor, capability: Capability = 'amend'): SQL {
  return sql`(${document.disposedAt} is not null and ${documentAllows(actor, capability)})`;
}

/** People whom the caller may be told of: all with an account; people outside the organisation know only themselves. */
export const colleagueIsKnown = (actor: Actor): SQL =>
  sql`(${person.id} = ${actor.personId}::uuid or not exists (
    select from ${person} as asking where asking.id = ${actor.personId}::uuid and asking.outside))`;

/** Labels the caller may know of: the library's, and their own. */
export const labelIsKnown = (actor: Actor): SQL =>
  sql`(${label.ownerId} is null or ${label.ownerId} = ${ownOf(actor)}::uuid)`;

/** The person whose private items (labels, views) the caller sees; null while impersonating. */
export const ownOf = (actor: Actor): string | null => (actor.seenBy ? null : actor.personId);
