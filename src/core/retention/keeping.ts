import { filingYearOfDay, filingYearSpanDays, laterDay, type DayNumber } from '../calendar/period';
import { writeDay } from '../calendar/typedDay';
import type { KeepingEnd, RetentionClass } from './model';

/** The days of a paper from which classes count. */
export interface KeepingFacts {
  readonly filed: DayNumber;
  /** The day of a column of dates; null: the paper has none. */
  readonly dayIn: (columnId: string) => DayNumber | null;
  /** When its dossier was closed; null while that is open, or for papers in no dossier. */
  readonly closed: DayNumber | null;
  /** The first calendar year of the filing year that it is filed in; null where it is filed in none. */
  readonly filingYear: number | null;
}

/** The day from which a class counts for a paper; null where there is none. */
export function startOf(
  { start, columnId }: RetentionClass,
  facts: KeepingFacts,
  yearStartMonth: number,
): DayNumber | null {
  switch (start) {
    case 'filed':
      return facts.filed;
    case 'column':
      return columnId === null ? null : facts.dayIn(columnId);
    case 'closed':
      return facts.closed;
    case 'yearEnd':
      return filingYearSpanDays(facts.filingYear ?? filingYearOfDay(facts.filed, yearStartMonth), yearStartMonth).to;
  }
}

/** How long a paper is kept by one class. */
export interface Kept {
  readonly by: RetentionClass;
  readonly start: DayNumber | null;
  /**
   * The last day on which it has to be kept: as many months after the start, on the last day of a month that lacks the day
   * (common practice, no source). Null: for good, or not known because it has no start.
   */
  readonly until: DayNumber | null;
}

/** How long a paper is kept by a class, from the facts. Nothing is guessed: without a start there is no end. */
export function keptBy(by: RetentionClass, facts: KeepingFacts, yearStartMonth: number): Kept {
  const start = startOf(by, facts, yearStartMonth);
  const until = isForGood(by) || start === null || by.months === null ? null : laterDay(start, by.months, 'month');
  return { by, start, until };
}

const isForGood = ({ end }: RetentionClass): boolean => end === 'keep';

/** How a paper's keeping stands. `noStart`: its class counts from a day that the paper does not have. */
export const keepingStandings = ['running', 'over', 'forGood', 'noStart'] as const;
export type KeepingStanding = (typeof keepingStandings)[number];

/** How it stands on a day. The day after the last is the first on which it is over. */
export function standingOf({ by, until }: Kept, today: DayNumber): KeepingStanding {
  if (isForGood(by)) return 'forGood';
  if (until === null) return 'noStart';
  return today > until ? 'over' : 'running';
}

/** The rank of an outcome: for good, then what is not known, then the later day. */
const rank = ({ by, until }: Kept): number => (isForGood(by) ? Infinity : (until ?? Number.MAX_SAFE_INTEGER));

/** What the classes that speak of a paper come to. */
export interface Keeping {
  /** The place of the class that keeps it longest in the list of those that speak. */
  readonly at: number;
  readonly kept: Kept;
  /** What becomes of it then: what an archive is to have by any class is not destroyed. */
  readonly end: KeepingEnd;
}

/**
 * Of all classes that speak of a paper, the one that keeps it longest; of several alike the one that is nearest.
 * @param classes nearest first; may name a class twice
 * @returns null where no class speaks
 */
export function longest(
  classes: readonly RetentionClass[],
  facts: KeepingFacts,
  yearStartMonth: number,
): Keeping | null {
  let best: { at: number; kept: Kept } | null = null;
  for (let at = 0; at < classes.length; at += 1) {
    const kept = keptBy(classes[at] as RetentionClass, facts, yearStartMonth);
    if (best === null || rank(kept) > rank(best.kept)) best = { at, kept };
  }
  if (best === null) return null;
  const { end } = best.kept.by;
  return { ...best, end: end !== 'keep' && classes.some((each) => each.end === 'handOver') ? 'handOver' : end };
}

/** Until when a paper is kept, as lists say it: a day, `for good`, or that it has no start. `until`: ISO 8601. */
export const keptUntilInWords = ({
  until,
  standing,
}: {
  readonly until: string | null;
  readonly standing: KeepingStanding;
}): string => (standing === 'forGood' ? 'for good' : until === null ? 'no starting date' : writeDay(until));
