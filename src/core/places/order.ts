import { naturalCompare } from '../text/natural';
import type { PlaceRow } from './model';

/**
 * The ids with one of them moved to stand before another (`null`: at the end). An id that is not
 * among them, or one moved before itself, leaves the order as it is.
 */
export function movedBefore(ids: readonly string[], moved: string, before: string | null): string[] {
  if (!ids.includes(moved) || moved === before) return [...ids];
  const rest = ids.filter((id) => id !== moved);
  const at = before === null ? -1 : rest.indexOf(before);
  return at === -1 ? [...rest, moved] : [...rest.slice(0, at), moved, ...rest.slice(at)];
}

/** What someone has dossiers in order by, for themselves; `kept`: the order that holds for everyone. */
export const ownOrders = ['kept', 'name', 'reference'] as const;
export type OwnOrder = (typeof ownOrders)[number];

const byName = (a: PlaceRow, b: PlaceRow): number => naturalCompare(a.name, b.name);
const compares: Readonly<Record<Exclude<OwnOrder, 'kept'>, (a: PlaceRow, b: PlaceRow) => number>> = {
  name: byName,
  // Those without a reference come last, by name.
  reference: (a, b) =>
    a.reference === null || b.reference === null
      ? Number(a.reference === null) - Number(b.reference === null) || byName(a, b)
      : naturalCompare(a.reference, b.reference),
};

export const inOwnOrder = (places: readonly PlaceRow[], order: OwnOrder): readonly PlaceRow[] =>
  order === 'kept' ? places : [...places].sort(compares[order]);
