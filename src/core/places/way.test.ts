import { placeInWords } from './way';

it.each([
  [['Works'], 'Works'],
  [['Board & committees', 'Full board'], 'Full board'],
  [['Board & committees', 'Full board', '2025–26'], 'Full board, 2025–26'],
  [['Board & committees', 'Full board', '2025–26', '9 Jul meeting'], 'Full board, 9 Jul meeting'],
  [[], ''],
])('names the place at the end of %j so that it is not in doubt: %s', (names, words) => {
  expect(placeInWords(names)).toBe(words);
});
