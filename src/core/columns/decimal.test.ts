import fc from 'fast-check';
import { readDecimal, writeDecimal } from './decimal';

const value = (raw: string, decimals: number | null = null) => {
  const read = readDecimal(raw, decimals);
  return read.ok ? read.value : read.issue.says;
};

describe('reading a number', () => {
  it.each([
    ['0', 0],
    ['-0', 0],
    ['1234.5', 1234.5],
    ['1,234.50', 1234.5],
    ['1,234,567', 1234567],
    ['12 345.6', 12345.6],
    ['12\u202f345', 12345],
    ['.5', 0.5],
    ['-5', -5],
    ['−5', -5],
    ['+5', 5],
    // Brackets for a negative amount: common practice of accounts, no source.
    ['(12.50)', -12.5],
    ['  7  ', 7],
  ])('takes %s', (raw, expected) => {
    expect(value(raw)).toBe(expected);
  });

  it.each([
    ['1.234,50', 'write 1,234.50'],
    ['12,5', 'write 12.5'],
    ['1.234.567', 'write 1,234,567'],
    ['12,34', 'write 12.34'],
    ['1,23,456', 'is not a number'],
    ['12abc', 'is not a number'],
    ['1e5', 'is not a number'],
    ['--5', 'is not a number'],
    ['.', 'is not a number'],
    ['1234567890123456', 'more than 15 digits'],
  ])('refuses %s and says what would do', (raw, says) => {
    expect(String(value(raw))).toContain(says);
  });

  it('never rounds: more decimals than fit are refused, noughts at the end are not', () => {
    expect(value('1.235', 2)).toContain('more than 2 decimals');
    expect(value('1.2300', 2)).toBe(1.23);
    expect(value('1.5', 0)).toContain('only whole numbers');
  });

  it('reads back whatever Intl writes in British English (CLDR en-GB)', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), fc.constantFrom(0, 1, 2, 3), (whole, decimals) => {
        const number = whole / 10 ** decimals;
        const written = new Intl.NumberFormat('en-GB', {
          minimumFractionDigits: decimals,
          maximumFractionDigits: decimals,
        }).format(number);
        expect(value(written)).toBe(number === 0 ? 0 : number);
        expect(value(writeDecimal(number, decimals), decimals)).toBe(number === 0 ? 0 : number);
      }),
      { seed: 11 },
    );
  });
});
