import { counted, sizeInWords, timeLeftInWords } from './measure';
import { naturalCompare } from './natural';
import { dayInWords, whenInWords } from '../calendar/moment';

describe('sizes, counts and times in words', () => {
  it.each([
    [0, '0 B'],
    [999, '999 B'],
    [1000, '1.0 kB'],
    [184_300, '184 kB'],
    [999_960, '1.0 MB'],
    [21_400_000, '21.4 MB'],
    [2_000_000_000, '2.0 GB'],
  ])('%d bytes are %s (SI units, IEC 80000-13)', (bytes, words) => {
    expect(sizeInWords(bytes)).toBe(words);
  });

  it('counts one and many', () => {
    expect(counted(1, 'paper')).toBe('1 paper');
    expect(counted(12_000, 'person', 'people')).toBe('12,000 people');
  });

  it.each([
    [2, 'under 5 s'],
    [31, '35 s'],
    [58, '1 min'],
    [600, '10 min'],
    [7200, '2 h'],
  ])('%d seconds left read %s', (seconds, words) => {
    expect(timeLeftInWords(seconds)).toBe(words);
  });
});

describe('moments in words', () => {
  const now = '2026-07-14T22:30:00.000Z';

  it('belong to the day of the library’s time zone, not of the computer', () => {
    expect(dayInWords(now, 'Europe/London')).toBe('14 Jul 2026');
    expect(dayInWords(now, 'Asia/Tokyo')).toBe('15 Jul 2026');
  });

  it.each([
    ['2026-07-14T08:14:00.000Z', 'today, 09:14'],
    ['2026-07-13T16:02:00.000Z', 'yesterday, 17:02'],
    ['2026-07-11T10:00:00.000Z', '3 days ago'],
    ['2026-07-07T10:00:00.000Z', '7 Jul 2026'],
    ['2026-08-01T10:00:00.000Z', '1 Aug 2026'],
  ])('%s reads %s', (at, words) => {
    expect(whenInWords(at, now, 'Europe/London')).toBe(words);
  });
});

describe('natural order', () => {
  it('puts numbers by their value', () => {
    expect(['Appendix 10', 'Appendix 2', 'appendix 1'].sort(naturalCompare)).toEqual([
      'appendix 1',
      'Appendix 2',
      'Appendix 10',
    ]);
  });
});
