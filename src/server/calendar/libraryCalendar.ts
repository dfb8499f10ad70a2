import type { YearNaming } from '@/core/calendar/filingYear';
import type { Reader } from '../db/client';
import { library } from '../db/schema';

/** The library's time zone, and how its filing years begin and are named. */
export interface Calendar extends YearNaming {
  readonly timeZone: string;
}

/** The library's time zone, and how it counts and names its filing years. */
export async function libraryCalendar(reader: Reader): Promise<Calendar> {
  const [row] = await reader
    .select({ timeZone: library.timeZone, yearStartMonth: library.yearStartMonth, yearLabels: library.yearLabels })
    .from(library);
  if (!row) throw new Error('The library has no settings');
  return row;
}
