import { isoDay, type DayNumber } from '../calendar/period';
import { writeDay } from '../calendar/typedDay';
import { counted } from '../text/measure';
import type { NextReview } from './cycle';

/** How a review stands. */
export type ReviewState = 'inGoodTime' | 'comingUp' | 'due' | 'past';

/** How a review stands on a day. */
export function stateOfReview({ due }: Pick<NextReview, 'due'>, warnDays: number, today: DayNumber): ReviewState {
  if (today > due) return 'past';
  if (today === due) return 'due';
  return today >= due - warnDays ? 'comingUp' : 'inGoodTime';
}

/** How much of the cycle has run, from 0 to 1. */
export function shareRun({ due, since }: NextReview, today: DayNumber): number {
  if (today >= due || since >= due) return 1;
  return Math.max(0, (today - since) / (due - since));
}

const farDays = 90;

/** A day that is due, from today: `in 19 d`, `due today`, `31 d past`; from a quarter of a year on its day: `14 Jul 2027`. */
export function dueInWords(due: DayNumber, today: DayNumber): string {
  if (due === today) return 'due today';
  if (due < today) return `${today - due} d past`;
  return due - today > farDays ? writeDay(isoDay(due)) : `in ${due - today} d`;
}

/** How often reviews come round: `every 2 years`, `every 18 months`, `by the rule FREQ=YEARLY;BYMONTH=4`. */
export function rhythmInWords(rhythm: { readonly everyMonths: number } | { readonly rule: string }): string {
  if ('rule' in rhythm) return `by the rule ${rhythm.rule}`;
  const { everyMonths } = rhythm;
  if (everyMonths === 1) return 'every month';
  if (everyMonths === 12) return 'every year';
  return everyMonths % 12 === 0
    ? `every ${counted(everyMonths / 12, 'year')}`
    : `every ${counted(everyMonths, 'month')}`;
}
