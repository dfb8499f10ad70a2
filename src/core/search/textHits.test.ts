import fc from 'fast-check';
import { plainIndex } from '../../../tests/oracle/plainFinding';
import { textHits, type TextIndex } from './textHits';
import { readQuestion, type Wanted } from './question';

/** English texts by number, as an index. */
const indexOf = (texts: readonly string[]): TextIndex => ({
  languages: [null, 'en'],
  ...plainIndex(new Map(texts.map((text, number) => [number, { text, language: 'en' }]))),
});

/** Texts in which all of a question stands, and nothing that it puts out. */
function found(typed: string, library: readonly string[], isTyping = false): number[] {
  const { all, none } = readQuestion(typed, isTyping);
  const index = indexOf(library);
  const inTexts = (wanted: Wanted) => {
    const hits = textHits(wanted, index);
    return hits && new Set(hits.flatMap(({ numbers }) => [...numbers]));
  };
  const sets = all.map(inTexts).filter((set) => set !== null);
  const out = none.map(inTexts);
  return library.flatMap((_text, number) =>
    sets.length > 0 && sets.every((set) => set.has(number)) && !out.some((set) => set?.has(number)) ? [number] : [],
  );
}

const texts = [
  'The fender piles at the ferry stage are to be lifted.',
  'Piles of fenders lie on the quay.',
  'Dredging of the north bar. Invoice INV-2023-00471 was paid.',
  'Send an e-mail to the harbour master about the piles.',
  'Signed on 9th May 2026 for £91,700.00 in all.',
  'See INV-2031-9/b at https://tides.example/table?port=2 for it.',
];

describe('what is found', () => {
  it.each([
    ['fender pile', [0, 1]],
    ['piles fenders', [0, 1]],
    ['"fender piles"', [0]],
    ['piles -fender', [3]],
    ['piles -"fender piles"', [1, 3]],
    ['INV-2023-00471', [2]],
    ['inv202300471', [2]],
    ['00471', [2]],
    ['email', [3]],
    ['the', []],
    ['the piles', [0, 1, 3]],
    ['"piles at the ferry"', [0]],
    ['"piles at ferry"', []],
    ['-piles', []],
    ['kittiwake', []],
    ['fend*', [0, 1]],
    ['0047', [2]],
    ['2023-0047', [2]],
    ['"9 may 2026"', [4]],
    ['9/5/26', [4]],
    ['may 2026', [4]],
    ['10 may 2026', []],
    ['£91,700', [4]],
    ['91700', [4]],
    ['91,700.50', []],
    // Joined further in the text than in the question.
    ['INV-2031-9', [5]],
    ['tides.example', [5]],
    ['tides.example/table', [5]],
  ])('for %s', (typed, expected) => expect(found(typed, texts)).toEqual(expected));

  it('is found by the beginning of the word that is still being typed', () => {
    expect(found('piles fer', texts, true)).toEqual([0]);
    expect(found('piles fer', texts)).toEqual([]);
  });

  it('is, for random questions over random texts, what looking through each text finds', () => {
    const vocabulary = ['pile', 'quay', 'ferry', 'crane', 'berth', 'lease', 'tide'];
    const words = fc.array(fc.constantFrom(...vocabulary), { minLength: 1, maxLength: 12 });
    const asked = fc.array(
      fc.record({
        minus: fc.boolean(),
        words: fc.array(fc.constantFrom(...vocabulary), { minLength: 1, maxLength: 3 }),
      }),
      { minLength: 1, maxLength: 3 },
    );
    fc.assert(
      fc.property(fc.array(words, { maxLength: 12 }), asked, (library, question) => {
        const typed = question.map(({ minus, words: each }) => `${minus ? '-' : ''}"${each.join(' ')}"`).join(' ');
        const holds = (text: readonly string[], phrase: readonly string[]) =>
          ` ${text.join(' ')} `.includes(` ${phrase.join(' ')} `);
        const wanted = question.filter(({ minus }) => !minus);
        const expected = library.flatMap((text, number) =>
          wanted.length > 0 && question.every(({ minus, words: each }) => holds(text, each) !== minus) ? [number] : [],
        );
        expect(
          found(
            typed,
            library.map((text) => text.join(' ')),
          ),
        ).toEqual(expected);
      }),
      { numRuns: 500, seed: 20261127 },
    );
  });
});
