import fc from 'fast-check';
import { countWords, wordsIn } from './words';

it.each([
  ['', 0],
  ['  \n ', 0],
  ['Minutes of the meeting', 4],
  // UAX #29, WB6 and WB7: letters joined by an apostrophe or a full stop between them are one word.
  ["O'Rourke can't", 2],
  ['café marée', 2],
  // WB11 and WB12: digits with a comma or point between them are one word.
  ['£1,234.50 due', 2],
  ['— … !', 0],
  ['third-party', 2],
])('counts the words of %j', (text, words) => {
  expect(countWords(text)).toBe(words);
});

it('finds the words that segmenting the whole text finds, whatever stands in it', () => {
  const whole = new Intl.Segmenter('en-GB', { granularity: 'word' });
  const pieces = fc.constantFrom(
    ...[
      "isn't",
      'naïve',
      '1,234.50',
      'e.g.',
      'U.S.A',
      '12:30',
      '“quay”',
      '(sic)',
      'a_b',
      '__',
      'x',
      '7th',
      '3D',
      '港口',
      'ひらがな',
    ],
    ...[
      'שלום',
      'e\u0301te\u0301',
      '\u200d',
      '👩‍👩‍👧',
      'don’t',
      'co-op',
      '—',
      '…',
      '%',
      'a/b',
      'tide',
      '2026',
      'Ωmega',
      '\u00ad',
      '’tis',
    ],
  );
  const gap = fc.constantFrom(' ', '  ', '\n', '\t', '', '\u00a0', '\u2003');
  fc.assert(
    fc.property(fc.array(fc.tuple(pieces, gap), { maxLength: 20 }), (parts) => {
      const text = parts.flat().join('');
      const expected = [...whole.segment(text)].flatMap(({ segment, isWordLike }) =>
        isWordLike && /[\p{L}\p{N}]/u.test(segment) ? [segment] : [],
      );
      expect([...wordsIn(text)]).toEqual(expected);
    }),
    { seed: 11, numRuns: 3000 },
  );
});
