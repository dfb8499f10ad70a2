import { storable } from './storable';

it.each([
  ['a\0b', 'ab'],
  ['cut \ud83d', 'cut \ufffd'],
  ['\udc00 begun', '\ufffd begun'],
  ['whole \ud83d\ude00', 'whole \ud83d\ude00'],
  ['plain', 'plain'],
])('%j is kept as %j', (text, kept) => {
  expect(storable(text)).toBe(kept);
});
