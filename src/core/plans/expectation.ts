import type { Column } from '../columns/model';
import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { nameKey } from '../text/fold';
import type { Conditions } from '../views/conditions';
import { checkConditions } from '../views/property';
import type { PlanTiming } from './namePattern';
import type { PlannedFolder } from './plan';

/**
 * A paper that the plan of a series says must be there: for each dossier, for each of its filing years, or for each of its
 * meetings. A paper is it that stands in the right place and meets all conditions, or that a person said is it.
 */
export interface Expectation {
  readonly id: string;
  readonly timing: PlanTiming;
  readonly name: string;
  /** The planned folder, made as often, in which it is looked for; null: anywhere in the dossier, the year, the meeting's folders. */
  readonly folderId: string | null;
  readonly conditions: Conditions;
  /** How many days after what `dueFrom` says it is due; before, where negative. */
  readonly dueDays: number;
  /** For years: their first day or their last. For meetings the day itself, for dossiers the day they started: there always `start`. */
  readonly dueFrom: DueFrom;
}

export const dueFroms = ['start', 'end'] as const;
export type DueFrom = (typeof dueFroms)[number];

/** No more than there are bits to mark them with. */
export const maxExpected = 30;
export const maxDueDays = 1000;

/** Whether expectations are sound beside the folders of their plan; the field at fault is `expected.2.name`. */
export function checkExpected(
  expected: readonly Expectation[],
  folders: readonly PlannedFolder[],
  columns: readonly Column[],
): Result<readonly Expectation[]> {
  if (expected.length > maxExpected)
    return bad(invalidField('expected', `A plan expects at most ${maxExpected} papers.`));
  const names = new Set<string>();
  for (const [at, each] of expected.entries()) {
    const refuse = (part: string, says: string) => bad(invalidField(`expected.${at}.${part}`, says));
    if (each.name.trim() === '') return refuse('name', 'An expected paper needs a name.');
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
