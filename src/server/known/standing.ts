import { sql, type SQL } from 'drizzle-orm';
import type { Actor } from '../gate/actor';
import { homeIsTold, placeAllows, scopeAllows } from '../gate/visible';
import { document, filing, place } from '../db/schema';
import { fullName } from './places';

/**
 * Papers that stand in some places for an actor: by their home, where the actor is told of it, or by a cross-filing in
 * a place that they may see. `inside` speaks of `place`, to which the papers are joined by their home. It says nothing
 * of who may see the papers: that is the gate's.
 */
export function standsIn(actor: Actor, inside: SQL): SQL {
  return sql`((${inside} and ${homeIsTold(actor)}) or ${document.id} in (
    select ${filing.documentId} from ${filing} where ${filing.placeId} in (
      select ${place.id} from ${place} where ${inside} and ${placeAllows(actor, 'see')})))`;
}

/** Something of the first place that lists a paper and that the actor may see. */
const ofFirstFiling = (actor: Actor, what: SQL): SQL => sql`(
  select ${what} from ${filing} as listed join ${place} as filed on filed.id = listed.place_id
  where listed.document_id = ${document.id} and ${scopeAllows(actor, 'see', sql`filed.scope_id`)}
  order by listed.made_at, listed.id limit 1)`;

/** Where a paper stands first for the actor: its home, or, where they are not told of that, the place by which they come to it. */
export const standId = (actor: Actor) =>
  sql<string>`case when ${homeIsTold(actor)} then ${place.id} else ${ofFirstFiling(actor, sql`filed.id`)} end`;
export const standYear = (actor: Actor): SQL =>
  sql`case when ${homeIsTold(actor)} then ${place.filingYear} else ${ofFirstFiling(actor, sql`filed.filing_year`)} end`;
export const standName = (actor: Actor) =>
  sql<string>`case when ${homeIsTold(actor)} then ${fullName} else ${ofFirstFiling(actor, sql`filed.name`)}::text end`;
