import { and, asc, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { PlaceRow } from '@/core/places/model';
import type { Actor } from '../gate/actor';
import { homeIsTold, paperAllows, placeAllows, placeIsKnown, scopeAllows } from '../gate/visible';
import type { Reader } from '../db/client';
import { document, filing, place } from '../db/schema';

/** Places that the actor may know of, in the keeper's order, with the papers they may see in and below each. */
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
      // A bare expression here would lose its table name: drizzle drops it in the fields of a one-table select.
      seen: sql<boolean>`(select ${placeAllows(actor, 'see')})`,
    })
    .from(place)
    .where(and(which, placeIsKnown(actor)))
    .orderBy(asc(place.position), asc(place.name), asc(place.id));
  const counts = await papersBelow(reader, actor, rows);
  return rows.map(({ depth: _depth, seen, ...row }) => ({
    ...row,
    paperCount: counts.get(row.id) ?? 0,
    bareStep: !seen,
  }));
}

/** How many dossiers of its series see a common folder, of those that the actor may see; null for other places. */
const dossiersSeeing = (actor: Actor): SQL => sql`case when ${place.seenIn} is not null then (
  select count(*)::int from ${place} as dossier
  where dossier.parent_id = ${place.parentId} and dossier.kind = 'dossier'
    and ${scopeAllows(actor, 'see', sql`dossier.scope_id`)}) end`;

/** Counts for places of one depth, in one pass: each paper's home names its ancestor at that depth. */
async function papersBelow(
  reader: Reader,
  actor: Actor,
  rows: readonly { id: string; parentId: string | null; depth: number }[],
): Promise<Map<string, number>> {
  const [first, ...others] = rows;
  if (!first) return new Map();
  const depth = sql.raw(String(first.depth));
  // The narrowest place that holds them all: of a large library only what lies in it is read.
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

/** Papers that places list besides those which live there, or below; each once. */
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

/** A place's name after its dossier's, where it stands in one: "Skerrow Ferries, 2026–27". The dossier stands third in the lineage. */
export const fullName = sql<string>`coalesce((
  select dossier.name || ', ' from ${place} as dossier
  where dossier.id = ${place.lineage}[3] and dossier.id <> ${place.id}), '') || ${place.name}`;

/** One place as lists show it, for a writer that has just made it. */
export async function placeRow(reader: Reader, actor: Actor, placeId: string): Promise<PlaceRow> {
  const [row] = await placeRows(reader, actor, eq(place.id, placeId));
  if (!row) throw new Error(`The place ${placeId} has just been made and is not there`);
  return row;
}

/** The names of some places, in the order of the ids; a place unknown to the actor is left out. */
export async function namedPath(reader: Reader, actor: Actor, ids: readonly string[]) {
  if (ids.length === 0) return [];
  const rows = await reader
    .select({ id: place.id, name: place.name, kind: place.kind, reference: place.reference })
    .from(place)
    .where(and(inArray(place.id, [...ids]), placeIsKnown(actor)));
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => byId.get(id) ?? []).filter((row) => row.kind !== 'library');
}
