/** When an item begins. */
export interface ItemTime {
  /** Minutes since the midnight on which the meeting's day begins. */
  readonly from: number;
  /** Until its own minutes are over; those of the items in it come after. */
  readonly to: number;
}

const minutesADay = 1440;

/**
 * When each item begins and ends, one after the other: an item's own minutes come before those of the items in it, and an
 * item without minutes takes none.
 * @param items depth first
 * @param startsAt minutes since midnight
 */
export function timesOf(
  items: readonly { readonly minutes: number | null }[],
  startsAt: number,
): { readonly times: readonly ItemTime[]; readonly endsAt: number } {
  let at = startsAt;
  const times = items.map(({ minutes }) => {
    const from = at;
    at += minutes ?? 0;
    return { from, to: at };
  });
  return { times, endsAt: at };
}

/** Minutes since midnight as a clock shows them: "18:30"; past midnight "00:15, the day after". */
export function clockOf(minutes: number): string {
  const days = Math.floor(minutes / minutesADay);
  const within = minutes % minutesADay;
  const time = `${String(Math.floor(within / 60)).padStart(2, '0')}:${String(within % 60).padStart(2, '0')}`;
  if (days === 0) return time;
  return days === 1 ? `${time}, the day after` : `${time}, ${days} days after`;
}

/** A length in words: "1 h 5 min". */
export function lengthInWords(minutes: number): string {
  const hours = Math.floor(minutes / 60);
  const rest = minutes % 60;
  if (hours === 0) return `${rest} min`;
  return rest === 0 ? `${hours} h` : `${hours} h ${rest} min`;
}

/** Minutes since midnight of a time as a clock field gives it, "18:30"; null where it is none. */
export function minutesOf(time: string): number | null {
  const { hours, minutes } = /^(?<hours>[01]\d|2[0-3]):(?<minutes>[0-5]\d)$/u.exec(time)?.groups ?? {};
  return hours === undefined ? null : Number(hours) * 60 + Number(minutes);
}
