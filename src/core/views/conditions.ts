import { z } from 'zod';
import type { Value } from '../columns/model';

/** A single value that a condition can ask for; null asks for papers that have none. */
const askedFor = z.union([z.string().max(400), z.number(), z.boolean(), z.null()]);
export type AskedFor = z.output<typeof askedFor>;

/** What a condition speaks of: the id of a column, or `label`. */
const conditionSchema = z.object({
  of: z.union([z.uuid(), z.literal('label')]),
  /** None of them: any will do. */
  anyOf: z.array(askedFor).max(500, 'At most 500 values fit in one condition.'),
});
export type Condition = z.output<typeof conditionSchema>;

/** A paper is shown where it meets all of them. */
export const conditionsSchema = z
  .array(conditionSchema)
  .max(50)
  .refine((all) => new Set(all.map((each) => each.of)).size === all.length, 'A column stands in two conditions.');
export type Conditions = readonly Condition[];

/** The values present in a column, most papers first; `null` stands for papers without one. */
export type ValueCounts = readonly { readonly value: AskedFor; readonly name: string; readonly papers: number }[];

/** Whether a value meets a condition: any of the several choices will do. The definition; SQL must agree with it. */
export function meets(condition: Condition, value: Value | null | undefined): boolean {
  if (condition.anyOf.length === 0) return true;
  if (value === null || value === undefined) return condition.anyOf.includes(null);
  const held = Array.isArray(value) ? (value as readonly string[]) : [value as string | number | boolean];
  return held.some((each) => condition.anyOf.includes(each));
}

/** The conditions with one value of one column asked for, or no longer. A condition left without values stays, and asks for nothing. */
export function toggled(conditions: Conditions, of: string, value: AskedFor): Conditions {
  const there = conditions.find((each) => each.of === of);
  if (!there) return [...conditions, { of: of as Condition['of'], anyOf: [value] }];
  const anyOf = there.anyOf.includes(value) ? there.anyOf.filter((each) => each !== value) : [...there.anyOf, value];
  return conditions.map((each) => (each === there ? { ...each, anyOf } : each));
}
