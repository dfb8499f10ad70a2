import { reminderDue } from './reminders';

/** The days on which somebody is reminded who is asked on day 0 and does not answer. */
function remindedOn(due: number, remindDays: number, from = 0, askedOn = 0): number[] {
  let sent = 0;
  const days: number[] = [];
  for (let today = from; today < 100; today += 1) {
    const after = reminderDue({ due, remindDays, askedOn, sent, today });
    if (after === null) continue;
    sent = after;
    days.push(today);
  }
  return days;
}

it.each([
  ['before the day, on it, and the day after', 20, 7, 0, [13, 20, 21]],
  ['on the day and the day after, where none is wanted before', 20, 0, 0, [20, 21]],
  ['not on the day on which they are asked', 5, 5, 0, [1, 5, 6]],
  ['once for what was missed while nobody was there to remind', 20, 7, 40, [40]],
] as const)('somebody who does not answer is reminded %s', (_what, due, before, from, days) => {
  expect(remindedOn(due, before, from)).toEqual(days);
});

it('a clock that is set back reminds nobody again', () => {
  expect(reminderDue({ due: 20, remindDays: 7, askedOn: 0, sent: 2, today: 13 })).toBeNull();
});
