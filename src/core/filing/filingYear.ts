import { TZDate } from '@date-fns/tz';

/** A filing year is named by the calendar year in which it starts; months are 1 to 12. */
export interface FilingYearRule {
  readonly startMonth: number;
  readonly timeZone: string;
}

/** The filing year (its starting calendar year) into which an instant falls, in the library's time zone. */
export function filingYearOf(instant: Date, rule: FilingYearRule): number {
  const local = new TZDate(instant.getTime(), rule.timeZone);
  return local.getMonth() + 1 >= rule.startMonth ? local.getFullYear() : local.getFullYear() - 1;
}

/**
 * How a filing year is written: `2026–27` with an en dash, or `2026` where it is the calendar year.
 * Common practice, no source; the two-digit end repeats nothing a reader needs, save at a century's end.
 */
export function filingYearLabel(startYear: number, startMonth: number): string {
  if (startMonth === 1) return String(startYear);
  const end = startYear + 1;
  const sameCentury = Math.floor(end / 100) === Math.floor(startYear / 100);
  return `${startYear}–${sameCentury ? String(end % 100).padStart(2, '0') : end}`;
}

/** The short form for a narrow switch: `26–27`, or `2026` where it is the calendar year. */
export function filingYearShort(startYear: number, startMonth: number): string {
  if (startMonth === 1) return String(startYear);
  const two = (year: number) => String(year % 100).padStart(2, '0');
  return `${two(startYear)}–${two(startYear + 1)}`;
}
