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

/** A part of a place: with or without everything below, and the conditions on its papers. */
const slice = {
  placeId: id,
  below: z.boolean(),
  /** Words that titles have to contain. */
  filter: z.string().max(200),
  conditions: conditionsSchema,
};

/** The papers of a view: a place, how deep, and the conditions. */
export interface Slice {
  readonly placeId: string;
  readonly below: boolean;
  readonly filter: string;
  readonly conditions: Conditions;
}

/** A group with its name. */
export interface NamedGroup extends Omit<Group, 'groups'> {
  readonly name: string;
  readonly groups: readonly NamedGroup[];
}

interface NamedValue {
  readonly value: AskedFor;
  readonly name: string;
  readonly papers: number;
}
/** Values of a property with their names. */
export type NamedCounts =
  | { readonly kind: 'values'; readonly values: readonly NamedValue[]; readonly more: number }
  | { readonly kind: 'months'; readonly months: readonly NamedValue[]; readonly none: number }
  | Extract<PropertyCounts, { kind: 'range' }>;

/** What a view shows. */
export interface ViewPage {
  /** `counting`: the tally is being filled; there are rows, from the first on, but no counts. */
  readonly state: 'counted' | 'counting';
  readonly rows: readonly PlacedPaper[];
  /** The number of lines of papers; while counting, of those returned. */
  readonly lines: number;
  readonly totals: Totals | null;
  /** The columns of `measures` in totals, in order. */
  readonly measures: readonly string[];
  readonly groups: readonly NamedGroup[];
  readonly counts: Readonly<Record<string, NamedCounts>>;
  /** Names for ids in the rows' values, as far as the caller may know of them. */
  readonly names: Readonly<Record<string, string>>;
  /** Null where no words are looked for. */
  readonly found: FoundFacts | null;
}

/** What is to be said of the words that a view looks for. */
export interface FoundFacts {
  /** How many words were left out because there were too many. */
  readonly leftOut: number;
  /** The same words with near ones in place of those that are in few papers or none; null where nothing is near. */
  readonly meant: string | null;
}

/** A table of two properties: totals for each pair of values. */
export interface CrossTable {
  readonly rows: readonly NamedGroup[];
  /** The papers grouped by the second property alone: the table's heads, with their totals. */
  readonly heads: readonly NamedGroup[];
  readonly totals: Totals;
  readonly measures: readonly string[];
}

/** The views that a person can open at a place. */
export interface ViewsAt {
  /** Views saved here first, then those of the places above, each in their own order. */
  readonly views: readonly SavedView[];
  /** The view that opens by default; null for the plain list. */
  readonly opensId: string | null;
  /** Whether the caller may save views for others here. */
  readonly mayShare: boolean;
  /** Groups that a view can be for. */
  readonly groups: readonly { readonly id: string; readonly name: string }[];
  /** Columns that views of this place can use: in force here or below. */
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

/** Questions and acts about views. */
export const viewsContract = {
  'view.open': ask<ViewPage>()(
    z.object({
      ...slice,
      groupings: z.array(groupingSchema).max(maxGroupings).readonly(),
      sorts: z.array(sortSchema).max(maxSorts).readonly(),
      counts: z.array(propertySchema).max(60).readonly(),
      /** Columns to sum. */
      measures: z.array(id).max(20).readonly(),
      start: z.number().int().min(0),
      limit: z.number().int().min(0).max(5000),
    }),
  ),
  'view.crossTable': ask<CrossTable>()(
    z.object({ ...slice, down: groupingSchema, across: groupingSchema, measures: z.array(id).max(1).readonly() }),
  ),
  'views.at': ask<ViewsAt>('noPapers')(z.object({ placeId: id })),
  'view.save': act<{ id: string }>()(z.object({ placeId: id, ...savedFields })),
  'view.change': act<{ revision: number }>()(z.object({ viewId: id, revision, ...savedFields })),
  'view.remove': act()(z.object({ viewId: id, revision })),
  'view.reorder': act()(z.object({ viewId: id, beforeId: id.nullable() })),
  /** Records a visit to a place. */
  'place.look': act()(z.object({ placeId: id })),
};
