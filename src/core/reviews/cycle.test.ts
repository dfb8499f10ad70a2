import fc from 'fast-check';
import { addMonths } from 'date-fns';
import { UTCDate } from '@date-fns/utc';
import { dayNumber, isoDay, type DayNumber } from '../calendar/period';
import { checkCycle, nextReview } from './cycle';
import type { ReviewCycle } from './model';

const day = (iso: string): DayNumber => dayNumber(iso) as DayNumber;
const yearly: ReviewCycle = { rhythm: { everyMonths: 12 }, firstOn: null, warnDays: 30, responsibleId: null };
const due = (cycle: ReviewCycle, filed: string, last: string | null = null) => {
  const next = nextReview(cycle, day(filed), last === null ? null : { day: day(last), ends: false });
  return next === null ? null : isoDay(next.due);
};

describe('counted from the last review', () => {
  it.each([
    ['of a year', 12, '2024-06-01', null, '2025-06-01'],
    ['of two years after a review', 24, '2020-01-01', '2024-06-01', '2026-06-01'],
    // A day that a month lacks is its last day: common practice, no source.
    ['of a year from a leap day', 12, '2024-02-29', null, '2025-02-28'],
    ['of four years from a leap day', 48, '2024-02-29', null, '2028-02-29'],
    ['of a month from the 31st', 1, '2026-01-31', null, '2026-02-28'],
  ])('a cycle %s', (_what, everyMonths, filed, last, expected) => {
    expect(due({ ...yearly, rhythm: { everyMonths } }, filed, last)).toBe(expected);
  });
});

describe('counted from a day', () => {
  const monthly: ReviewCycle = { ...yearly, rhythm: { everyMonths: 1 }, firstOn: '2026-01-31', warnDays: 5 };

  it('keeps to the last days of the months: it is counted from the beginning, not from the month before', () => {
    expect(due(monthly, '2026-02-01')).toBe('2026-02-28');
    expect(due(monthly, '2026-02-28', '2026-02-28')).toBe('2026-03-31');
    expect(due(monthly, '2026-03-31', '2026-03-31')).toBe('2026-04-30');
  });

  it('is first due on that day, also where the paper was filed long before', () => {
    expect(due({ ...yearly, firstOn: '2027-04-01' }, '2019-05-05')).toBe('2027-04-01');
  });

  it('asks for no review that was due before the paper was there', () => {
    expect(due({ ...yearly, firstOn: '2020-04-01' }, '2026-04-02')).toBe('2027-04-01');
    expect(due({ ...yearly, firstOn: '2020-04-01' }, '2026-04-01')).toBe('2026-04-01');
  });

  it('counts a review for the day of which it was announced, and no earlier one', () => {
    const cycle = { ...yearly, firstOn: '2020-04-01' };
    expect(due(cycle, '2020-01-01', '2026-03-02')).toBe('2027-04-01');
    expect(due(cycle, '2020-01-01', '2026-03-01')).toBe('2026-04-01');
    expect(due(cycle, '2020-01-01', '2026-08-20')).toBe('2027-04-01');
  });
});

it('asks for no review after one that said that it is no longer needed', () => {
  expect(nextReview(yearly, day('2024-01-01'), { day: day('2025-01-01'), ends: true })).toBeNull();
});

/*
 * Rules and days from RFC 5545, section 3.8.5.3: "Yearly in June and July" from 10 June 1997 (there with an end after ten),
 * "Every other month on the first and last Sunday of the month" from 7 September 1997, "Every Friday the 13th".
 */
