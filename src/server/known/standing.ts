import { and, arrayContains, sql, type SQL } from 'drizzle-orm';
import type { Actor } from '../gate/actor';
import { homeIsTold, paperAllows, placeAllows, scopeAllows } from '../gate/visible';
import { document, filing, place } from '../db/schema';
import { fullName } from './places';

/**
 * Papers that lie in some places as far as the caller is concerned: by their home, if they may be told it, or by a cross-
 * filing in a place they may see. `inside` is a condition on `place`, to which papers are joined by their home. Whether
 * the caller may see the papers is for the gate to decide.
 */
export function standsIn(actor: Actor, inside: SQL): SQL {
  return sql`((${inside} and ${homeIsTold(actor)}) or ${document.id} in (
    select ${filing.documentId} from ${filing} where ${filing.placeId} in (
      select ${place.id} from ${place} where ${inside} and ${placeAllows(actor, 'see')})))`;
}

/** Papers that the caller may see, whose home is a place or one below it, and may be told to them. */
export const seenWithHomeIn = (actor: Actor, placeId: string): SQL | undefined =>
  and(paperAllows(actor, 'see'), homeIsTold(actor), arrayContains(place.lineage, [placeId]));

/** A field of the first place that lists a paper and that the caller may see. */
const ofFirstFiling = (actor: Actor, what: SQL): SQL => sql`(
  select ${what} from ${filing} as listed join ${place} as filed on filed.id = listed.place_id
  where listed.document_id = ${document.id} and ${scopeAllows(actor, 'see', sql`filed.scope_id`)}
  order by listed.made_at, listed.id limit 1)`;

/** The place where a paper lies for the caller: its home, or, if they may not be told it, the place through which they see it. */
export const standId = (actor: Actor) =>
  sql<string>`case when ${homeIsTold(actor)} then ${place.id} else ${ofFirstFiling(actor, sql`filed.id`)} end`;
/** The filing year under which a paper lies for the caller. */
export const standYear = (actor: Actor): SQL =>
  sql`case when ${homeIsTold(actor)} then ${place.filingYear} else ${ofFirstFiling(actor, sql`filed.filing_year`)} end`;
/** The name of the place where a paper lies for the caller. */
export const standName = (actor: Actor) =>
  sql<string>`case when ${homeIsTold(actor)} then ${fullName} else ${ofFirstFiling(actor, sql`filed.name`)}::text end`;
