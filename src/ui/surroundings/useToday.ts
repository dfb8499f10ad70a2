'use client';

import { dayAt } from '@/core/calendar/period';
import { useSurroundings } from './Surroundings';

/** Today in the library's time zone, as a day number. */
export function useToday(): number {
  const { now, timeZone } = useSurroundings();
  return dayAt(Date.parse(now), timeZone);
}
