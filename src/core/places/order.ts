import { naturalCompare } from '../text/natural';
import type { PlaceRow } from './model';

/** A person's own sort order of dossiers; `kept` is the order shared by everyone. */
export const ownOrders = ['kept', 'name', 'reference'] as const;
export type OwnOrder = (typeof ownOrders)[number];

const byName = (a: PlaceRow, b: PlaceRow): number => naturalCompare(a.name, b.name);
const compares: Readonly<Record<Exclude<OwnOrder, 'kept'>, (a: PlaceRow, b: PlaceRow) => number>> = {
  name: byName,
  // Dossiers without a reference come last, by name.
  reference: (a, b) =>
    a.reference === null || b.reference === null
      ? Number(a.reference === null) - Number(b.reference === null) || byName(a, b)
      : naturalCompare(a.reference, b.reference),
};

/** Places in the order that a person chose for themselves. */
export const inOwnOrder = (places: readonly PlaceRow[], order: OwnOrder): readonly PlaceRow[] =>
  order === 'kept' ? places : [...places].sort(compares[order]);
