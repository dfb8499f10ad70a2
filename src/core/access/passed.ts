import { TZDate } from '@date-fns/tz';
import { differenceInCalendarDays } from 'date-fns';
import type { CapabilitySet } from './capability';
import type { Subject } from './resolve';

/** A place or paper that was shared with someone by name. */
interface Passed {
  readonly on: { readonly kind: 'place' | 'paper'; readonly id: string };
  readonly name: string;
  /** The place it is in; null if the caller may not know it. */
  readonly where: { readonly id: string; readonly name: string } | null;
  readonly at: string;
  readonly set: CapabilitySet;
}

/** Something that someone shared with the caller. */
export interface PassedToMe extends Passed {
  /** Who shared it; null if unknown. */
  readonly by: string | null;
  readonly seen: boolean;
}

/** Something that the caller shared with a person or a group. */
export interface PassedByMe extends Passed {
  readonly subject: Subject;
  readonly to: string;
  /** Whether the caller still manages it and can withdraw it. */
  readonly mayWithdraw: boolean;
}

/** How long ago something was shared, from the latest. */
export const agoNames = ['Today', 'In the last week', 'In the last month', 'Earlier'] as const;
export type Ago = (typeof agoNames)[number];

/** How long ago something happened, in days of the library's time zone; the future counts as today. */
export function agoOf(at: string, now: string, timeZone: string): Ago {
  const days = differenceInCalendarDays(new TZDate(now, timeZone), new TZDate(at, timeZone));
  if (days < 1) return 'Today';
  if (days < 7) return 'In the last week';
  return days < 30 ? 'In the last month' : 'Earlier';
}

/** Groups rows by how long ago they are, keeping their order; leaves out empty groups. */
export function byAgo<T extends { readonly at: string }>(
  rows: readonly T[],
  now: string,
  timeZone: string,
): readonly { readonly ago: Ago; readonly rows: readonly T[] }[] {
  return agoNames
    .map((ago) => ({ ago, rows: rows.filter((row) => agoOf(row.at, now, timeZone) === ago) }))
    .filter((group) => group.rows.length > 0);
}
