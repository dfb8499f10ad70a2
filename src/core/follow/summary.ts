import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';
import { dayNumber } from '../calendar/period';
import type { NewsLine } from '../desk/news';
import type { AwaitedReview } from '../reviews/contract';
import { dueInWords } from '../reviews/standing';
import { counted } from '../text/measure';

/** How often someone is told by mail of what they follow. */
export const summaryEvery = ['daily', 'weekly'] as const;
export type SummaryEvery = (typeof summaryEvery)[number];

/** When someone is told: at an hour of the library's time zone, weekly on a day (1 is Monday). */
export interface SummaryTimes {
  readonly every: SummaryEvery;
  readonly hour: number;
  readonly weekday: number;
}

/**
 * Whether a summary is due: from its hour on, once a day, weekly on its day.
 * @param sentDay the day of the last one (ISO 8601), in the library's time zone; null: never
 * @returns the day to note, or null where none is due
 */
export function dueDay(times: SummaryTimes, sentDay: string | null, now: Date, timeZone: string): string | null {
  const local = new TZDate(now, timeZone);
  const day = format(local, 'yyyy-MM-dd');
  const isToday = times.every === 'daily' || Number(format(local, 'i')) === times.weekday;
  return isToday && local.getHours() >= times.hour && (sentDay === null || sentDay < day) ? day : null;
}

/** A line of the summary: "Tobias filed 400 papers in Invoices". */
export function lineInWords({ by, verb, count, papers, placeName }: NewsLine): string {
  const [paper] = papers;
  return `${by} ${verb} ${count === 1 && paper ? `“${paper.title}”` : counted(count, 'paper')} in ${placeName}`;
}

/** A review that waits for someone, in a mail: "Expenses policy, in Policies: 31 d past". */
export const reviewInWords = ({
  title,
  placeName,
  due,
  today,
}: Pick<AwaitedReview, 'title' | 'placeName' | 'due' | 'today'>): string =>
  `${title}, in ${placeName}: ${dueInWords(dayNumber(due) ?? 0, dayNumber(today) ?? 0)}`;
