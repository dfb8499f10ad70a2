import { and, sql, type SQL, type SQLWrapper } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { PlaceKind } from '@/core/tree/placeKind';
import type { Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { plannedOnce } from '../db/plannedOnce';
import { document, label, person, place, retentionClass, term } from '../db/schema';
import type { Actor } from '../gate/actor';
import { labelIsKnown, paperAllows, placeIsKnown } from '../gate/visible';
import { fullName } from './places';

/** Ids whose names are wanted, by what they are ids of. */
export interface Wanted {
  readonly person?: Iterable<string>;
  readonly place?: Iterable<string>;
  readonly document?: Iterable<string>;
  readonly label?: Iterable<string>;
  readonly term?: Iterable<string>;
  /** Retention classes. */
  readonly retention?: Iterable<string>;
}

/**
 * The one way from ids to names: those that the caller may know of, by id. An id that they may not know of is missing, as
 * one that never was.
 * @param inFull names places with their dossier: "Skerrow Ferries, 2026–27".
 */
export async function namesOf(
  reader: Reader,
  actor: Actor,
  wanted: Wanted,
  { inFull = false } = {},
): Promise<Record<string, string>> {
  const name = (
    table: PgTable & { readonly id: PgColumn },
    called: SQLWrapper,
    ids: Iterable<string>,
    known: SQL,
  ): SQL[] => {
    const some = [...ids];
    return some.length === 0
      ? []
      : [
          sql`select ${table.id}::text as id, ${called}::text as name from ${table} where ${idIn(table.id, some)} and ${known} and ${plannedOnce}`,
        ];
  };
  const {
    person: people = [],
    place: places = [],
    document: papers = [],
    label: labels = [],
    term: terms = [],
    retention: classes = [],
  } = wanted;
  const everyone = sql`true`;
  const parts = [
    ...name(person, person.name, people, everyone),
    ...name(term, term.name, terms, everyone),
    ...name(retentionClass, retentionClass.name, classes, everyone),
    ...name(place, inFull ? fullName : place.name, places, placeIsKnown(actor)),
    ...name(document, document.title, papers, paperAllows(actor, 'see')),
    ...name(label, label.name, labels, labelIsKnown(actor)),
  ];
  if (parts.length === 0) return {};
  const { rows } = await reader.execute<{ id: string; name: string }>(sql.join(parts, sql` union all `));
  return Object.fromEntries(rows.map((row) => [row.id, row.name]));
}

/** A step of the way to a place. */
export interface PathStep {
  readonly id: string;
  readonly name: string;
  readonly kind: PlaceKind;
  readonly reference: string | null;
}

/**
 * The ways down many lineages in one query, each without the library and the places that the caller may not know of.
 */
export async function pathsOf(
  reader: Reader,
  actor: Actor,
  lineages: readonly (readonly string[])[],
): Promise<PathStep[][]> {
  const ids = [...new Set(lineages.flat())];
  if (ids.length === 0) return lineages.map(() => []);
  const rows = await reader
    .select({ id: place.id, name: place.name, kind: place.kind, reference: place.reference })
    .from(place)
    .where(and(idIn(place.id, ids), placeIsKnown(actor), plannedOnce));
  const byId = new Map(rows.filter((row) => row.kind !== 'library').map((row) => [row.id, row]));
  return lineages.map((lineage) => lineage.flatMap((id) => byId.get(id) ?? []));
}

/** The way down one lineage. */
export const pathOf = async (reader: Reader, actor: Actor, lineage: readonly string[]): Promise<PathStep[]> =>
  (await pathsOf(reader, actor, [lineage]))[0] ?? [];

/** The way down a lineage as names alone. */
export const namesOn = (path: readonly PathStep[] | undefined): string[] => path?.map((step) => step.name) ?? [];
