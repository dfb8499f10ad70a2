import { searchKey } from '../text/fold';
import { naturalCompare } from '../text/natural';
import type { RackDossier } from './contract';

/** Sort orders of a rack's rows; `keeper` is the order shared by everyone. */
export const rackOrders = ['keeper', 'name', 'reference', 'papers', 'gaps'] as const;
export type RackOrder = (typeof rackOrders)[number];

/** What a rack's cells show. */
export const rackShows = ['expected', 'papers', 'pages', 'filed', 'size'] as const;
export type RackShow = (typeof rackShows)[number];

/** Filters dossiers by words in name, reference and details, by single details, and by missing papers. */
export interface RackFilter {
  readonly words: string;
  /** Wanted details by field id; empty for any. */
  readonly details: Readonly<Record<string, string>>;
  readonly onlyGaps: boolean;
}

const orders: Record<Exclude<RackOrder, 'keeper'>, (a: RackDossier, b: RackDossier) => number> = {
  name: (a, b) => naturalCompare(a.name, b.name),
  // Dossiers without a reference come last.
  reference: (a, b) =>
    a.reference === null || b.reference === null
      ? Number(a.reference === null) - Number(b.reference === null)
      : naturalCompare(a.reference, b.reference),
  papers: (a, b) => b.whole.papers - a.whole.papers,
  gaps: (a, b) => b.gaps - a.gaps,
};

/** The rows of a rack that match a filter, sorted; equal rows keep their order. */
export function arrangeRack(
  rows: readonly RackDossier[],
  names: Readonly<Record<string, string>>,
  filter: RackFilter,
  order: RackOrder,
): readonly RackDossier[] {
  const words = searchKey(filter.words).split(' ').filter(Boolean);
  const wanted = Object.entries(filter.details).filter(([, value]) => value !== '');
  const kept = rows.filter((row) => {
    if (filter.onlyGaps && row.gaps === 0) return false;
    if (wanted.some(([field, value]) => row.details[field] !== value)) return false;
    if (words.length === 0) return true;
    const details = Object.values(row.details).map((each) => names[each] ?? each);
    const text = searchKey([row.reference ?? '', row.name, ...details].join(' '));
    return words.every((word) => text.includes(word));
  });
  return order === 'keeper' ? kept : [...kept].sort(orders[order]);
}
