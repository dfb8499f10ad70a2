import { TZDate } from '@date-fns/tz';

/** A filing year is named by the calendar year in which it starts; months are 1 to 12. */
export interface FilingYearRule {
  readonly yearStartMonth: number;
  readonly timeZone: string;
}

/** The filing year (its starting calendar year) into which an instant falls, in the library's time zone. */
export function filingYearOf(instant: Date, rule: FilingYearRule): number {
  const local = new TZDate(instant.getTime(), rule.timeZone);
  return local.getMonth() + 1 >= rule.yearStartMonth ? local.getFullYear() : local.getFullYear() - 1;
}

/** How filing years that span two calendar years are written: with both, with the first, or with the last. */
export const yearLabelStyles = ['both', 'first', 'last'] as const;
export type YearLabelStyle = (typeof yearLabelStyles)[number];

/** How a library's filing years are named. */
export interface YearNaming {
  /** 1 to 12. */
  readonly yearStartMonth: number;
  readonly yearLabels: YearLabelStyle;
}

/** The calendar year in which a filing year ends. */
export const lastCalendarYear = (startYear: number, yearStartMonth: number): number =>
  yearStartMonth === 1 ? startYear : startYear + 1;

/**
 * How a filing year is written: `2026–27` with an en dash, `2026` by its first calendar year, `2027` by its last; where it is
 * the calendar year, always `2026`. By both years: common practice, no source; the two-digit end repeats nothing a reader
 * needs, save at a century's end. By the last: US federal fiscal years (OMB Circular A-11, section 20; from memory).
 */
export function filingYearLabel(startYear: number, { yearStartMonth, yearLabels }: YearNaming): string {
  const end = lastCalendarYear(startYear, yearStartMonth);
  if (yearLabels !== 'both' || end === startYear) return String(yearLabels === 'last' ? end : startYear);
  const sameCentury = Math.floor(end / 100) === Math.floor(startYear / 100);
  return `${startYear}–${sameCentury ? String(end % 100).padStart(2, '0') : end}`;
}

/** The short form for a narrow switch: `26–27`, or one whole year where that is how years are written. */
export function filingYearShort(startYear: number, naming: YearNaming): string {
  const end = lastCalendarYear(startYear, naming.yearStartMonth);
  if (naming.yearLabels !== 'both' || end === startYear) return filingYearLabel(startYear, naming);
  const two = (year: number) => String(year % 100).padStart(2, '0');
  return `${two(startYear)}–${two(end)}`;
}
