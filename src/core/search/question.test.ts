import { mostWords, readQuestion } from './question';

const words = (typed: string) => readQuestion(typed).all.map((wanted) => wanted.words.join(' '));

it.each([
  ['fender piles', ['fender', 'piles']],
  ['"fender piles" ferry', ['fender piles', 'ferry']],
  ['“fender piles”', ['fender piles']],
  ['   ', []],
  ['"', []],
  ['-', []],
  ['\u02bc', []],
  ['- - "" \'', []],
  ['"fender piles', ['fender', 'piles']],
  ['a% _ \\ ; drop table', ['a', 'drop', 'table']],
  ['INV-2023-00471', ['INV 2023 00471']],
  ['fender\u0000piles', ['fender', 'piles']],
])('reads %j as what is wanted', (typed, expected) => expect(words(typed).join('|')).toBe(expected.join('|')));

it('takes what has a minus before it as what is not to be there, and a hyphen within a word as that', () => {
  const question = readQuestion('minutes -draft -"not approved" e-mail');
  expect(question.all.map((each) => each.words.join(' '))).toEqual(['minutes', 'e mail']);
  expect(question.none.map((each) => each.words.join(' '))).toEqual(['draft', 'not approved']);
});

it('takes the last word as a beginning while it is typed', () => {
  expect(readQuestion('berth lea', true).all.map((each) => each.isBeginning)).toEqual([false, true]);
  expect(readQuestion('berth lea ', true).all.map((each) => each.isBeginning)).toEqual([false, false]);
  expect(readQuestion('lea*').all.map((each) => each.isBeginning)).toEqual([true]);
});

it('looks for so many words and says how many it left out', () => {
  const question = readQuestion(Array.from({ length: 300 }, (_none, at) => `w${at}`).join(' '));
  expect(question.all).toHaveLength(mostWords);
  expect(question.leftOut).toBe(300 - mostWords);
  expect(readQuestion('x '.repeat(1_000_000)).all.length).toBeLessThanOrEqual(mostWords);
});
