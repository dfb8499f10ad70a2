import { composed, partsOf, withWord } from './compose';

it.each([
  ['fender piles', { words: 'fender piles', exactly: '', without: '' }],
  ['piles "ferry stage" -draft', { words: 'piles', exactly: 'ferry stage', without: 'draft' }],
  ['INV-2023-00471 9/5/26 fend*', { words: 'INV-2023-00471 9/5/26 fend*', exactly: '', without: '' }],
  ['"one two" "three four" -"not approved"', { words: '"three four"', exactly: 'one two', without: '"not approved"' }],
])('%s, in fields and as one line again, asks the same', (typed, parts) => {
  expect(partsOf(typed)).toEqual(parts);
  expect(partsOf(composed(parts))).toEqual(parts);
});

it('takes signs in fields for what they are there', () => {
  expect(composed({ words: ' piles ', exactly: '"ferry  stage', without: '-draft copy' })).toBe(
    '"ferry stage" piles -draft -copy',
  );
  expect(composed({ words: '', exactly: ' ', without: '' })).toBe('');
});

it('puts a word in the place of another, and not within a longer one', () => {
  expect(withWord('pilots pilot "the pilot"', 'pilot', 'pile')).toBe('pilots pile "the pile"');
  expect(withWord('a.b -c', 'c', '$&')).toBe('a.b -$&');
});
