import type { Values } from '../columns/model';
import { isOfType, rulesAt, type Broader, type Rule } from '../rules/rules';
import type { LastReview } from './cycle';
import type { ReviewCycle } from './model';

/** All that says how papers are reviewed. */
export interface Cycles {
  /** By place. */
  readonly rules: ReadonlyMap<string, readonly Rule<ReviewCycle>[]>;
  /** By paper, what was said of it alone; null: it is not reviewed. */
  readonly own: ReadonlyMap<string, ReviewCycle | null>;
  /** By paper. */
  readonly last: ReadonlyMap<string, LastReview>;
}

/** Nothing is reviewed. */
export const noCycles: Cycles = { rules: new Map(), own: new Map(), last: new Map() };

/** The paper that a cycle is looked for. */
export interface CycledPaper {
  readonly id: string;
  /** The places from the library down to its home. */
  readonly lineage: readonly string[];
  readonly values: Values;
}

/** The cycle of a paper, and the rule that gives it; null for a cycle of its own. */
export interface FoundCycle {
  readonly cycle: ReviewCycle;
  readonly rule: Rule<ReviewCycle> | null;
}

/** The cycle of a paper: its own; else that of the nearest place which says something of papers of its type, or of all. */
export function cycleFor(paper: CycledPaper, { rules, own }: Cycles, broader: Broader): FoundCycle | null {
  const said = own.get(paper.id);
  if (said !== undefined) return said === null ? null : { cycle: said, rule: null };
  const rule = rulesAt(rules, paper.lineage).find(
    ({ ofType }) => ofType === null || isOfType(paper.values[ofType.columnId], ofType, broader),
  );
  return rule === undefined ? null : { cycle: rule.says, rule };
}
