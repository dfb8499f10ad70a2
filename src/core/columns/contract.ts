import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { nameSchema } from '../text/name';
import { currencyDecimals } from './currency';
import { bindings, givenModes, type Given, type Resolved } from './given';
import {
  columnMeanings,
  columnTypes,
  maxChoices,
  type Column,
  type ControlledList,
  type Value,
  type Values,
} from './model';
import type { Suggestion } from './suggest';
import type { TablePlan } from './table';

const id = z.uuid();
const revision = z.number().int().nonnegative();
const many = z.array(id).min(1).max(5000);

/** The shape of any stored value; `checkValue` checks it against its column. */
export const valueSchema = z.union([
  z.string().max(40_000),
  z.number(),
  z.boolean(),
  z.array(z.string().max(100)).max(maxChoices),
]);

/** The fields of a column. Those that do not apply to its type stay empty. */
export const columnFields = z.object({
  name: nameSchema,
  help: z.string().trim().max(400, 'A help text of at most 400 characters fits.'),
  type: z.enum(columnTypes),
  listId: id.nullable(),
  open: z.boolean(),
  unit: z.string().trim().max(20, 'A unit of at most 20 characters fits.'),
  decimals: z.number().int().min(0).max(6).nullable(),
  currency: z
    .string()
    .trim()
    .toUpperCase()
    .refine(
      (code) => code === '' || currencyDecimals(code) !== null,
      'That is no currency of ISO 4217: GBP is the form.',
    ),
  required: z.boolean(),
  meaning: z.enum(columnMeanings).default('none'),
  defaultValue: valueSchema.nullable(),
});
export type ColumnFields = z.output<typeof columnFields>;

/** Default fields of a column, besides name and type. */
export const plainFields: Omit<ColumnFields, 'name' | 'type'> = {
  help: '',
  listId: null,
  open: false,
  unit: '',
  decimals: null,
  currency: '',
  required: false,
  meaning: 'none',
  defaultValue: null,
};

/** The columns in force at a place, with everything needed to show and set their values. */
export interface ColumnsAt {
  /** In order: the library's, then those of the places below it; retired ones last, for managers only. */
  readonly columns: readonly (Column & { readonly placeName: string; readonly mayChange: boolean })[];
  readonly lists: readonly ControlledList[];
  readonly mayDefine: boolean;
}

/** A value as the docket shows it for one paper or many. */
export interface SharedValue {
  readonly columnId: string;
  /** `same` if all papers agree, `several` if they differ. */
  readonly state: 'same' | 'several';
  readonly value: Value | null;
  /** How many of the papers have any value here. */
  readonly filled: number;
  /** How many of them have it fixed by their home; those cannot be set. */
  readonly fixed: number;
  /** The place that fixes it, if it is the same for all. */
  readonly fromName: string | null;
}

/** The values of some papers, and what of them the caller may change. */
export interface PaperValues {
  readonly papers: number;
  readonly values: readonly SharedValue[];
  /** The columns in force at any of the papers' homes. */
  readonly columns: readonly Column[];
  /** Names for ids in the values, as far as the caller may know of them. */
  readonly names: Readonly<Record<string, string>>;
  readonly mayAmend: boolean;
}

/** The outcome for one typed or pasted cell. */
export type CellOutcome =
  | { readonly state: 'saved'; readonly value: Value | null }
  | { readonly state: 'refused'; readonly says: string }
  /** Someone else changed it meanwhile: their value stays, and is given here. */
  | { readonly state: 'changed'; readonly value: Value | null };

/** What changing a place's given values would change in papers' shown values. */
export interface GivenForecast {
  readonly papers: number;
  readonly columns: readonly { readonly name: string; readonly papers: number; readonly overwritten: number }[];
}

/** The result of an act on values; `entryId` undoes it, and is null if nothing changed. */
export interface ValuesSet {
  readonly changed: number;
  readonly fixed: number;
  readonly entryId: number | null;
}

const givenSchema = z
  .object({
    columnId: id,
    mode: z.enum(givenModes),
    value: valueSchema.nullable(),
    binding: z.enum(bindings).nullable(),
  })
  .refine(
    (given) => (given.value === null) !== (given.binding === null),
    'A value, or what it is bound to: one of the two.',
  );

/** What a value may point to, of which the library offers a list. */
export const choiceKinds = ['person', 'dossier', 'document'] as const;

