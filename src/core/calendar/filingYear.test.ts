import { addDays, parseISO } from 'date-fns';
import { dayNumber, filingYearOfDay, filingYearSpanDays, isoDay } from './period';
import { filingYearLabel, filingYearOf, filingYearShort } from './filingYear';

const april = { yearStartMonth: 4, timeZone: 'Europe/London' };

describe('filing years', () => {
  it.each([
    ['2026-03-31T22:59:59Z', 2025, 'the last second before midnight, in summer time'],
    ['2026-03-31T23:00:00Z', 2026, 'midnight of 1 April in London'],
    ['2027-01-15T12:00:00Z', 2026, 'a day in the second calendar year'],
    ['2028-02-29T12:00:00Z', 2027, 'a leap day'],
  ])('%s is in %d: %s', (instant, year, _why) => {
    expect(filingYearOf(new Date(instant), april)).toBe(year);
  });

  it('depend on the library’s time zone', () => {
    const instant = new Date('2026-03-31T20:00:00Z');
    expect(filingYearOf(instant, { yearStartMonth: 4, timeZone: 'Pacific/Auckland' })).toBe(2026);
    expect(filingYearOf(instant, { yearStartMonth: 4, timeZone: 'America/New_York' })).toBe(2025);
  });

  // By both years: common practice, no source.
  it.each([
    [2026, 4, 'both', '2026–27', '26–27'],
    [2026, 1, 'both', '2026', '2026'],
    [1999, 7, 'both', '1999–2000', '99–00'],
    [2008, 10, 'both', '2008–09', '08–09'],
    [2026, 4, 'first', '2026', '2026'],
    [2026, 1, 'first', '2026', '2026'],
    [2026, 1, 'last', '2026', '2026'],
    [1999, 7, 'last', '2000', '2000'],
  ] as const)(
    'the year from %d with month %d is written, by %s, %s and %s',
    (year, month, yearLabels, label, short) => {
      const naming = { yearStartMonth: month, yearLabels };
      expect(filingYearLabel(year, naming)).toBe(label);
      expect(filingYearShort(year, naming)).toBe(short);
    },
  );

  // OMB Circular A-11, section 20 (from memory): the fiscal year begins on 1 October and ends on the next 30 September,
  // and is named by the calendar year in which it ends.
  it.each([
    ['2025-09-30', '2025'],
    ['2025-10-01', '2026'],
    ['2026-09-30', '2026'],
    ['2024-02-29', '2024'],
  ])('%s is in the US federal fiscal year %s', (day, label) => {
    const naming = { yearStartMonth: 10, yearLabels: 'last' } as const;
    expect(filingYearLabel(filingYearOfDay(dayNumber(day) ?? 0, 10), naming)).toBe(label);
  });

  // Interpretation Act 1978 (UK), Schedule 1 (from memory): a financial year is the twelve months ending with 31 March.
  it.each([
    ['2026-03-31', '2025–26'],
    ['2026-04-01', '2026–27'],
  ])('%s is in the UK financial year %s', (day, label) => {
    const naming = { yearStartMonth: 4, yearLabels: 'both' } as const;
    expect(filingYearLabel(filingYearOfDay(dayNumber(day) ?? 0, 4), naming)).toBe(label);
  });

  it('follow each other without a gap for every month and over leap years', () => {
    for (let month = 1; month <= 12; month += 1) {
      for (let year = 1999; year < 2033; year += 1) {
        const last = isoDay(filingYearSpanDays(year, month).to);
        const next = isoDay(filingYearSpanDays(year + 1, month).from);
        expect(addDays(parseISO(last), 1)).toEqual(parseISO(next));
      }
    }
  });
});
