import * as rrule from 'rrule';

/** Node sees a CommonJS module, whose names are those of its default export; bundlers see the names themselves. */
const { RRule } = 'RRule' in rrule ? rrule : (rrule as { readonly default: typeof rrule }).default;

/** A monthly recurrence: "every second month on the third Tuesday". Days are ISO 8601; both ends are included. */
export interface Recurrence {
  readonly everyMonths: number;
  /** 1 to 4; -1 is the last. */
  readonly week: 1 | 2 | 3 | 4 | -1;
  /** 0 Monday to 6 Sunday (ISO 8601 counts them 1 to 7). */
  readonly weekday: number;
  readonly from: string;
  readonly until: string;
}

const weekdays = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const;
/** The days of the week in the order of ISO 8601. */
export const weekdayNames = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;

/** The rule in the notation of RFC 5545, section 3.3.10. */
export const ruleOf = ({ everyMonths, week, weekday, until }: Recurrence): string =>
  `FREQ=MONTHLY;INTERVAL=${everyMonths};BYDAY=${week}${weekdays[weekday] ?? 'MO'};UNTIL=${until.replaceAll('-', '')}`;

/**
 * The days of a rule from its first day on, at most as many as asked for. Calendar dates, without a time zone.
 * @param rule a recurrence rule by RFC 5545, without the beginning
 * @throws if the rule cannot be read
 */
export function daysOfRule(rule: string, from: string, most: number): string[] {
  const start = new Date(`${from}T00:00:00Z`);
  const read = new RRule({ ...RRule.parseString(rule), dtstart: start });
  const days: string[] = [];
  read.all((each, at) => {
    if (at < most) days.push(each.toISOString().slice(0, 10));
    return at < most - 1;
  });
  return days;
}

/** The first days of a recurrence, as ISO 8601, at most so many. */
export const daysOf = (recurrence: Recurrence, most: number): string[] =>
  daysOfRule(ruleOf(recurrence), recurrence.from, most);
