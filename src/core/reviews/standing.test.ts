import { dueInWords, rhythmInWords, shareRun, stateOfReview } from './standing';

it.each([
  [100, 'inGoodTime', 'in 30 d'],
  [110, 'comingUp', 'in 20 d'],
  [129, 'comingUp', 'in 1 d'],
  [130, 'due', 'due today'],
  [131, 'past', '1 d past'],
  [0, 'inGoodTime', '11 May 1970'],
])('says on day %i how a review of day 130, announced 20 days before, stands: %s', (today, state, words) => {
  expect(stateOfReview({ due: 130 }, 20, today)).toBe(state);
  expect(dueInWords(130, today)).toBe(words);
});

it('fills as the cycle runs, and stays full', () => {
  expect(shareRun({ due: 200, since: 100 }, 100)).toBe(0);
  expect(shareRun({ due: 200, since: 100 }, 125)).toBe(0.25);
  expect(shareRun({ due: 200, since: 100 }, 400)).toBe(1);
  // The clock was set back.
  expect(shareRun({ due: 200, since: 100 }, 50)).toBe(0);
  expect(shareRun({ due: 100, since: 100 }, 99)).toBe(1);
});

it('says how often', () => {
  expect([1, 6, 12, 24, 18].map((everyMonths) => rhythmInWords({ everyMonths }))).toEqual([
    ...['every month', 'every 6 months', 'every year', 'every 2 years', 'every 18 months'],
  ]);
  expect(rhythmInWords({ rule: 'FREQ=YEARLY;BYMONTH=4' })).toBe('by the rule FREQ=YEARLY;BYMONTH=4');
});
