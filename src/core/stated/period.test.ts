import { statedIn } from './stated';
import { daySpanIn } from './period';
import { placedLines } from './rows';

const around = { names: '', arrivedOn: '2026-11-20' } as const;
const periodOf = (text: string) => statedIn([placedLines(text)], around).find(({ kind }) => kind === 'period');

it.each([
  ['1 September 2026 to 30 September 2026', '2026-09-01', '2026-09-30'],
  ['01/07/2026 – 30/09/2026', '2026-07-01', '2026-09-30'],
  ['01/07/2026-30/09/2026', '2026-07-01', '2026-09-30'],
  ['2026-07-01 - 2026-09-30', '2026-07-01', '2026-09-30'],
  ['01.07.2026 bis 30.09.2026', '2026-07-01', '2026-09-30'],
  ['from 1 to 31 October 2026', '2026-10-01', '2026-10-31'],
  ['1-31 October 2026', '2026-10-01', '2026-10-31'],
  ['1 July to 30 September 2026', '2026-07-01', '2026-09-30'],
  ['15 December to 14 January 2026', '2025-12-15', '2026-01-14'],
  ['July to September 2026', '2026-07-01', '2026-09-30'],
  ['November 2025 – January 2026', '2025-11-01', '2026-01-31'],
  ['October 2026', '2026-10-01', '2026-10-31'],
  ['février 2028', '2028-02-01', '2028-02-29'],
  ['Q3 2026', '2026-07-01', '2026-09-30'],
  ['2nd quarter of 2026', '2026-04-01', '2026-06-30'],
  ['du 1 octobre 2026 au 31 octobre 2026', '2026-10-01', '2026-10-31'],
])('%s is a span of days', (text, from, until) => {
  expect(daySpanIn(text)).toEqual({ from, until });
});

it.each([
  '',
  '30 days',
  '1 September 2026',
  '1 September 2026, 30 September 2026',
  '30 September 2026 to 1 September 2026',
  '31 to 1 October 2026',
  '0 to 31 October 2026',
  '1 Septober to 30 September 2026',
  '1 January 1900 to 31 December 2026',
  'Q5 2026',
  'October 2026 to pay',
])('%j is none', (text) => {
  expect(daySpanIn(text)).toBeNull();
});

it('the time a bill is for is told with the words by which it was known, beside them, apart from them and below them', () => {
  expect(periodOf('Billing period: 1 to 31 October 2026')).toMatchObject({
    value: '2026-10-01/2026-10-31',
    words: '1 to 31 October 2026',
    by: 'Billing period',
    page: 1,
  });
  expect(periodOf('Period\t\tOctober 2026')?.value).toBe('2026-10-01/2026-10-31');
  expect(periodOf('Invoice no       Service period\n10442            01/07/2026 - 30/09/2026')?.value).toBe(
    '2026-07-01/2026-09-30',
  );
});

it.each([
  'Notice period: 1 to 31 October 2026',
  'Period: 30 days',
  'Period',
  'Period: 1 to 31 October 2019',
  'For the period of the works see below',
  'October 2026',
])('%j states none', (text) => {
  expect(periodOf(text)).toBeUndefined();
});

it('the days of a period are not the day of the bill', () => {
  const found = statedIn(
    [placedLines('INVOICE 10442\n3 November 2026\nPeriod: 1 October 2026 to 31 October 2026')],
    around,
  );
  expect(found.find(({ kind }) => kind === 'day')?.value).toBe('2026-11-03');
});

it('a page of nothing but such words takes no long time', () => {
  const began = performance.now();
  expect(periodOf('Period from 1 to '.repeat(4000))).toBeUndefined();
  expect(performance.now() - began).toBeLessThan(2000);
});
