import type { Column } from '../columns/model';
import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { nameKey } from '../text/fold';
import type { Conditions } from '../views/conditions';
import { checkConditions } from '../views/property';
import type { PlanTiming } from './namePattern';
import { notByYear, type FilingPlan } from './plan';

/**
 * A paper that a plan expects for each dossier, each filing year or each meeting. It is met by a paper in the right place
 * that satisfies all conditions, or by one that a person named.
 */
export interface Expectation {
  readonly id: string;
  readonly timing: PlanTiming;
  readonly name: string;
  /** The planned folder, with the same timing, in which to look; null: anywhere in the dossier, the year or the meeting's folders. */
  readonly folderId: string | null;
  readonly conditions: Conditions;
  /** Days after the day given by `dueFrom` when it is due; negative: before. */
  readonly dueDays: number;
  /** For years: the first or the last day. Always `start` for meetings (their day) and dossiers (their first day). */
  readonly dueFrom: DueFrom;
}

/** The end of an occasion from which a due day is counted. */
export const dueFroms = ['start', 'end'] as const;
export type DueFrom = (typeof dueFroms)[number];

/** Limited by the bits that mark them. */
export const maxExpected = 30;
/** The most days between an occasion and a due day. */
export const maxDueDays = 1000;

/** Checks expectations against their plan's folders; an error names the field, as in `expected.2.name`. */
export function checkExpected(
  expected: readonly Expectation[],
  { folders, byYear }: FilingPlan,
  columns: readonly Column[],
): Result<readonly Expectation[]> {
  if (expected.length > maxExpected)
    return bad(invalidField('expected', `A plan expects at most ${maxExpected} papers.`));
  const names = new Set<string>();
  for (const [at, each] of expected.entries()) {
    const refuse = (part: string, says: string) => bad(invalidField(`expected.${at}.${part}`, says));
    if (each.name.trim() === '') return refuse('name', 'An expected paper needs a name.');
    if (!byYear && each.timing !== 'once') return refuse('timing', notByYear);
    const key = `${each.timing} ${nameKey(each.name)}`;
    if (names.has(key)) return refuse('name', `“${each.name}” is expected twice.`);
    names.add(key);
    const folder = each.folderId === null ? null : folders.find((one) => one.id === each.folderId);
    if (folder === undefined)
      return refuse('folderId', `The folder in which “${each.name}” is looked for is not in the plan.`);
    if (folder && folder.timing !== each.timing)
      return refuse(
        'folderId',
        `“${each.name}” is looked for in a folder that is not made as often as it is expected.`,
      );
    if (!Number.isInteger(each.dueDays) || Math.abs(each.dueDays) > maxDueDays)
      return refuse('dueDays', `Days are whole numbers up to ${maxDueDays}.`);
    const sound = checkConditions(each.conditions, columns);
    if (!sound.ok) return refuse('conditions', sound.issue.says);
  }
  return good(expected);
}
