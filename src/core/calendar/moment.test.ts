import { dayInWords, momentInWords, whenInWords } from './moment';

const zone = 'Europe/London';

it('says a day and an exact moment in the library’s time zone', () => {
  // Half past eleven at night in UTC is the next day in London's summer time.
  expect(dayInWords('2026-07-14T23:30:00Z', zone)).toBe('15 Jul 2026');
  expect(dayInWords('2026-01-14T23:30:00Z', zone)).toBe('14 Jan 2026');
  expect(momentInWords('2026-07-14T08:14:07Z', zone)).toBe('14 Jul 2026, 09:14:07 (Europe/London)');
});

it.each([
  ['2026-07-14T08:14:00Z', 'today, 09:14'],
  ['2026-07-13T22:30:00Z', 'yesterday, 23:30'],
  ['2026-07-13T23:30:00Z', 'today, 00:30'],
  ['2026-07-11T08:00:00Z', '3 days ago'],
  ['2026-07-07T08:00:00Z', '7 Jul 2026'],
  ['2026-07-20T08:00:00Z', '20 Jul 2026'],
])('says %s from the 14th as “%s”', (at, words) => {
  expect(whenInWords(at, '2026-07-14T20:00:00Z', zone)).toBe(words);
});

it('counts days where today has ended already, by the library’s clock', () => {
  expect(whenInWords('2026-07-14T10:00:00Z', '2026-07-14T12:30:00Z', 'Pacific/Auckland')).toBe('yesterday, 22:00');
});
