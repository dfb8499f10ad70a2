import { daysOf, daysOfRule, ruleOf } from './recurrence';

/** Days written as the RFC does: a year, then a month with its days. */
const list = (...parts: readonly (readonly [month: string, ...days: number[]])[]): string[] =>
  parts.flatMap(([month, ...days]) => days.map((day) => `${month}-${String(day).padStart(2, '0')}`));

// RFC 5545, section 3.8.5.3: its own examples, of those that speak of months and days.
it.each([
  [
    'FREQ=MONTHLY;COUNT=10;BYDAY=1FR',
    '1997-09-05',
    list(
      ['1997-09', 5],
      ['1997-10', 3],
      ['1997-11', 7],
      ['1997-12', 5],
      ['1998-01', 2],
      ['1998-02', 6],
      ['1998-03', 6],
      ['1998-04', 3],
      ['1998-05', 1],
      ['1998-06', 5],
    ),
  ],
  [
    'FREQ=MONTHLY;UNTIL=19971224T000000Z;BYDAY=1FR',
    '1997-09-05',
    list(['1997-09', 5], ['1997-10', 3], ['1997-11', 7], ['1997-12', 5]),
  ],
  [
    'FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU',
    '1997-09-07',
    list(['1997-09', 7, 28], ['1997-11', 2, 30], ['1998-01', 4, 25], ['1998-03', 1, 29], ['1998-05', 3, 31]),
  ],
  [
    'FREQ=MONTHLY;COUNT=6;BYDAY=-2MO',
    '1997-09-22',
    list(['1997-09', 22], ['1997-10', 20], ['1997-11', 17], ['1997-12', 22], ['1998-01', 19], ['1998-02', 16]),
  ],
  [
    'FREQ=MONTHLY;BYMONTHDAY=-3',
    '1997-09-28',
    list(['1997-09', 28], ['1997-10', 29], ['1997-11', 28], ['1997-12', 29], ['1998-01', 29], ['1998-02', 26]),
  ],
  [
    'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15',
    '1997-09-02',
    list(['1997-09', 2, 15], ['1997-10', 2, 15], ['1997-11', 2, 15], ['1997-12', 2, 15], ['1998-01', 2, 15]),
  ],
  [
    'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1',
    '1997-09-30',
    list(
      ['1997-09', 30],
      ['1997-10', 1, 31],
      ['1997-11', 1, 30],
      ['1997-12', 1, 31],
      ['1998-01', 1, 31],
      ['1998-02', 1],
    ),
  ],
  // "An example where an invalid date (i.e., February 30) is ignored."
  [
    'FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5',
    '2007-01-15',
    list(['2007-01', 15, 30], ['2007-02', 15], ['2007-03', 15, 30]),
  ],
  [
    'FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3',
    '1997-03-10',
    list(
      ['1997-03', 10],
      ['1999-01', 10],
      ['1999-02', 10],
      ['1999-03', 10],
      ['2001-01', 10],
      ['2001-02', 10],
      ['2001-03', 10],
      ['2003-01', 10],
      ['2003-02', 10],
      ['2003-03', 10],
    ),
  ],
])('%s from %s falls on the days that RFC 5545 lists', (rule, from, days) => {
  expect(daysOfRule(rule, from, days.length)).toEqual(days);
});

it('comes round monthly on the second Tuesday, the last day counted', () => {
  const monthly = { everyMonths: 1, week: 2, weekday: 1, from: '2026-04-01', until: '2026-07-14' } as const;
  expect(ruleOf(monthly)).toBe('FREQ=MONTHLY;INTERVAL=1;BYDAY=2TU;UNTIL=20260714');
  expect(daysOf(monthly, 100)).toEqual(['2026-04-14', '2026-05-12', '2026-06-09', '2026-07-14']);
});

it('takes the last weekday of short months, 29 February among them', () => {
  const last = { everyMonths: 1, week: -1, weekday: 1, from: '2028-01-31', until: '2028-03-31' } as const;
  expect(daysOf(last, 100)).toEqual(['2028-02-29', '2028-03-28']);
});

it('ends at the most that is asked for', () => {
  expect(daysOf({ everyMonths: 1, week: 1, weekday: 0, from: '2026-01-01', until: '2999-01-01' }, 12)).toHaveLength(12);
});