/** Questions and acts about columns, controlled lists and values. */
export const columnsContract = {
  'columns.at': ask<ColumnsAt>('noPapers')(z.object({ placeId: id })),
  'column.define': act<{ id: string; missing: number }>()(columnFields.extend({ placeId: id })),
  'column.change': act<{ revision: number }>()(
    columnFields.omit({ type: true, listId: true }).extend({ columnId: id, revision }),
  ),
  'column.retire': act()(z.object({ columnId: id, retired: z.boolean(), revision })),
  'column.reorder': act()(z.object({ columnId: id, beforeId: id.nullable() })),
  'column.forecastType': ask<{
    readonly converts: number;
    readonly lost: number;
    readonly examples: readonly { readonly text: string; readonly says: string; readonly papers: number }[];
    readonly newTerms: readonly string[];
  }>()(
    columnFields
      .pick({ type: true, listId: true, unit: true, decimals: true, currency: true })
      .extend({ columnId: id }),
  ),
  'column.setType': act<ValuesSet>()(
    columnFields
      .pick({ type: true, listId: true, unit: true, decimals: true, currency: true })
      .extend({ columnId: id, revision, addTerms: z.boolean() }),
  ),
  'lists.all': ask<
    readonly (ControlledList & {
      readonly uses: Readonly<Record<string, number>>;
      readonly columns: readonly string[];
    })[]
  >()(z.object({})),
  'list.create': act<{ id: string }>()(z.object({ name: nameSchema, terms: z.array(nameSchema).max(2000) })),
  'list.rename': act()(z.object({ listId: id, name: nameSchema, revision })),
  'list.import': act<{ added: number; changed: number }>()(
    z.object({ listId: id, form: z.enum(['csv', 'skos']), text: z.string().max(5_000_000) }),
  ),
  'term.add': act<{ id: string }>()(z.object({ listId: id, name: nameSchema, parentId: id.nullable() })),
  'term.change': act()(
    z.object({ termId: id, name: nameSchema, otherNames: z.array(nameSchema).max(50), parentId: id.nullable() }),
  ),
  'term.retire': act()(z.object({ termId: id, retired: z.boolean() })),
  'term.reorder': act()(z.object({ termId: id, beforeId: id.nullable() })),
  'term.mergeForecast': ask<{ papers: number; places: number }>()(z.object({ termId: id, intoId: id })),
  'term.merge': act<{ papers: number }>()(z.object({ termId: id, intoId: id })),
  'given.of': ask<{
    own: readonly Given[];
    inForce: readonly (Resolved & { columnId: string })[];
    names: Readonly<Record<string, string>>;
  }>()(z.object({ placeId: id })),
  'given.forecast': ask<GivenForecast>()(z.object({ placeId: id, given: z.array(givenSchema).max(200) })),
  'given.set': act<{ papers: number }>()(z.object({ placeId: id, given: z.array(givenSchema).max(200), revision })),
  'papers.values': ask<PaperValues>()(z.object({ documentIds: many })),
  'papers.setValues': act<ValuesSet>()(
    z.object({
      documentIds: many,
      values: z.record(id, valueSchema.nullable()),
      /** For one paper: the values the person saw; if one has changed meanwhile, nothing is written. */
      was: z.record(id, valueSchema.nullable()).optional(),
    }),
  ),
  'papers.setCells': act<{
    entryId: number | null;
    outcomes: readonly CellOutcome[];
    names: Readonly<Record<string, string>>;
  }>()(
    z.object({
      cells: z
        .array(
          z.object({
            documentId: id,
            columnId: id,
            /** Typed text; or `value`, if the value was picked or filled down. */
            text: z.string().max(40_000).optional(),
            value: valueSchema.nullable().optional(),
            was: valueSchema.nullable().optional(),
          }),
        )
        .min(1)
        .max(100_000, 'At most 100,000 cells fit in one act. Nothing was saved.'),
    }),
  ),
  'values.undo': act<{ restored: number; left: number; entryId: number | null }>()(
    z.object({ entryId: z.number().int() }),
  ),
  'values.missing': ask<
    readonly { columnId: string; name: string; papers: number; documentIds: readonly string[] }[]
  >()(z.object({ placeId: id })),
  'values.choices': ask<readonly { id: string; name: string; about: string }[]>()(
    z.object({ kind: z.enum(choiceKinds), words: z.string().max(200) }),
  ),
  'values.suggest': ask<{
    readonly papers: readonly {
      readonly documentId: string;
      readonly title: string;
      readonly suggestions: readonly Suggestion[];
    }[];
    readonly names: Readonly<Record<string, string>>;
  }>()(z.object({ documentIds: z.array(id).min(1).max(500) })),
  'table.preview': ask<TablePlan>()(
    z.object({ placeId: id, form: z.enum(['csv', 'xlsx']), content: z.string().max(40_000_000) }),
  ),
  'table.apply': act<ValuesSet & { errors: number }>()(
    z.object({
      placeId: id,
      form: z.enum(['csv', 'xlsx']),
      content: z.string().max(40_000_000),
      onlyGood: z.boolean(),
    }),
  ),
};
export type { Values };
