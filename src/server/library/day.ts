import { TZDate } from '@date-fns/tz';

/** The moment at which a day (ISO 8601) ends in a time zone: the first of the next. */
export function endOfDay(day: string, timeZone: string): Date {
  const [year = 1970, month = 1, date = 1] = day.split('-').map(Number);
  return new Date(new TZDate(year, month - 1, date + 1, timeZone).getTime());
}
