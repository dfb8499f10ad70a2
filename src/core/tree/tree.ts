import type { PlaceKind } from './placeKind';

/** A place with its parent, as set by people. */
export interface TreePlace {
  readonly id: string;
  readonly parentId: string | null;
  readonly kind: PlaceKind;
  /** Its own, for a year; ignored for every other place. */
  readonly filingYear: number | null;
}

/** What follows from a place's position. */
export interface TreePosition {
  /** From the library down to the place itself. */
  readonly lineage: readonly string[];
  /** The filing year it lies in; null outside of years. */
  readonly filingYear: number | null;
}

/**
 * Computes the position of each place, by id, from the parents. Places that cannot be reached from the root (cycles,
 * missing parents) have no entry.
 */
export function placeTree(places: readonly TreePlace[]): ReadonlyMap<string, TreePosition> {
  const below = new Map<string | null, TreePlace[]>();
  for (const place of places) {
    const beside = below.get(place.parentId);
    if (beside) beside.push(place);
    else below.set(place.parentId, [place]);
  }
  const found = new Map<string, TreePosition>();
  const left: { place: TreePlace; above: TreePosition }[] = (below.get(null) ?? []).map((place) => ({
    place,
    above: { lineage: [], filingYear: null },
  }));
  for (let next = left.pop(); next; next = left.pop()) {
    const { place, above } = next;
    const where: TreePosition = {
      lineage: [...above.lineage, place.id],
      filingYear: place.kind === 'year' ? place.filingYear : above.filingYear,
    };
    found.set(place.id, where);
    for (const inner of below.get(place.id) ?? []) left.push({ place: inner, above: where });
  }
  return found;
}
