import { counted } from '../text/measure';

const dayMs = 86_400_000;

/** After the days in the tray were changed, nothing is destroyed by itself for so many days: a slip can be mended. */
export const graceDays = 7;

/**
 * When a paper in the disposal tray is destroyed: so many times 24 hours after it was disposed of, and not before the grace after
 * the setting was changed is over.
 * @param trayDays null: never by itself
 * @param since when that was set
 * @returns ISO 8601, or null
 */
export const dueAt = (disposedAt: Date, trayDays: number | null, since: Date): string | null =>
  trayDays === null
    ? null
    : new Date(Math.max(disposedAt.getTime() + trayDays * dayMs, since.getTime() + graceDays * dayMs)).toISOString();

/** How long a paper still waits, as the tray says it. Times are ISO 8601. */
export function waitInWords(due: string | null, now: string): string {
  if (due === null) return 'until someone destroys it';
  const days = Math.ceil((Date.parse(due) - Date.parse(now)) / dayMs);
  return days <= 0 ? 'destroyed within the hour' : days === 1 ? 'one day more' : `${counted(days, 'day')} more`;
}
