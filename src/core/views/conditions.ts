import { z } from 'zod';
import type { Value } from '../columns/model';
import { spanSchema } from '../calendar/period';
import { amongs } from '../search/among';
import { builtIns, owedProperties } from './builtIns';

/** The property of a condition, grouping or total: a built-in one, or the id of a column. */
export const propertySchema = z.union([z.uuid(), z.enum(builtIns)]);

/** A value that a condition asks for; null asks for papers without a value. Periods are written as `2026-07`. */
const askedFor = z.union([z.string().max(400), z.number(), z.boolean(), z.null()]);
export type AskedFor = z.output<typeof askedFor>;

/** People that a condition names by who reads it. */
export const whoMeant = ['me', 'my-groups'] as const;
const bound = z.number().nullable();

/** A condition on one property. */
const conditionSchema = z.union([
  z.strictObject({
    of: propertySchema,
    /** Empty: any value matches. */
    anyOf: z.array(askedFor).max(500, 'At most 500 values fit in one condition.').readonly(),
  }),
  z.strictObject({
    of: propertySchema,
    text: z.enum(['contains', 'starts']),
    words: z.string().trim().min(1, 'Say which words.').max(200, 'At most 200 characters fit.'),
  }),
  z.strictObject({ of: propertySchema, filled: z.boolean() }),
  z.strictObject({ of: propertySchema, from: bound, to: bound }),
  z.strictObject({ of: propertySchema, span: spanSchema }),
  z.strictObject({ of: propertySchema, who: z.array(z.enum(whoMeant)).min(1).max(2).readonly() }),
  z.strictObject({
    of: z.literal('find'),
    /** As typed: read by `core/search/question.ts`. */
    find: z.string().max(2000, 'At most 2,000 characters fit.'),
    among: z.enum(amongs),
  }),
]);
export type Condition = z.output<typeof conditionSchema>;
/** A condition that lists the values it accepts. */
export type PickCondition = Extract<Condition, { anyOf: unknown }>;

/** A condition by words: what is looked for, and where. */
export type FindCondition = Extract<Condition, { find: unknown }>;
/** Whether a condition is by words. */
export const isFind = (condition: Condition): condition is FindCondition => 'find' in condition;

/** How the conditions of a block are joined. */
export const blockHows = ['all', 'any', 'none'] as const;
const most = 50;
const innerBlock = z.strictObject({ how: z.enum(blockHows), parts: z.array(conditionSchema).max(most).readonly() });
const blockSchema = z.strictObject({
  how: z.enum(blockHows),
  parts: z
    .array(z.union([conditionSchema, innerBlock]))
    .max(most)
    .readonly(),
});
/** A block of conditions: all, any or none have to be met; at most two levels deep. An empty block asks nothing. */
export interface Block {
  readonly how: (typeof blockHows)[number];
  readonly parts: readonly Part[];
}
/** A condition or a block of them. */
export type Part = Condition | Block;
/** Whether a part is a block. */
export const isBlock = (part: Part): part is Block => 'how' in part;

/** A paper is shown if it meets all of them. */
export const conditionsSchema: z.ZodType<Conditions, Conditions> = z
  .array(z.union([conditionSchema, blockSchema]))
  .max(most)
  .readonly();
/** The conditions of a view; a paper has to meet all of them. */
export type Conditions = readonly Part[];

/** The values present in a column, most papers first; `null` stands for papers without one. */
export type ValueCounts = readonly { readonly value: AskedFor; readonly name: string; readonly papers: number }[];

/** Whether a condition is not filled in. */
export const asksNothing = (condition: Condition): boolean =>
  ('anyOf' in condition && condition.anyOf.length === 0) ||
  ('find' in condition && condition.find.trim() === '') ||
  ('from' in condition && condition.from === null && condition.to === null) ||
  ('span' in condition && 'from' in condition.span && condition.span.from === null && condition.span.to === null);

/** All single conditions, including those in blocks. */
export const conditionsIn = (parts: readonly Part[]): Condition[] =>
  parts.flatMap((part) => (isBlock(part) ? conditionsIn(part.parts) : [part]));

/** The conditions by words that papers are put in order by: none of those that only put papers out. */
export const findsIn = (parts: readonly Part[]): FindCondition[] =>
  parts.flatMap((part) =>
    isBlock(part) ? (part.how === 'none' ? [] : findsIn(part.parts)) : isFind(part) && !asksNothing(part) ? [part] : [],
  );

/** Whether only the tally can tell which papers meet conditions: they look for words, or ask what follows from rules. */
export const needsTally = (parts: readonly Part[]): boolean =>
  conditionsIn(parts).some((each) => isFind(each) || owedProperties.includes(each.of));

/** Whether a value is among those picked; for several choices, any of them. Not for periods. */
export function meets(condition: PickCondition, value: Value | null | undefined): boolean {
  if (condition.anyOf.length === 0) return true;
  if (value === null || value === undefined) return condition.anyOf.includes(null);
  const held = Array.isArray(value) ? (value as readonly string[]) : [value as string | number | boolean];
  return held.some((each) => condition.anyOf.includes(each));
}

/** The first condition, outside blocks, that picks values of a property. */
export const pickOf = (conditions: Conditions, of: string): PickCondition | undefined =>
  conditions.find((part): part is PickCondition => !isBlock(part) && part.of === of && 'anyOf' in part);

/** Adds or removes one value of one property. A condition left without values stays, and asks nothing. */
export function toggled(conditions: Conditions, of: string, value: AskedFor): Conditions {
  const there = pickOf(conditions, of);
  if (!there) return [...conditions, { of: of as Condition['of'], anyOf: [value] }];
  const anyOf = there.anyOf.includes(value) ? there.anyOf.filter((each) => each !== value) : [...there.anyOf, value];
  return conditions.map((each) => (each === there ? { ...each, anyOf } : each));
}
