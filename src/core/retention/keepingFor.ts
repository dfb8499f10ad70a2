import type { Values } from '../columns/model';
import { isOfType, rulesAt, type Broader, type Rule } from '../rules/rules';
import { longest, type Keeping, type KeepingCalendar, type KeepingFacts } from './keeping';
import type { RetentionClass } from './model';

/** The classes that places give to their papers, by place. */
export type Schedule = ReadonlyMap<string, readonly Rule<RetentionClass>[]>;

/** How long a paper is kept, by which rule, and the other rules that spoke of it. */
export interface FoundKeeping extends Keeping {
  readonly rule: Rule<RetentionClass>;
  readonly others: readonly Rule<RetentionClass>[];
}

/**
 * How long a paper is kept by the classes that its home and the places above give: the longest of all that speak.
 * @param paper `lineage`: the places from the library down to its home
 * @returns null where no class speaks
 */
export function keepingFor(
  paper: { readonly lineage: readonly string[]; readonly values: Values },
  facts: KeepingFacts,
  {
    schedule,
    broader,
    calendar,
  }: { readonly schedule: Schedule; readonly broader: Broader; readonly calendar: KeepingCalendar },
): FoundKeeping | null {
  const rules = rulesAt(schedule, paper.lineage).filter(
    ({ ofType }) => ofType === null || isOfType(paper.values[ofType.columnId], ofType, broader),
  );
  const found = longest(
    rules.map(({ says }) => says),
    facts,
    calendar,
  );
  if (found === null) return null;
  return { ...found, rule: rules[found.at] as Rule<RetentionClass>, others: rules.toSpliced(found.at, 1) };
}
