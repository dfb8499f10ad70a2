import { passageOf } from './passage';

const page = `${'Nothing of note was said about it. '.repeat(20)}The fender piles at the ferry stage are to be lifted before the winter. ${'And so on. '.repeat(40)}A pile lies on the quay.`;

it('is where most of what was asked for stands close together', () => {
  const passage = passageOf(page, new Set(['fender', 'pile', 'ferri']), [], ['en']);
  expect(passage?.text).toContain('The fender piles at the ferry stage');
  expect(passage?.marks.map(([from, to]) => passage.text.slice(from, to))).toEqual(['fender', 'piles', 'ferry']);
  expect(passage?.text.length).toBeLessThan(400);
});

it('is none where none of it stands', () => {
  expect(passageOf(page, new Set(['kittiwak']), [], ['en'])).toBeNull();
  expect(passageOf('', new Set(['pile']), [], ['en'])).toBeNull();
});

it('marks words by their beginning, and whatever their accents and case', () => {
  const passage = passageOf('At the CAFÉ on the quayside', new Set(['cafe']), ['quay'], ['en', null]);
  expect(passage?.marks.map(([from, to]) => passage.text.slice(from, to))).toEqual(['CAFÉ', 'quayside']);
});
