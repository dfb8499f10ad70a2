import { daysOfRule } from '../calendar/recurrence';
import { dayNumber, isoDay, laterDay, type DayNumber } from '../calendar/period';
import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { mostMonths, type Rhythm, type ReviewCycle } from './model';

const mostRuleLength = 200;
/** How many days of a rule are looked at: a rule that comes daily for ten years has 3,653. */
const mostDays = 4000;
/** So far a rule is followed: one that never comes round is not looked for until the end of the calendar. */
const mostYears = 60;
/** The shortest month. Reviews that are announced for longer than their cycle would be announced always. */
const leastMonthDays = 28;

/** The last review of a paper. */
export interface LastReview {
  readonly day: DayNumber;
  /** After it the paper is reviewed no more: it was replaced, or is no longer needed. */
  readonly ends: boolean;
}

/** A review to come: the day it is due, and the day from which it is counted as running. */
export interface NextReview {
  readonly due: DayNumber;
  readonly since: DayNumber;
}

/** The parts of a rule that reviews take: whole days, with no end (RFC 5545, section 3.3.10). */
const ruleForm =
  /^FREQ=(?:YEARLY|MONTHLY|WEEKLY)(?:;(?:INTERVAL|BYMONTH|BYMONTHDAY|BYDAY|BYSETPOS|BYWEEKNO|BYYEARDAY|WKST)=[0-9A-Z,+-]+)*$/u;

/** Checks a cycle as it is set; the error names the field. */
export function checkCycle(cycle: ReviewCycle): Result<ReviewCycle> {
  const { rhythm, firstOn, warnDays } = cycle;
  if (firstOn !== null && dayNumber(firstOn) === null)
    return bad(invalidField('firstOn', 'That is no day of the calendar: 2026-07-14 is the form.'));
  if ('everyMonths' in rhythm) {
    if (!Number.isInteger(rhythm.everyMonths) || rhythm.everyMonths < 1 || rhythm.everyMonths > mostMonths)
      return bad(invalidField('everyMonths', 'A review comes every 1 to 240 months (20 years).'));
    if (warnDays >= rhythm.everyMonths * leastMonthDays)
      return bad(
        invalidField('warnDays', 'It would be announced always: announce it for fewer days than the cycle has.'),
      );
  } else {
    if (rhythm.rule.length > mostRuleLength || !ruleForm.test(rhythm.rule))
      return bad(
        invalidField('rule', 'A rule is written as FREQ=YEARLY;BYMONTH=4;BYDAY=1MO (RFC 5545), without an end.'),
      );
    const from = dayNumber(firstOn ?? '2024-01-01') as DayNumber;
    const [first, second] = occurrences(rhythm.rule, from, 2);
    if (first === undefined || second === undefined)
      return bad(invalidField('rule', 'By this rule no review ever comes round.'));
    if (warnDays >= second - first)
      return bad(
        invalidField('warnDays', 'It would be announced always: announce it for fewer days than the cycle has.'),
      );
  }
  return good(cycle);
}

function occurrences(rule: string, from: DayNumber, most: number): DayNumber[] {
  const until = isoDay(laterDay(from, mostYears, 'year')).replaceAll('-', '');
  try {
    return daysOfRule(`${rule};UNTIL=${until}`, isoDay(from), most).flatMap((day) => dayNumber(day) ?? []);
  } catch {
    // A rule that no calendar can follow has no days.
    return [];
  }
}

/**
 * The next review of a paper. Months are counted on the calendar from one beginning, so that of a cycle of months from
 * 31 January each review is on the last day of its month (a day that a month lacks is its last day: common practice, no
 * source; RFC 5545 would leave that month out). A review counts for the day of which it was announced: one that is done
 * within the days of announcement is not asked for again.
 * @param filed the day the paper was filed
 * @returns null where no review is to come
 */
export function nextReview(cycle: ReviewCycle, filed: DayNumber, last: LastReview | null): NextReview | null {
  if (last?.ends) return null;
  const since = last?.day ?? filed;
  if (cycle.firstOn === null) return after(cycle.rhythm, since);
  const first = dayNumber(cycle.firstOn);
  if (first === null) return null;
  const past = last === null ? since : since + cycle.warnDays + 1;
  const due = onGrid(cycle.rhythm, first, past);
  return due === null ? null : { due, since };
}

/** The first day of a rhythm after a day from which it is counted. */
function after(rhythm: Rhythm, since: DayNumber): NextReview | null {
  if ('everyMonths' in rhythm) return { due: laterDay(since, rhythm.everyMonths, 'month'), since };
  const due = occurrences(rhythm.rule, since, 2).find((day) => day > since);
  return due === undefined ? null : { due, since };
}

/** The first day of a rhythm that begins on a day, on another day or after it. */
function onGrid(rhythm: Rhythm, first: DayNumber, notBefore: DayNumber): DayNumber | null {
  if (!('everyMonths' in rhythm))
    return occurrences(rhythm.rule, first, mostDays).find((day) => day >= notBefore) ?? null;
  if (first >= notBefore) return first;
  const averageMonthDays = 30.436_875;
  let step = Math.max(0, Math.floor((notBefore - first) / averageMonthDays / rhythm.everyMonths) - 1);
  let due = first;
  do {
    due = laterDay(first, step * rhythm.everyMonths, 'month');
    step += 1;
  } while (due < notBefore);
  return due;
}
