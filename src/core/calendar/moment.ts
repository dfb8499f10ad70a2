import { TZDate } from '@date-fns/tz';
import { differenceInCalendarDays, format } from 'date-fns';

/** A day in the library's time zone: `14 Jul 2026`. `at` is an ISO 8601 instant. */
export const dayInWords = (at: string, timeZone: string): string => format(new TZDate(at, timeZone), 'd MMM yyyy');

/** The last day of what ends at an instant that is the first of the next: "until 14 Jul 2026". */
export const lastDayInWords = (end: string, timeZone: string): string =>
  dayInWords(new Date(Date.parse(end) - 1).toISOString(), timeZone);

/** The exact moment for a hover: `14 Jul 2026, 09:14:07 (Europe/London)`. */
export const momentInWords = (at: string, timeZone: string): string =>
  `${format(new TZDate(at, timeZone), 'd MMM yyyy, HH:mm:ss')} (${timeZone})`;

/** Relative within a week, else the day: `today, 09:14`, `yesterday, 17:02`, `3 days ago`, `14 Jul 2026`. */
export function whenInWords(at: string, now: string, timeZone: string): string {
  const then = new TZDate(at, timeZone);
  const days = differenceInCalendarDays(new TZDate(now, timeZone), then);
  if (days === 0) return `today, ${format(then, 'HH:mm')}`;
  if (days === 1) return `yesterday, ${format(then, 'HH:mm')}`;
  if (days > 1 && days < 7) return `${days} days ago`;
  return dayInWords(at, timeZone);
}
