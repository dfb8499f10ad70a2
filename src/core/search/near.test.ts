import fc from 'fast-check';
import { distance } from 'fastest-levenshtein';
import { editsBetween, nearOnes } from './near';

describe('edits between two words', () => {
  /** Damerau's own kinds of error: one letter put in, left out, changed, or two swapped. */
  it.each([
    ['harbour', 'harbour', 0],
    ['harbour', 'harbor', 1],
    ['recieve', 'receive', 1],
    ['dreging', 'dredging', 1],
    ['pontoom', 'pontoon', 1],
    ['northmoor', 'nrothmore', 3],
    ['', 'ab', 2],
  ])('%s, %s: %d', (one, other, edits) => {
    expect(editsBetween(one, other, 5)).toBe(edits);
    expect(editsBetween(other, one, 5)).toBe(edits);
  });

  it('are never more than Levenshtein has, nor less than half of them, and are cut where asked', () => {
    const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c', 'd'), maxLength: 8 });
    fc.assert(
      fc.property(word, word, (one, other) => {
        const edits = editsBetween(one, other, 20);
        expect(edits).toBeLessThanOrEqual(distance(one, other));
        expect(edits * 2).toBeGreaterThanOrEqual(distance(one, other));
        expect(editsBetween(one, other, 2)).toBe(Math.min(3, edits));
      }),
      { numRuns: 2000, seed: 20261127 },
    );
  });
});

it('finds near words, and none for short ones, numbers, and the word itself', () => {
  const words = ['dredging', 'dredger', 'bridging', 'quay', 'key', '00471'];
  expect(nearOnes('dreging', words).map(({ word }) => word)).toEqual(['dredging']);
  expect(nearOnes('kay', words)).toEqual([]);
  expect(nearOnes('00472', words)).toEqual([]);
  expect(nearOnes('quay', ['quay'])).toEqual([]);
});
