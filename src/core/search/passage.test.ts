import { passageOf } from './passage';
import { readQuestion } from './question';

const wanted = (typed: string) => readQuestion(typed).all;

const page = `${'Nothing of note was said about it. '.repeat(20)}The fender piles at the ferry stage are to be lifted before the winter. ${'And so on. '.repeat(40)}A pile lies on the quay.`;

it('is where most of what was asked for stands close together', () => {
  const passage = passageOf(page, wanted('fender pile ferries'), ['en']);
  expect(passage?.text).toContain('The fender piles at the ferry stage');
  expect(passage?.marks.map(([from, to]) => passage.text.slice(from, to))).toEqual(['fender', 'piles', 'ferry']);
  expect(passage?.text.length).toBeLessThan(400);
});

it('is none where none of it stands', () => {
  expect(passageOf(page, wanted('kittiwake'), ['en'])).toBeNull();
  expect(passageOf('', wanted('pile'), ['en'])).toBeNull();
});

it('marks words by their beginning, and whatever their accents and case', () => {
  const passage = passageOf('At the CAFÉ on the quayside', wanted('cafe quay*'), ['en']);
  expect(passage?.marks.map(([from, to]) => passage.text.slice(from, to))).toEqual(['CAFÉ', 'quayside']);
});

it('marks a day, an amount and a compound however they are written', () => {
  const text = 'On 9th May 2026 the e-mail of INV-2023-00471 for £91,700.00 came.';
  const passage = passageOf(text, wanted('9/5/26 email 0047 91700'), ['en']);
  expect(passage?.marks.map(([from, to]) => passage.text.slice(from, to))).toEqual([
    '9th May 2026',
    'e-mail',
    '00471',
    '£91,700.00',
  ]);
});

it('is found in a page of one word a hundred thousand times', () => {
  expect(passageOf('pile '.repeat(100_000), wanted('pile quay'), ['en'])?.terms).toBe(1);
});