describe('by the examples of RFC 5545', () => {
  const days = (rule: string, firstOn: string, most: number): string[] => {
    const found: string[] = [];
    let cycle: ReviewCycle = { rhythm: { rule }, firstOn, warnDays: 0, responsibleId: null };
    let last: string | null = null;
    for (let at = 0; at < most; at += 1) {
      const next = due(cycle, '1997-01-01', last);
      if (next === null) return found;
      found.push(next);
      last = next;
      cycle = { ...cycle };
    }
    return found;
  };

  it('yearly in June and July', () => {
    expect(days('FREQ=YEARLY;BYMONTH=6,7', '1997-06-10', 10)).toEqual([
      ...['1997-06-10', '1997-07-10', '1998-06-10', '1998-07-10', '1999-06-10'],
      ...['1999-07-10', '2000-06-10', '2000-07-10', '2001-06-10', '2001-07-10'],
    ]);
  });

  it('every other month on the first and last Sunday', () => {
    expect(days('FREQ=MONTHLY;INTERVAL=2;BYDAY=1SU,-1SU', '1997-09-07', 10)).toEqual([
      ...['1997-09-07', '1997-09-28', '1997-11-02', '1997-11-30', '1998-01-04'],
      ...['1998-01-25', '1998-03-01', '1998-03-29', '1998-05-03', '1998-05-31'],
    ]);
  });

  it('every Friday the 13th', () => {
    expect(days('FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13', '1997-09-02', 5)).toEqual([
      ...['1998-02-13', '1998-03-13', '1998-11-13', '1999-08-13', '2000-10-13'],
    ]);
  });

  it('every twenty-ninth of February, where months that lack the day have none', () => {
    expect(days('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29', '1997-01-01', 3)).toEqual([
      '2000-02-29',
      '2004-02-29',
      '2008-02-29',
    ]);
  });
});

it.each([
  ['never', { rhythm: { everyMonths: 0 } }, 'everyMonths'],
  ['half a month', { rhythm: { everyMonths: 0.5 } }, 'everyMonths'],
  ['longer than twenty years', { rhythm: { everyMonths: 241 } }, 'everyMonths'],
  ['from a day that never was', { firstOn: '2026-02-29' }, 'firstOn'],
  ['announced always', { rhythm: { everyMonths: 1 }, warnDays: 28 }, 'warnDays'],
  ['by a rule with an end', { rhythm: { rule: 'FREQ=YEARLY;COUNT=3' } }, 'rule'],
  ['by the hour', { rhythm: { rule: 'FREQ=HOURLY' } }, 'rule'],
  ['on a day that no year has', { rhythm: { rule: 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30' } }, 'rule'],
  ['by nonsense', { rhythm: { rule: 'FREQ=YEARLY;BYDAY=XX' } }, 'rule'],
  ['by a rule announced always', { rhythm: { rule: 'FREQ=WEEKLY;BYDAY=MO' }, warnDays: 7 }, 'warnDays'],
] as const)('refuses a cycle %s', (_what, part, path) => {
  const checked = checkCycle({ ...yearly, ...part });
  expect(checked.ok ? [] : checked.issue.fields?.map((field) => field.path)).toEqual([path]);
});

it.each([
  [yearly],
  [{ ...yearly, rhythm: { everyMonths: 24 }, firstOn: '2024-02-29' }],
  [{ ...yearly, rhythm: { rule: 'FREQ=YEARLY;INTERVAL=2;BYMONTH=4;BYDAY=1MO' }, firstOn: '2024-04-01' }],
] satisfies [ReviewCycle][])('takes %j', (cycle) => {
  expect(checkCycle(cycle).ok).toBe(true);
});

it('is due on a day of its own, after the last review, and says the same however often it is asked', () => {
  const days = fc.integer({ min: 10_000, max: 25_000 });
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 60 }),
      fc.option(days, { nil: null }),
      fc.integer({ min: 0, max: 27 }),
      days,
      fc.option(days, { nil: null }),
      (everyMonths, first, warnDays, filed, reviewed) => {
        const firstOn = first === null ? null : isoDay(first);
        const cycle = { ...yearly, rhythm: { everyMonths }, firstOn, warnDays };
        const last = reviewed === null ? null : { day: reviewed, ends: false };
        const next = nextReview(cycle, filed, last);
        // The plain way: month after month from the beginning.
        const from = first ?? reviewed ?? filed;
        const passed = (at: DayNumber): boolean => {
          if (first === null) return at > from;
          return reviewed === null ? at >= filed : at > reviewed + warnDays;
        };
        let expected = 0;
        for (let step = first === null ? 1 : 0; ; step += 1) {
          expected = Math.floor(addMonths(new UTCDate(from * 86_400_000), step * everyMonths).getTime() / 86_400_000);
          if (passed(expected)) break;
        }
        expect(next?.due).toBe(expected);
        expect(nextReview(cycle, filed, last)).toEqual(next);
      },
    ),
    { seed: 4101, numRuns: 400 },
  );
});
