import { filingYearOfDay, filingYearSpanDays, laterDay, type DayNumber } from '../calendar/period';
import { remembered } from '../collections/remembered';
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

/** The calendar by which papers are kept. */
export interface KeepingCalendar {
  /** The month in which filing years start, 1 to 12. */
  readonly yearStartMonth: number;
  /** So many months after a day, on the last day of a month that lacks the day. */
  readonly later: (day: DayNumber, months: number) => DayNumber;
  /** The last day of a filing year, by the calendar year in which it starts. */
  readonly yearEnd: (startYear: number) => DayNumber;
}

/** More than the longest time in months, so that day and months make one number. */
const monthsBase = 4096;

/**
 * The calendar of a library. It remembers what it worked out, for the duration of one task: of a million papers the days and
 * the times are few.
 */
export function keepingCalendar(yearStartMonth: number): KeepingCalendar {
  const known = remembered((key: number) =>
    laterDay(Math.floor(key / monthsBase), key - Math.floor(key / monthsBase) * monthsBase, 'month'),
  );
  return {
    yearStartMonth,
    later: (day, months) => known(day * monthsBase + months),
    yearEnd: remembered((startYear: number) => filingYearSpanDays(startYear, yearStartMonth).to),
  };
}

/** The day from which a class counts for a paper; null where there is none. */
export function startOf(
  { start, columnId }: RetentionClass,
  facts: KeepingFacts,
  { yearStartMonth, yearEnd }: KeepingCalendar,
): DayNumber | null {
  switch (start) {
    case 'filed':
      return facts.filed;
    case 'column':
      return columnId === null ? null : facts.dayIn(columnId);
    case 'closed':
      return facts.closed;
    case 'yearEnd':
      return yearEnd(facts.filingYear ?? filingYearOfDay(facts.filed, yearStartMonth));
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

/** The last day by a class, from the facts; Infinity for good. Null without a start: nothing is guessed. */
function lastDay(by: RetentionClass, facts: KeepingFacts, calendar: KeepingCalendar): number | null {
  if (isForGood(by)) return Infinity;
  const start = startOf(by, facts, calendar);
  return start === null || by.months === null ? null : calendar.later(start, by.months);
}

/** How long a paper is kept by a class, from the facts. */
export function keptBy(by: RetentionClass, facts: KeepingFacts, calendar: KeepingCalendar): Kept {
  const until = lastDay(by, facts, calendar);
  return { by, start: startOf(by, facts, calendar), until: until === Infinity ? null : until };
}

const isForGood = ({ end }: RetentionClass): boolean => end === 'keep';

/** How a paper's keeping stands. `noStart`: its class counts from a day that the paper does not have. */
export type KeepingStanding = 'running' | 'over' | 'forGood' | 'noStart';

/** How it stands on a day. The day after the last is the first on which it is over. */
export function standingOf({ by, until }: Kept, today: DayNumber): KeepingStanding {
  if (isForGood(by)) return 'forGood';
  if (until === null) return 'noStart';
  return today > until ? 'over' : 'running';
}

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
  calendar: KeepingCalendar,
): Keeping | null {
  let [at, rank] = [-1, -Infinity];
  for (let index = 0; index < classes.length; index += 1) {
    // For good, then what is not known, then the later day. Numbers alone: this runs over a million papers.
    const until = lastDay(classes[index] as RetentionClass, facts, calendar) ?? Number.MAX_SAFE_INTEGER;
    if (until > rank) [at, rank] = [index, until];
  }
  const by = classes[at];
  if (by === undefined) return null;
  const isHandedOver = by.end !== 'keep' && classes.some((each) => each.end === 'handOver');
  return { at, kept: keptBy(by, facts, calendar), end: isHandedOver ? 'handOver' : by.end };
}

/** Until when a paper is kept, as lists say it: a day, `for good`, or that it has no start. `until`: ISO 8601. */
export const keptUntilInWords = ({
  until,
  standing,
}: {
  readonly until: string | null;
  readonly standing: KeepingStanding;
}): string => (standing === 'forGood' ? 'for good' : until === null ? 'no starting date' : writeDay(until));
