import { dayAt } from '@/core/calendar/period';
import { now } from '../base/clock';
import { db } from '../db/client';
import { library } from '../db/schema';
import type { Moment } from './where';

/**
 * The reference point of relative conditions, now.
 * @param lookedAt when the caller looked at the place before; null where that is not known, or not meant
 */
export async function momentNow(lookedAt: Date | null = null): Promise<Moment> {
  const [settings] = await db()
    .select({ timeZone: library.timeZone, yearStartMonth: library.yearStartMonth })
    .from(library);
  const { timeZone, yearStartMonth } = settings ?? { timeZone: 'UTC', yearStartMonth: 1 };
  return { timeZone, yearStartMonth, today: dayAt(now().getTime(), timeZone), lookedAt };
}
