import fc from 'fast-check';
import { Chance } from '../chance/chance';
import { bandsOf, comparableWords, likenessOf, muchAlike, sketchOf, sketchSize } from './sketch';

/** The share of runs of four words that two texts have in common, counted. */
function counted(one: readonly string[], other: readonly string[]): number {
  const runs = (words: readonly string[]) =>
    new Set(Array.from({ length: words.length - 3 }, (_none, at) => words.slice(at, at + 4).join(' ')));
  const [left, right] = [runs(one), runs(other)];
  const both = [...left].filter((each) => right.has(each)).length;
  return both / (left.size + right.size - both);
}

const sketch = (words: readonly string[]): number[] => sketchOf(words) ?? [];

describe('a sketch of a text', () => {
  it('estimates the share of what two texts have in common as counting finds it', () => {
    let worst = 0;
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1_000_000 }), fc.integer({ min: 0, max: 60 }), (seed, changes) => {
        const chance = new Chance(seed);
        const one = Array.from({ length: 300 }, () => `w${chance.whole(0, 5000)}`);
        const other = [...one];
        for (let change = 0; change < changes; change += 1) other[chance.whole(0, 299)] = `x${chance.whole(0, 5000)}`;
        const off = Math.abs(likenessOf(sketch(one), sketch(other)) - counted(one, other));
        worst = Math.max(worst, off);
        // Five times the standard error at its widest.
        expect(off).toBeLessThan(5 * Math.sqrt(0.25 / sketchSize));
      }),
      { numRuns: 200, seed: 20261127 },
    );
    // An estimate that is always right would be a count.
    expect(worst).toBeGreaterThan(0);
  });

  it('finds by its bands nearly all that is much alike, and little that is not', () => {
    const found = (changes: number): number => {
      let shared = 0;
      for (let seed = 1; seed <= 200; seed += 1) {
        const chance = new Chance(seed);
        const one = Array.from({ length: 400 }, () => `w${chance.whole(0, 5000)}`);
        const other = one.map((word) => (chance.happens(changes) ? `x${chance.whole(0, 5000)}` : word));
        const keys = bandsOf(sketch(other));
        if (bandsOf(sketch(one)).some((key, band) => keys[band] === key)) shared += 1;
      }
      return shared / 200;
    };
    // With one word in twenty changed, about two runs in three are in common.
    expect(found(0.05)).toBeGreaterThan(0.98);
    expect(found(0.7)).toBeLessThan(0.05);
    expect(muchAlike).toBeLessThanOrEqual(0.65);
  });

  it('does not care for case, accents and punctuation', () => {
    const text =
      'The Trust’s oyster growers met at the café on the quay, and agreed what they had agreed before. '.repeat(3);
    expect(sketchOf(comparableWords(text.toUpperCase().replaceAll('É', 'E')))).toEqual(
      sketchOf(comparableWords(text.replaceAll(',', ' -'))),
    );
  });

  it('is not made of a text that is too short to compare', () => {
    expect(sketchOf(comparableWords('Invoice 0047, with thanks'))).toBeNull();
  });
});
