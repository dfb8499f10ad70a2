import { textPage, textPages } from './pages';

it('cuts long lines between words, and words that are longer than a line', () => {
  const words = Array.from({ length: 40 }, (_, at) => `word${at}`).join(' ');
  const [page] = textPages(words);
  expect(page?.every((line) => line.length <= textPage.columns)).toBe(true);
  expect(page?.join(' ')).toBe(words);
  expect(textPages('x'.repeat(200))).toEqual([['x'.repeat(92), 'x'.repeat(92), 'x'.repeat(16)]]);
});

it('begins another page after so many lines, and at a form feed', () => {
  const lines = Array.from({ length: textPage.lines + 1 }, (_, at) => `line ${at}`).join('\n');
  expect(textPages(lines).map((page) => page.length)).toEqual([textPage.lines, 1]);
  expect(textPages('one\ftwo\n')).toEqual([['one'], ['two']]);
});

it('has one page for nothing, and leaves out what cannot be seen', () => {
  expect(textPages('')).toEqual([['']]);
  expect(textPages('a\u0000b\r\nc\u202Ed\te')).toEqual([['ab', 'cd    e']]);
});
