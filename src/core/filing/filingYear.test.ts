import { addDays, parseISO } from 'date-fns';
import { filingYearSpanDays, isoDay } from '../views/period';
import { filingYearLabel, filingYearOf, filingYearShort } from './filingYear';

const april = { startMonth: 4, timeZone: 'Europe/London' };

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
    expect(filingYearOf(instant, { startMonth: 4, timeZone: 'Pacific/Auckland' })).toBe(2026);
    expect(filingYearOf(instant, { startMonth: 4, timeZone: 'America/New_York' })).toBe(2025);
  });

  it.each([
    [2026, 4, '2026–27', '26–27'],
    [2026, 1, '2026', '2026'],
    [1999, 7, '1999–2000', '99–00'],
    [2008, 10, '2008–09', '08–09'],
  ])('the year from %d with month %d is written %s and %s', (year, month, label, short) => {
    expect(filingYearLabel(year, month)).toBe(label);
    expect(filingYearShort(year, month)).toBe(short);
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
