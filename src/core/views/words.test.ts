import type { Condition, Part } from './conditions';
import { askedInWords, conditionsInWords, spanInWords, type ConditionWords } from './words';

const words: ConditionWords = {
  years: { yearStartMonth: 4, yearLabels: 'both' },
  property: (of) => (of === 'kind' ? 'Kind' : of === 'pages' ? 'Pages' : 'Filed'),
  value: (_of, value) => (value === 'gone' ? null : String(value)),
};
const kinds = (...anyOf: string[]): Condition => ({ of: 'kind', anyOf });

it.each<[Condition, string]>([
  [kinds(), 'any'],
  [kinds('PDF'), 'PDF'],
  [kinds('PDF', 'SCAN'), 'PDF or SCAN'],
  [kinds('gone'), '…'],
  [kinds('a', 'b', 'c', 'd', 'e'), 'one of 5 values'],
  [{ of: 'title', text: 'contains', words: '0047' }, 'has “0047”'],
  [{ of: 'title', text: 'starts', words: 'Min' }, 'begins with “Min”'],
  [{ of: 'pages', filled: false }, 'empty'],
  [{ of: 'pages', from: 2, to: 1000 }, '2 to 1,000'],
  [{ of: 'pages', from: null, to: 3 }, 'at most 3'],
  [{ of: 'pages', from: 3, to: null }, 'at least 3'],
  [{ of: 'filedBy', who: ['me', 'my-groups'] }, 'me or someone in my groups'],
])('says of %j that it asks for “%s”', (condition, said) => {
  expect(askedInWords(condition, words)).toBe(said);
});

it.each([
  [{ next: 60, unit: 'day' }, 'in the next 60 days'],
  [{ next: 1, unit: 'month' }, 'in the next month'],
  [{ last: 2, unit: 'week' }, 'in the last 2 weeks'],
  [{ is: 'before-today' }, 'before today'],
  [{ is: 'last-filing-year' }, 'last filing year'],
  [{ from: '2026-07-14', to: null }, 'from 14 Jul 2026'],
  [{ from: null, to: '2026-07-14' }, 'up to 14 Jul 2026'],
  [{ from: '2026-07-14', to: '2026-07-14' }, 'on 14 Jul 2026'],
  [{ from: '2026-07-14', to: '2026-08-01' }, 'from 14 Jul 2026 to 1 Aug 2026'],
  [{ from: null, to: null }, 'any day'],
] as const)('writes %j as “%s”', (span, said) => {
  expect(spanInWords(span, words.years)).toBe(said);
});

it('says all conditions in one sentence', () => {
  const parts: Part[] = [
    kinds('PDF'),
    { how: 'none', parts: [kinds('SCAN'), { of: 'pages', from: null, to: 2 }] },
    { how: 'any', parts: [{ of: 'filedAt', span: { is: 'today' } }, kinds('MAIL')] },
  ];
  expect(conditionsInWords(parts, words)).toBe(
    'Kind PDF, and not (Kind SCAN or Pages at most 2), and (Filed today or Kind MAIL)',
  );
});
