import { and, inArray } from 'drizzle-orm';
import type { PlaceKind } from '@/core/tree/placeKind';
import type { Reader } from '../db/client';
import { document, label, person, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { labelIsKnown, paperAllows, placeIsKnown } from '../gate/visible';
import { fullName } from './places';

/** Ids whose names are wanted, by what they are ids of. */
export interface Wanted {
  readonly person?: Iterable<string>;
  readonly place?: Iterable<string>;
  readonly document?: Iterable<string>;
  readonly label?: Iterable<string>;
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
  const [people, places, papers, labels] = [
    [...(wanted.person ?? [])],
    [...(wanted.place ?? [])],
    [...(wanted.document ?? [])],
    [...(wanted.label ?? [])],
  ];
  const none: { id: string; name: string }[] = [];
  const named = await Promise.all([
    people.length === 0
      ? none
      : reader.select({ id: person.id, name: person.name }).from(person).where(inArray(person.id, people)),
    places.length === 0
      ? none
      : reader
          .select({ id: place.id, name: inFull ? fullName : place.name })
          .from(place)
          .where(and(inArray(place.id, places), placeIsKnown(actor))),
    papers.length === 0
      ? none
      : reader
          .select({ id: document.id, name: document.title })
          .from(document)
          .where(and(inArray(document.id, papers), paperAllows(actor, 'see'))),
    labels.length === 0
      ? none
      : reader
          .select({ id: label.id, name: label.name })
          .from(label)
          .where(and(inArray(label.id, labels), labelIsKnown(actor))),
  ]);
  return Object.fromEntries(named.flat().map(({ id, name }) => [id, name]));
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
    .where(and(inArray(place.id, ids), placeIsKnown(actor)));
  const byId = new Map(rows.filter((row) => row.kind !== 'library').map((row) => [row.id, row]));
  return lineages.map((lineage) => lineage.flatMap((id) => byId.get(id) ?? []));
}

/** The way down one lineage. */
export const pathOf = async (reader: Reader, actor: Actor, lineage: readonly string[]): Promise<PathStep[]> =>
  (await pathsOf(reader, actor, [lineage]))[0] ?? [];

/** The way down a lineage as names alone. */
export const namesOn = (path: readonly PathStep[] | undefined): string[] => path?.map((step) => step.name) ?? [];
