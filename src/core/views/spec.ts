import canonicalize from 'canonicalize';
import { z } from 'zod';
import { directions } from '../order/direction';
import { conditionsSchema, propertySchema } from './conditions';
import type { GroupBy } from './property';
import { periodUnits } from '../calendar/period';

const groupBys = ['value', 'series', 'dossier', ...periodUnits] as const satisfies readonly GroupBy[];

/** Sort orders of groups: their natural order (list, calendar, alphabet), or their size. */
export const groupOrders = ['own', 'papers', 'pages', 'bytes'] as const;
/** One level of grouping. */
export const groupingSchema = z.strictObject({
  of: propertySchema,
  by: z.enum(groupBys),
  /** Or the id of a numeric column, to sort by its sum. */
  order: z.union([z.enum(groupOrders), z.uuid()]),
  direction: z.enum(directions),
});
export type Grouping = z.output<typeof groupingSchema>;

/** A sort key; `order` is the order set by hand. */
export const sortSchema = z.strictObject({
  of: z.union([propertySchema, z.literal('order')]),
  direction: z.enum(directions),
});
export type Sort = z.output<typeof sortSchema>;

/** How a view draws its papers; `passages` where words are looked for, and as the ledger where none are. */
export const layouts = ['ledger', 'covers', 'passages'] as const;
export type Layout = (typeof layouts)[number];
/** The sizes of first pages in the layout of covers. */
export const coverSizes = ['small', 'middling', 'large'] as const;
export type CoverSize = (typeof coverSizes)[number];

/** The most levels of grouping. */
export const maxGroupings = 3;
/** The most sorts, the first of which counts most. */
export const maxSorts = 5;
/** A list column: the key of a built-in one, or a column's id. */
const columnKey = z.string().min(1).max(60);

/** A view as data: conditions, groupings, order and layout. */
export const viewSpecSchema = z.strictObject({
  conditions: conditionsSchema,
  groupings: z.array(groupingSchema).max(maxGroupings, 'Papers are grouped by at most three columns.').readonly(),
  sorts: z.array(sortSchema).max(maxSorts, 'At most five keys put papers in order.').readonly(),
  /** Whether to include papers of all places below. */
  below: z.boolean(),
  layout: z.enum(layouts),
  /** The list's columns in order; null: defaults for the place. */
  columns: z.array(columnKey).max(60).readonly().nullable(),
  /** Widths in pixels of resized columns. */
  widths: z.record(columnKey, z.number().int().min(40).max(900)),
  /** How many columns after the title stay visible when the list scrolls sideways. */
  frozen: z.number().int().min(0).max(5),
  covers: z.strictObject({ size: z.enum(coverSizes), lines: z.array(columnKey).max(6).readonly() }),
});
export type ViewSpec = z.output<typeof viewSpecSchema>;

/** The default view of a place. */
export const plainView: ViewSpec = {
  conditions: [],
  groupings: [],
  sorts: [],
  below: false,
  layout: 'ledger',
  columns: null,
  widths: {},
  frozen: 0,
  covers: { size: 'middling', lines: [] },
};

/** Whether two views are equal. */
export const sameView = (one: ViewSpec, other: ViewSpec): boolean => canonicalize(one) === canonicalize(other);

/**
 * A view without groupings and sorts by columns that are gone or retired, which are counted in `missing`. Conditions are
 * never left out automatically: more papers would be shown than the view is meant for.
 */
export function withoutGone(
  { groupings, sorts }: Pick<ViewSpec, 'groupings' | 'sorts'>,
  isHere: (of: string) => boolean,
): { readonly groupings: readonly Grouping[]; readonly sorts: readonly Sort[]; readonly missing: number } {
  const kept = {
    groupings: groupings.filter(
      ({ of, order }) => isHere(of) && (groupOrders.some((own) => own === order) || isHere(order)),
    ),
    sorts: sorts.filter(({ of }) => of === 'order' || isHere(of)),
  };
  const missing = groupings.length + sorts.length - kept.groupings.length - kept.sorts.length;
  return { ...kept, missing };
}
