import { dossierDepth } from '@/core/tree/lineage';
import { and, asc, eq, sql, type SQL } from 'drizzle-orm';
import type { PlaceRow } from '@/core/places/model';
import type { Actor } from '../gate/actor';
import { homeIsTold, paperAllows, placeAllows, placeIsKnown, scopeAllows } from '../gate/visible';
import { db, type Reader } from '../db/client';
import { plannedOnce } from '../db/plannedOnce';
import { document, filing, place } from '../db/schema';
import { isInTransaction } from '../db/transaction';
import { askRunningTally } from '../tally/host';
import { questioner } from '../tally/questioner';
import { orRefuse, Refusal } from '@/core/errors/refusal';

/** Places that the caller may know of, in the keeper's order, each with the number of papers they may see in it and below. */
export async function placeRows(reader: Reader, actor: Actor, which: SQL): Promise<PlaceRow[]> {
  const rows = await reader
    .select({
      id: place.id,
      parentId: place.parentId,
      kind: place.kind,
      name: place.name,
      reference: place.reference,
      filingYear: place.filingYear,
      colour: place.colour,
      closed: place.closed,
      locked: place.locked,
      revision: place.revision,
      commonTo: sql<number | null>`(select ${dossiersSeeing(actor)})`,
      depth: sql<number>`array_length(${place.lineage}, 1)`,
      // Wrapped in a select, because drizzle drops table names in the fields of a one-table select.
      seen: sql<boolean>`(select ${placeAllows(actor, 'see')})`,
    })
    .from(place)
    .where(and(which, placeIsKnown(actor), plannedOnce))
    .orderBy(asc(place.position), asc(place.name), asc(place.id));
  const counts = (await talliedBelow(actor, rows)) ?? (await papersBelow(reader, actor, rows));
  return rows.map(({ depth: _depth, seen, ...row }) => ({
    ...row,
    paperCount: counts.get(row.id) ?? 0,
    bareStep: !seen,
  }));
}

/** In how many dossiers, of those the caller may see, a common folder is shown; null for other places. */
const dossiersSeeing = (actor: Actor): SQL => sql`case when ${place.seenIn} is not null then (
  select count(*)::int from ${place} as dossier
  where dossier.parent_id = ${place.parentId} and dossier.kind = 'dossier'
    and ${scopeAllows(actor, 'see', sql`dossier.scope_id`)}) end`;

/**
 * Counts papers for places of one depth by the tally; null where there is none or it is being filled, and within an act,
 * whose own changes it does not know yet.
 */
async function talliedBelow(
  actor: Actor,
  rows: readonly { id: string; parentId: string | null }[],
): Promise<Map<string, number> | null> {
  const [first, ...others] = rows;
  if (!first || isInTransaction()) return null;
  const together = first.parentId !== null && others.every((row) => row.parentId === first.parentId);
  const placeIds = rows.map((row) => row.id);
  // Places of several parents (common folders) are few: what holds them all is not looked for.
  if (others.length > 0 && !together) return null;
  const placeId = others.length > 0 && first.parentId !== null ? first.parentId : first.id;
  // A tally that is lost in the middle of a question is read again; meanwhile SQL counts.
  const counted = await askRunningTally('below', { placeId, placeIds }, questioner(actor)).catch((error: unknown) => {
    if (error instanceof Refusal && error.issue.kind === 'unavailable') return null;
    throw error;
  });
  return counted && new Map(orRefuse(counted).map((papers, at) => [placeIds[at] ?? '', papers]));
}

/** Counts papers for places of one depth in one pass: each paper's home has its ancestor of that depth in its lineage. */
async function papersBelow(
  reader: Reader,
  actor: Actor,
  rows: readonly { id: string; parentId: string | null; depth: number }[],
): Promise<Map<string, number>> {
  const [first, ...others] = rows;
  if (!first) return new Map();
  const depth = sql.raw(String(first.depth));
  // The innermost place that contains all of them, so that only a part of a large library is read.
  const within = others.length === 0 ? first.id : first.parentId;
  const together = within !== null && others.every((row) => row.parentId === first.parentId);
  const lying = together ? sql`${place.lineage} @> array[${within}::uuid]` : sql`true`;
  const counted = await reader.execute<{ id: string; papers: string }>(sql`
    select ${place.lineage}[${depth}] as id, count(*) as papers
    from ${document}
    join ${place} on ${place.id} = ${document.homeId}
    where ${lying} and ${homeIsTold(actor)} and ${paperAllows(actor, 'see')}
    group by 1`);
  const ids = rows.map((row) => row.id);
  const also = await filedBelow(reader, actor, ids, first.depth);
  return new Map(
    [...counted.rows, ...also].reduce(
      (sums, row) => sums.set(row.id, (sums.get(row.id) ?? 0) + Number(row.papers)),
      new Map<string, number>(),
    ),
  );
}

/** Papers listed by cross-filing in places or below them, and not living there; each counted once. */
async function filedBelow(reader: Reader, actor: Actor, ids: readonly string[], depth: number) {
  const at = sql.raw(String(depth));
  const found = await reader.execute<{ id: string; papers: string }>(sql`
    select filed.lineage[${at}] as id, count(distinct ${document.id}) as papers
    from ${filing}
    join ${place} as filed on filed.id = ${filing.placeId} and ${scopeAllows(actor, 'see', sql`filed.scope_id`)}
    join ${document} on ${document.id} = ${filing.documentId}
    join ${place} on ${place.id} = ${document.homeId}
    where filed.lineage[${at}] in ${ids} and ${paperAllows(actor, 'see')}
      and not (${place.lineage}[${at}] is not distinct from filed.lineage[${at}] and ${homeIsTold(actor)})
    group by 1`);
  return found.rows;
}

/**
 * A place's name, preceded by its dossier's if it lies in one: "Skerrow Ferries, 2026–27".
 * The table is written out: a column in a select list of one table would be named without it, and mean the inner one.
 */
export const fullName = sql<string>`coalesce((
  select dossier.name || ', ' from place as dossier
  where dossier.id = place.lineage[${sql.raw(String(dossierDepth + 1))}] and dossier.id <> place.id), '') || place.name`;

/** The name of a place that the caller may know of; null for one that they may not. */
export async function placeNamed(actor: Actor, placeId: string): Promise<{ id: string; name: string } | null> {
  const [row] = await db()
    .select({ id: place.id, name: fullName })
    .from(place)
    .where(and(eq(place.id, placeId), placeIsKnown(actor)));
  return row ?? null;
}

/** One place as lists show it, for use after making it. */
export async function placeRow(reader: Reader, actor: Actor, placeId: string): Promise<PlaceRow> {
  const [row] = await placeRows(reader, actor, eq(place.id, placeId));
  if (!row) throw new Error(`The place ${placeId} has just been made and is not there`);
  return row;
}
