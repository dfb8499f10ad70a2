import type { PlaceKind } from './placeKind';

/** A place by what a person said of it: where it stands. */
export interface TreePlace {
  readonly id: string;
  readonly parentId: string | null;
  readonly kind: PlaceKind;
  /** Its own, for a year; for every other place what is stored, which is not looked at. */
  readonly filingYear: number | null;
}

/** What follows for a place from where it stands. */
export interface Where {
  /** From the library down to the place itself. */
  readonly lineage: readonly string[];
  /** That of the year it stands in; null outside of years. */
  readonly filingYear: number | null;
}

/**
 * Where each place stands, by id, from the parents alone. Places that are not reached from the library (they stand below
 * themselves, or in what is not there) have no entry.
 */
export function placeTree(places: readonly TreePlace[]): ReadonlyMap<string, Where> {
  const below = new Map<string | null, TreePlace[]>();
  for (const place of places) {
    const beside = below.get(place.parentId);
    if (beside) beside.push(place);
    else below.set(place.parentId, [place]);
  }
  const found = new Map<string, Where>();
  const left: { place: TreePlace; above: Where }[] = (below.get(null) ?? []).map((place) => ({
    place,
    above: { lineage: [], filingYear: null },
  }));
  for (let next = left.pop(); next; next = left.pop()) {
    const { place, above } = next;
    const where: Where = {
      lineage: [...above.lineage, place.id],
      filingYear: place.kind === 'year' ? place.filingYear : above.filingYear,
    };
    found.set(place.id, where);
    for (const inner of below.get(place.id) ?? []) left.push({ place: inner, above: where });
  }
  return found;
}
