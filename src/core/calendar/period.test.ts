import { getISOWeek, getISOWeekYear, getQuarter, parseISO } from 'date-fns';
import { dayAt, dayNumber, isoDay, periodDays, periodInWords, periodOf, spanDays, type Span } from './period';

const day = (iso: string): number => dayNumber(iso) ?? NaN;
const looking = (today: string, yearStartMonth = 4) => ({ today: day(today), yearStartMonth });
const days = (span: Span, today: string, yearStartMonth = 4): (string | null)[] => {
  const { from, to } = spanDays(span, looking(today, yearStartMonth)) ?? { from: null, to: null };
  return [from, to].map((each) => (each === null ? null : isoDay(each)));
};

it('numbers days from 1970 and knows which days there are', () => {
  expect(dayNumber('1970-01-01')).toBe(0);
  expect(dayNumber('2024-02-29')).toBe(19782);
  for (const none of ['2023-02-29', '2026-13-01', '26-01-01', '2026-1-1', '', 'today'])
    expect(dayNumber(none)).toBeNull();
  for (const iso of ['0001-01-01', '1899-12-31', '2000-02-29', '9999-12-31']) expect(isoDay(day(iso))).toBe(iso);
});

it('knows on which day an instant falls, where today has already ended and where it has not', () => {
  const at = Date.UTC(2026, 6, 14, 10, 30);
  expect(isoDay(dayAt(at, 'Europe/London'))).toBe('2026-07-14');
  expect(isoDay(dayAt(at, 'Pacific/Kiritimati'))).toBe('2026-07-15');
  expect(isoDay(dayAt(Date.UTC(2026, 6, 14, 9), 'Pacific/Pago_Pago'))).toBe('2026-07-13');
});

it.each<[Span, string, (string | null)[]]>([
  [{ next: 60, unit: 'day' }, '2026-01-01', ['2026-01-01', '2026-03-02']],
  [{ next: 1, unit: 'month' }, '2026-01-31', ['2026-01-31', '2026-02-28']],
  [{ last: 1, unit: 'year' }, '2024-02-29', ['2023-02-28', '2024-02-29']],
  [{ last: 2, unit: 'week' }, '2026-01-05', ['2025-12-22', '2026-01-05']],
  [{ is: 'before-today' }, '2026-03-01', [null, '2026-02-28']],
  [{ is: 'after-today' }, '2024-02-28', ['2024-02-29', null]],
  [{ is: 'this-week' }, '2026-11-29', ['2026-11-23', '2026-11-29']],
  [{ is: 'this-month' }, '2024-02-10', ['2024-02-01', '2024-02-29']],
  [{ is: 'this-quarter' }, '2026-11-25', ['2026-10-01', '2026-12-31']],
  [{ is: 'this-filing-year' }, '2026-03-31', ['2025-04-01', '2026-03-31']],
  [{ is: 'last-filing-year' }, '2026-04-01', ['2025-04-01', '2026-03-31']],
  [{ is: 'next-filing-year' }, '2026-04-01', ['2027-04-01', '2028-03-31']],
  [{ from: '2026-01-02', to: null }, '2026-04-01', ['2026-01-02', null]],
])('%j, asked on %s, is %j', (span, today, expected) => {
  expect(days(span, today)).toEqual(expected);
});

it('has no days for what is reckoned from an instant', () => {
  expect(spanDays({ is: 'since-look' }, looking('2026-04-01'))).toBeNull();
});

/** ISO 8601-1:2019, 5.2.3 and its examples: the week with the year's first Thursday is week 1. */
it.each([
  ['2008-12-29', '2009-W01'],
  ['2010-01-03', '2009-W53'],
  ['2019-12-30', '2020-W01'],
  ['2021-01-03', '2020-W53'],
  ['1985-04-12', '1985-W15'],
])('%s lies in %s', (iso, week) => {
  expect(periodOf(day(iso), 'week', looking(iso))).toBe(week);
  const span = periodDays(week, { yearStartMonth: 1 });
  expect(span && day(iso) >= (span.from ?? NaN) && day(iso) <= (span.to ?? NaN)).toBe(true);
});

it('agrees with date-fns on the weeks and quarters of twelve years, and every period holds just its own days', () => {
  const units = ['day', 'week', 'month', 'quarter', 'year', 'filingYear'] as const;
  const wrong: string[] = [];
  for (let at = day('2019-12-20'); at < day('2032-01-10'); at += 1) {
    const iso = isoDay(at);
    const date = parseISO(iso);
    const week = `${getISOWeekYear(date)}-W${String(getISOWeek(date)).padStart(2, '0')}`;
    if (periodOf(at, 'week', looking(iso)) !== week) wrong.push(`${iso} in ${week}`);
    const quarter = `${iso.slice(0, 4)}-Q${getQuarter(date)}`;
    if (periodOf(at, 'quarter', looking(iso)) !== quarter) wrong.push(`${iso} in ${quarter}`);
    if (at % 17 !== 0) continue;
    for (const unit of units) {
      const key = periodOf(at, unit, looking(iso));
      const { from, to } = periodDays(key, looking(iso)) ?? { from: null, to: null };
      const of = (each: number) => periodOf(each, unit, looking(iso));
      const holds = from !== null && to !== null && at >= from && at <= to && of(from) === key && of(to) === key;
      if (!holds || of(from - 1) === key || of(to + 1) === key) wrong.push(`${iso} by ${unit}`);
    }
  }
  expect(wrong).toEqual([]);
});

it('says how long ago a day is', () => {
  const ago = (iso: string) => periodOf(day(iso), 'ago', looking('2026-11-25'));
  expect([ago('2026-11-26'), ago('2026-11-25'), ago('2026-11-23'), ago('2026-11-22'), ago('2026-10-31')]).toEqual([
    'ahead',
    'today',
    'this-week',
    'this-month',
    'earlier',
  ]);
});

it.each(['2026-13', '2026-00', '2026-Q5', '2026-W54', '2025-W53', '2026-02-30', 'filing-26', '26', 'July', ''])(
  'knows no period “%s”',
  (key) => {
    expect(periodDays(key, { yearStartMonth: 4 })).toBeNull();
  },
);

it('writes periods for people', () => {
  const written = ['2026', '2026-Q3', '2026-07', '2026-W29', '2026-07-14', 'filing-2026', 'today'];
  expect(written.map((key) => periodInWords(key, { yearStartMonth: 4, yearLabels: 'both' }))).toEqual([
    '2026',
    '2026, quarter 3',
    'July 2026',
    '2026, week 29',
    '14 Jul 2026',
    'Filing year 2026–27',
    'Today',
  ]);
});
