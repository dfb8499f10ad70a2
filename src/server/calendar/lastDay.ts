import { TZDate } from '@date-fns/tz';
import { invalidField } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';
import { now } from '../base/clock';
import { db } from '../db/client';
import { libraryCalendar } from './libraryCalendar';

const mostMs = 366 * 86_400_000;

/**
 * The moment at which a token or link expires whose last day is `until` (ISO 8601): midnight after that day in the
 * library's time zone. Refuses the field `until` if that is past or more than a year ahead.
 */
export async function lastDay(until: string): Promise<Date> {
  const { timeZone } = await libraryCalendar(db());
  const [year = 1970, month = 1, date = 1] = until.split('-').map(Number);
  const end = new Date(new TZDate(year, month - 1, date + 1, timeZone).getTime());
  const left = end.getTime() - now().getTime();
  if (left <= 0 || left > mostMs)
    throw new Refusal(invalidField('until', 'The last day lies ahead, and within a year from now.'));
  return end;
}
