import fc from 'fast-check';
import { readDay, writeDay } from './typedDay';

const value = (raw: string) => {
  const read = readDay(raw);
  return read.ok ? read.value : read.issue.says;
};

describe('reading a day', () => {
  it.each([
    '2026-07-14',
    '14 Jul 2026',
    '14 July 2026',
    '14th July 2026',
    'Tuesday 14 July 2026',
    'Tue, 14 Jul 2026',
    '14/7/2026',
    '14/07/26',
    '14.7.26',
    '14.07.2026',
    '14-Jul-2026',
    'July 14, 2026',
    ' 14 jul 26 ',
  ])('takes %s as 14 July 2026', (raw) => {
    expect(value(raw)).toBe('2026-07-14');
  });

  it.each([
    ['31 Feb 2026', 'There is no day 31 Feb 2026.'],
    ['29 Feb 2025', 'There is no day'],
    ['2026-02-30', 'There is no day'],
    ['31.4.2026', 'There is no day'],
    ['14/13/2026', 'There is no day'],
    ['soon', 'is not a day'],
    ['July 2026', 'is not a day'],
  ])('refuses %s', (raw, says) => {
    expect(value(raw)).toContain(says);
  });

  it('knows leap years by the Gregorian rule', () => {
    expect(value('29 Feb 2024')).toBe('2024-02-29');
    expect(value('29 Feb 2000')).toBe('2000-02-29');
    expect(value('29 Feb 1900')).toContain('There is no day');
  });

  it('reads two-digit years as POSIX strptime does: 69 and later are of the last century', () => {
    expect(value('1/1/68')).toBe('2068-01-01');
    expect(value('1/1/70')).toBe('1970-01-01');
  });

  it('reads back what Intl writes in British English, short, medium and long (CLDR en-GB)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 40_000 }),
        fc.constantFrom('short' as const, 'medium' as const, 'long' as const),
        (days, dateStyle) => {
          const at = new Date(Date.UTC(1971, 0, 1) + days * 86_400_000);
          const written = new Intl.DateTimeFormat('en-GB', { dateStyle, timeZone: 'UTC' }).format(at);
          expect(value(written)).toBe(at.toISOString().slice(0, 10));
        },
      ),
      { seed: 12 },
    );
  });

  it('writes a day for people', () => {
    expect(writeDay('2026-07-04')).toBe('4 Jul 2026');
  });
});
