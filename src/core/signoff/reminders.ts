import type { DayNumber } from '../calendar/period';

interface Waiting {
  readonly due: DayNumber;
  /** The first reminder comes so many days before the day; 0: only on the day itself. */
  readonly remindDays: number;
  readonly askedOn: DayNumber;
  /** How many reminders were sent. */
  readonly sent: number;
  readonly today: DayNumber;
}

/**
 * How many reminders will have been sent once somebody is reminded now; null where none is due. There are three: before the
 * day, on it, and the day after. What was missed is not made up for, and nobody is reminded on the day on which they were asked.
 */
export function reminderDue({ due, remindDays, askedOn, sent, today }: Waiting): number | null {
  if (today <= askedOn) return null;
  const days = [due - remindDays, due, due + 1];
  const passed = days.filter((day) => day <= today).length;
  return passed > sent ? passed : null;
}
