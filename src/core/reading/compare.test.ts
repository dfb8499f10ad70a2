import fc from 'fast-check';
import { compareTexts } from './compare';

const told = (one: string[], other: string[]) => compareTexts(one, other, 5000);

it('marks words that came and went', () => {
  expect(told(['The quay is open'], ['The quay was open'])).toMatchObject({
    parts: [
      { kind: 'same', text: 'The quay ' },
      { kind: 'removed', text: 'is' },
      { kind: 'added', text: 'was' },
      { kind: 'same', text: ' open' },
    ],
    givenUp: false,
  });
});

it('does not count where lines end', () => {
  const { parts, changedPages } = told(['one two\nthree'], ['one two three']);
  expect(parts.map(({ kind }) => kind)).toEqual(['same']);
  expect(changedPages).toEqual({ one: [], other: [] });
});

it('names pages whose words the other has on no page, also where pages have moved', () => {
  expect(told(['first', 'second', 'third'], ['new', 'first', 'second, amended', 'third']).changedPages).toEqual({
    one: [2],
    other: [1, 3],
  });
});

it('gives up words that take too long, and compares the pages all the same', () => {
  const words = (seed: number) => Array.from({ length: 30_000 }, (_each, at) => `w${(at * seed) % 29_989}`).join(' ');
  expect(compareTexts([words(7)], [words(11)], 1)).toMatchObject({
    givenUp: true,
    parts: [],
    changedPages: { one: [1] },
  });
});

it('keeps every word of both', () => {
  const word = fc.constantFrom('harbour', 'wall', 'tide', 'ebb', 'and', 'the');
  const page = fc.array(word, { minLength: 1, maxLength: 12 }).map((words) => words.join(' '));
  fc.assert(
    fc.property(
      fc.array(page, { minLength: 1, maxLength: 3 }),
      fc.array(page, { minLength: 1, maxLength: 3 }),
      (one, other) => {
        const { parts } = told(one, other);
        const without = (kind: string) =>
          parts
            .filter((part) => part.kind !== kind)
            .map(({ text }) => text)
            .join('');
        expect(without('added')).toBe(one.join('\n\n'));
        expect(without('removed')).toBe(other.join('\n\n'));
      },
    ),
    { seed: 17, numRuns: 200 },
  );
});
