import fc from 'fast-check';
import { tokensIn } from './analyse';
import { evaluate, type TextIndex } from './evaluate';
import { blockOf, readPostings, type Postings } from './postings';
import { readQuestion } from './question';

/** Texts by number, as an index: what is stored and read again, in segments of three. */
function indexOf(texts: readonly string[], language: string | null = 'en'): TextIndex {
  const places = new Map<string, Map<number, number[]>>();
  texts.forEach((text, number) => {
    for (const { term, position } of tokensIn(text, language)) {
      const of = places.get(term) ?? new Map<number, number[]>();
      places.set(term, of.set(number, [...(of.get(number) ?? []), position]));
    }
  });
  const lengths = texts.map((text) => text.split(/\s+/u).length);
  return {
    languages: [language],
    texts: texts.length,
    meanLength: lengths.reduce((sum, each) => sum + each, 0) / Math.max(1, lengths.length),
    lengthOf: (number) => lengths[number] ?? 0,
    postings: (term): Postings | null => {
      const entries = [...(places.get(term) ?? [])].map(([number, positions]) => ({ number, positions }));
      if (entries.length === 0) return null;
      const blocks: ReturnType<typeof blockOf>[] = [];
      for (let at = 0; at < entries.length; at += 3) blocks.push(blockOf(entries.slice(at, at + 3)));
      const join = (part: 'docs' | 'pos') => Uint8Array.from(blocks.flatMap((block) => [...block[part]]));
      return readPostings(join('docs'), join('pos'));
    },
    beginningWith: (start) => [...places.keys()].filter((term) => term.startsWith(start)),
  };
}

const found = (typed: string, texts: readonly string[], isTyping = false): number[] => [
  ...evaluate(readQuestion(typed, isTyping), indexOf(texts)).numbers,
];

const texts = [
  'The fender piles at the ferry stage are to be lifted.',
  'Piles of fenders lie on the quay.',
  'Dredging of the north bar. Invoice INV-2023-00471 was paid.',
  'Send an e-mail to the harbour master about the piles.',
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

describe('the score', () => {
  const scores = (typed: string, library: readonly string[]) => {
    const { numbers, scores: all } = evaluate(readQuestion(typed), indexOf(library));
    return new Map([...numbers].map((number, at) => [number, all[at] ?? 0]));
  };

  it('is higher where a word stands more often, and in a shorter text', () => {
    const all = scores('crane', [
      'crane and ropes and chains',
      'crane, crane and chains here',
      `crane ${'and other matters '.repeat(60)}`,
    ]);
    expect(all.get(1)).toBeGreaterThan(all.get(0) ?? 0);
    expect(all.get(0)).toBeGreaterThan(all.get(2) ?? 0);
  });

  it('counts a rare word for more than a common one', () => {
    const library = ['crane berth', 'berth berth', 'berth tide', 'berth quay', 'crane lease'];
    const [rare, common] = [scores('crane', library).get(0) ?? 0, scores('berth', library).get(0) ?? 0];
    expect(rare).toBeGreaterThan(common);
  });
});
