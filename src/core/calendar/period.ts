import { TZDate } from '@date-fns/tz';
import { UTCDate } from '@date-fns/utc';
import {
  addDays,
  addMonths,
  addWeeks,
  addYears,
  endOfISOWeek,
  endOfMonth,
  endOfQuarter,
  endOfYear,
  format,
  getISOWeek,
  getISOWeekYear,
  startOfISOWeek,
  startOfMonth,
  startOfQuarter,
  startOfYear,
} from 'date-fns';
import { z } from 'zod';
import { filingYearLabel, type YearNaming } from './filingYear';

/** A day as the number of days since 1 January 1970 in the proleptic Gregorian calendar, without a time zone. */
export type DayNumber = number;

const dayMs = 86_400_000;
const civil = (day: DayNumber): UTCDate => new UTCDate(day * dayMs);
const numberOf = (date: Date): DayNumber => Math.floor(date.getTime() / dayMs);

/** The number of an ISO 8601 day; null for anything else. */
export function dayNumber(iso: string): DayNumber | null {
  const ms = /^\d{4}-\d{2}-\d{2}$/u.test(iso) ? Date.parse(`${iso}T00:00:00Z`) : NaN;
  return Number.isNaN(ms) || isoDay(ms / dayMs) !== iso ? null : ms / dayMs;
}
/** The ISO 8601 day of a number. */
export const isoDay = (day: DayNumber): string => new Date(day * dayMs).toISOString().slice(0, 10);

/** The day on which an instant (milliseconds) falls in a time zone. */
export function dayAt(instantMs: number, timeZone: string): DayNumber {
  const local = new TZDate(instantMs, timeZone);
  return Date.UTC(local.getFullYear(), local.getMonth(), local.getDate()) / dayMs;
}

/** How far local time is ahead of UTC at an instant, in milliseconds. */
export const offsetAt = (instantMs: number, timeZone: string): number =>
  -new TZDate(instantMs, timeZone).getTimezoneOffset() * 60_000;

/** Units in which a span of time is counted. */
export const spanUnits = ['day', 'week', 'month', 'year'] as const;
const day = z.iso.date('A day is written as 2026-07-14.').nullable();
const count = z.number().int().min(1).max(10_000);
/** Spans that have a name of their own. */
export const namedSpans = [
  'today',
  'before-today',
  'after-today',
  'this-week',
  'this-month',
  'this-quarter',
  'this-filing-year',
  'last-filing-year',
  'next-filing-year',
  'since-look',
] as const;

/** A range of days, absolute or relative to now; both ends are included. */
export const spanSchema = z.union([
  z.strictObject({ from: day, to: day }),
  z.strictObject({ next: count, unit: z.enum(spanUnits) }),
  z.strictObject({ last: count, unit: z.enum(spanUnits) }),
  z.strictObject({ is: z.enum(namedSpans) }),
]);
export type Span = z.output<typeof spanSchema>;

/** The reference point of relative spans. */
export interface Looking {
  readonly today: DayNumber;
  /** The month in which filing years start, 1 to 12. */
  readonly yearStartMonth: number;
}

/** The first and last day of a range; null for no limit. */
export interface Days {
  readonly from: DayNumber | null;
  readonly to: DayNumber | null;
}

/** So many days, weeks, months or years later; a day that a month lacks is its last day. */
export const laterDay = (from: DayNumber, by: number, unit: (typeof spanUnits)[number]): DayNumber => {
  const add = { day: addDays, week: addWeeks, month: addMonths, year: addYears }[unit];
  return numberOf(add(civil(from), by));
};

/** The first calendar year of the filing year that a day falls into. */
export function filingYearOfDay(day: DayNumber, yearStartMonth: number): number {
  const date = new Date(day * dayMs);
  return date.getUTCMonth() + 1 >= yearStartMonth ? date.getUTCFullYear() : date.getUTCFullYear() - 1;
}

/** The first and the last day of a filing year. */
export function filingYearSpanDays(startYear: number, yearStartMonth: number): { from: DayNumber; to: DayNumber } {
  return { from: firstDay(startYear, yearStartMonth), to: firstDay(startYear + 1, yearStartMonth) - 1 };
}
const firstDay = (year: number, month: number): DayNumber => Math.floor(Date.UTC(year, month - 1, 1) / dayMs);
const filingYearDays = (startYear: number, { yearStartMonth }: Pick<Looking, 'yearStartMonth'>): Days =>
  filingYearSpanDays(startYear, yearStartMonth);

/** The days of a span as of now; null for `since-look`, which starts at an instant and not on a day. */
export function spanDays(span: Span, looking: Looking): Days | null {
  const { today } = looking;
  if ('next' in span) return { from: today, to: laterDay(today, span.next, span.unit) };
  if ('last' in span) return { from: laterDay(today, -span.last, span.unit), to: today };
  if (!('is' in span))
    return {
      from: span.from === null ? null : dayNumber(span.from),
      to: span.to === null ? null : dayNumber(span.to),
    };
  const date = civil(today);
  const year = filingYearOfDay(today, looking.yearStartMonth);
  switch (span.is) {
    case 'today':
      return { from: today, to: today };
    case 'before-today':
      return { from: null, to: today - 1 };
    case 'after-today':
      return { from: today + 1, to: null };
    case 'this-week':
      return { from: numberOf(startOfISOWeek(date)), to: numberOf(endOfISOWeek(date)) };
    case 'this-month':
      return { from: numberOf(startOfMonth(date)), to: numberOf(endOfMonth(date)) };
    case 'this-quarter':
      return { from: numberOf(startOfQuarter(date)), to: numberOf(endOfQuarter(date)) };
    case 'this-filing-year':
      return filingYearDays(year, looking);
    case 'last-filing-year':
      return filingYearDays(year - 1, looking);
    case 'next-filing-year':
      return filingYearDays(year + 1, looking);
    case 'since-look':
      return null;
  }
}

