import fc from 'fast-check';
import {
  formatReference,
  nextReference,
  numberIn,
  readPattern,
  readReference,
  type ReferencePattern,
} from './reference';

function pattern(text: string, year = 2026): ReferencePattern {
  const read = readPattern(text, year);
  if (!read.ok) throw new Error(read.issue.says);
  return read.value;
}

describe('reference patterns', () => {
  it.each([
    ['T-###', [], 'T-001'],
    ['T-###', ['T-001', 'T-014', 'T-002'], 'T-015'],
    ['T-###', ['T-999'], 'T-1000'],
    ['W-{yy}-##', ['W-25-07', 'W-26-01'], 'W-26-02'],
    ['#', ['3', 'x', '-1'], '4'],
    ['##/B', ['09/B', '10/C'], '10/B'],
  ])('%s after %j gives %s', (text, taken, next) => {
    expect(nextReference(pattern(text), taken)).toBe(next);
  });

  it.each([
    ['no number', 'T-'],
    ['two runs', '#-#'],
    ['an unknown part', 'T-{year}-##'],
    ['a stray brace', 'T-{yy-##'],
    ['a sign it does not know', 'T*##'],
    ['more digits than a number has', '##########'],
    ['more than fits', `${'T'.repeat(50)}##`],
  ])('refuses a pattern with %s', (_what, text) => {
    expect(readPattern(text, 2026).ok).toBe(false);
  });

  it('never gives a reference that is taken, and reads its own numbers back', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 2000 }), { maxLength: 50 }),
        fc.constantFrom('T-###', 'W-{yy}-##', '#', 'A#Z'),
        (numbers, text) => {
          const read = pattern(text);
          const taken = numbers.map((number) => formatReference(read, number));
          expect(taken).not.toContain(nextReference(read, taken));
          for (const number of numbers) expect(numberIn(read, formatReference(read, number))).toBe(number);
        },
      ),
      { seed: 11, numRuns: 500 },
    );
  });

  it('takes a reference typed by hand, and refuses one that is none', () => {
    expect(readReference(' T-014 ')).toEqual({ ok: true, value: 'T-014' });
    for (const raw of ['', '-', 'x'.repeat(41), 'T\n1', '../T']) expect(readReference(raw).ok).toBe(false);
  });
});
