import { z } from 'zod';
import { act, ask } from '../operation/operation';
import type { Column } from '../columns/model';
import type { PlacedPaper } from '../documents/contract';
import { nameSchema } from '../text/name';
import { conditionsSchema, propertySchema, type AskedFor, type Conditions } from './conditions';
import type { Group, PropertyCounts, Totals } from './question';
import { audiences, type SavedView } from './saved';
import { groupingSchema, maxGroupings, maxSorts, sortSchema, viewSpecSchema } from './spec';

const id = z.uuid();
const revision = z.number().int().nonnegative();

/** What papers are looked at: a place, with or without all below it, and what is asked of them. */
const slice = {
  placeId: id,
  below: z.boolean(),
  /** Words that the titles are to contain. */
  filter: z.string().max(200),
  conditions: conditionsSchema,
};

export interface Slice {
  readonly placeId: string;
  readonly below: boolean;
  readonly filter: string;
  readonly conditions: Conditions;
}

/** A group with its name for people. */
export interface NamedGroup extends Omit<Group, 'groups'> {
  readonly name: string;
  readonly groups: readonly NamedGroup[];
}

interface NamedValue {
  readonly value: AskedFor;
  readonly name: string;
  readonly papers: number;
}
/** Values of a property with their names for people. */
export type NamedCounts =
  | { readonly kind: 'values'; readonly values: readonly NamedValue[]; readonly more: number }
  | { readonly kind: 'months'; readonly months: readonly NamedValue[]; readonly none: number }
  | Extract<PropertyCounts, { kind: 'range' }>;

/** What a view shows. */
export interface ViewPage {
  /** `counting`: the library is still being read; there are rows, from the first on, and nothing is counted. */
  readonly state: 'counted' | 'counting';
  readonly rows: readonly PlacedPaper[];
  /** How many lines of papers there are in all; those at hand while counting. */
  readonly lines: number;
  readonly totals: Totals | null;
  /** The columns that `measures` in totals speak of, in order. */
  readonly measures: readonly string[];
  readonly groups: readonly NamedGroup[];
  readonly counts: Readonly<Record<string, NamedCounts>>;
  /** Names for the ids in the values of these rows, of what the asker may know of. */
  readonly names: Readonly<Record<string, string>>;
}

/** A table of two properties: how much stands under each pair of values. */
export interface CrossTable {
  readonly rows: readonly NamedGroup[];
  /** The same papers gathered by the second property alone: the table's heads, with the totals beneath. */
  readonly heads: readonly NamedGroup[];
  readonly totals: Totals;
  readonly measures: readonly string[];
}

export interface ViewsAt {
  /** Those saved here first, then those of the places above, each in its own order. */
  readonly views: readonly SavedView[];
  /** The one that opens by itself; null for the plain ledger. */
  readonly opensId: string | null;
  /** Whether the asker may save views for others here. */
  readonly mayShare: boolean;
  /** Groups that a view can be for. */
  readonly groups: readonly { readonly id: string; readonly name: string }[];
  /** Columns that views of this place can speak of: in force here, or below. */
  readonly columns: readonly Column[];
}

const savedFields = {
  name: nameSchema,
  purpose: z.string().trim().max(400, 'A purpose of at most 400 characters fits.'),
  audience: z.enum(audiences),
  groupIds: z.array(id).max(100),
  opensHere: z.boolean(),
  spec: viewSpecSchema,
};

export const viewsContract = {
  'view.open': ask<ViewPage>()(
    z.object({
      ...slice,
      groupings: z.array(groupingSchema).max(maxGroupings).readonly(),
      sorts: z.array(sortSchema).max(maxSorts).readonly(),
      counts: z.array(propertySchema).max(60).readonly(),
      /** Columns whose sums are wanted. */
      measures: z.array(id).max(20).readonly(),
      start: z.number().int().min(0),
      limit: z.number().int().min(0).max(5000),
    }),
  ),
  'view.crossTable': ask<CrossTable>()(
    z.object({ ...slice, down: groupingSchema, across: groupingSchema, measures: z.array(id).max(1).readonly() }),
  ),
  'views.at': ask<ViewsAt>()(z.object({ placeId: id })),
  'view.save': act<{ id: string }>()(z.object({ placeId: id, ...savedFields })),
  'view.change': act<{ revision: number }>()(z.object({ viewId: id, revision, ...savedFields })),
  'view.remove': act()(z.object({ viewId: id, revision })),
  'view.reorder': act()(z.object({ viewId: id, beforeId: id.nullable() })),
  /** Notes that a person has come to look at a place. */
  'place.look': act()(z.object({ placeId: id })),
  /** Puts papers before another in the order that people drag; `null` puts them last. */
  'papers.reorder': act()(z.object({ documentIds: z.array(id).min(1).max(5000), beforeId: id.nullable() })),
};