/** Units for grouping days. Weeks are ISO 8601 weeks; quarters are of the calendar year. */
export const periodUnits = ['day', 'week', 'month', 'quarter', 'year', 'filingYear', 'ago'] as const;
export type PeriodUnit = (typeof periodUnits)[number];

/** Groups of days by how long ago they were, from those to come to the earliest. */
export const agos = ['ahead', 'today', 'this-week', 'this-month', 'earlier'] as const;

/**
 * The key of the period that a day falls into: `2026-07-14`, `2026-W29`, `2026-07`, `2026-Q3`, `2026` (ISO 8601, the
 * quarter by common practice), `filing-2026`, or how long ago. Keys of one unit sort by time as text, those of `ago`
 * by their place in `agos`.
 */
export function periodOf(day: DayNumber, unit: PeriodUnit, looking: Looking): string {
  if (unit === 'ago') return agoOf(day, looking.today);
  if (unit === 'filingYear') return `filing-${filingYearOfDay(day, looking.yearStartMonth)}`;
  switch (unit) {
    case 'day':
      return isoDay(day);
    case 'week': {
      const date = civil(day);
      return `${String(getISOWeekYear(date)).padStart(4, '0')}-W${String(getISOWeek(date)).padStart(2, '0')}`;
    }
    case 'month':
      return isoDay(day).slice(0, 7);
    case 'quarter':
      return `${isoDay(day).slice(0, 4)}-Q${Math.ceil(Number(isoDay(day).slice(5, 7)) / 3)}`;
    case 'year':
      return isoDay(day).slice(0, 4);
  }
}

function agoOf(day: DayNumber, today: DayNumber): string {
  if (day > today) return 'ahead';
  if (day === today) return 'today';
  if (day >= numberOf(startOfISOWeek(civil(today)))) return 'this-week';
  return day >= numberOf(startOfMonth(civil(today))) ? 'this-month' : 'earlier';
}

const periodForm =
  /^(?:(?<year>\d{4})(?:-(?:(?<month>\d{2})(?:-(?<day>\d{2}))?|Q(?<quarter>[1-4])|W(?<week>\d{2})))?|filing-(?<filing>\d{4}))$/u;

/** The days of a period by its key; null for an unknown key. */
export function periodDays(key: string, looking: Pick<Looking, 'yearStartMonth'>): Days | null {
  const parts = periodForm.exec(key)?.groups;
  if (!parts) return null;
  if (parts['filing']) return filingYearDays(Number(parts['filing']), looking);
  if (parts['day']) {
    const only = dayNumber(key);
    return only === null ? null : { from: only, to: only };
  }
  const year = Number(parts['year']);
  const opens = civil(0);
  if (parts['week']) {
    opens.setFullYear(year, 0, 4);
    const monday = numberOf(startOfISOWeek(opens)) + (Number(parts['week']) - 1) * 7;
    return periodOf(monday, 'week', { today: 0, yearStartMonth: 1 }) === key ? { from: monday, to: monday + 6 } : null;
  }
  const month = parts['quarter'] ? Number(parts['quarter']) * 3 - 2 : Number(parts['month'] ?? 1);
  if (month < 1 || month > 12) return null;
  opens.setFullYear(year, month - 1, 1);
  const closes = parts['quarter'] ? endOfQuarter(opens) : parts['month'] ? endOfMonth(opens) : endOfYear(opens);
  const start = parts['month'] || parts['quarter'] ? opens : startOfYear(opens);
  return { from: numberOf(start), to: numberOf(closes) };
}

const agoWords: Record<string, string> = {
  ahead: 'Still to come',
  today: 'Today',
  'this-week': 'Earlier this week',
  'this-month': 'Earlier this month',
  earlier: 'Before this month',
};

/** A period for people: `July 2026`, `2026, quarter 3`, `2026–27`. */
export function periodInWords(key: string, naming: YearNaming): string {
  const ago = agoWords[key];
  if (ago) return ago;
  const parts = periodForm.exec(key)?.groups;
  if (!parts) return key;
  if (parts['filing']) return `Filing year ${filingYearLabel(Number(parts['filing']), naming)}`;
  if (parts['quarter']) return `${parts['year']}, quarter ${parts['quarter']}`;
  if (parts['week']) return `${parts['year']}, week ${Number(parts['week'])}`;
  const from = periodDays(key, naming)?.from ?? null;
  if (from === null) return key;
  return parts['day'] ? format(civil(from), 'd MMM yyyy') : parts['month'] ? format(civil(from), 'MMMM yyyy') : key;
}
