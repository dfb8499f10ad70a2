import { countWords } from './words';

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
