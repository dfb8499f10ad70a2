import { conditionsIn, conditionsSchema, meets, toggled, type Part, type PickCondition } from './conditions';

const of = '00000000-0000-4000-8000-000000000001';
const any = (...anyOf: PickCondition['anyOf']): PickCondition => ({ of, anyOf });
const reads = (parts: readonly unknown[]): boolean => conditionsSchema.safeParse(parts).success;

it('is met by any of the values asked for, by nothing where nothing is asked for, and by all where none is', () => {
  expect(meets(any('a', 'b'), 'b')).toBe(true);
  expect(meets(any('a'), ['x', 'a'])).toBe(true);
  expect(meets(any('a'), null)).toBe(false);
  expect(meets(any(null), undefined)).toBe(true);
  expect(meets(any(null, 'a'), 'a')).toBe(true);
  expect(meets(any(false), true)).toBe(false);
  expect(meets(any(), 'whatever')).toBe(true);
});

it('has its values switched one by one, and stays when the last one goes', () => {
  const one = toggled([], of, 'a');
  const two = toggled(one, of, 'b');
  expect(two).toEqual([any('a', 'b')]);
  expect(toggled(toggled(two, of, 'a'), of, 'b')).toEqual([any()]);
});

it.each<[string, unknown]>([
  ['values', any('a', 1, true, null)],
  ['a word', { of: 'title', text: 'contains', words: '%_(.*)' }],
  ['emptiness', { of, filled: false }],
  ['a range', { of: 'size', from: null, to: 5 }],
  ['days of the calendar', { of, span: { from: '2026-07-14', to: null } }],
  ['the next days', { of, span: { next: 60, unit: 'day' } }],
  ['a named stretch', { of: 'changedAt', span: { is: 'since-look' } }],
  ['people by who they are', { of: 'filedBy', who: ['me', 'my-groups'] }],
  ['a block', { how: 'none', parts: [any('a'), { how: 'any', parts: [any('b'), any('c')] }] }],
])('reads %s from an address', (_name, part) => {
  expect(reads([part])).toBe(true);
});

it.each<[string, unknown]>([
  ['a made-up property', { of: 'made up', anyOf: ['a'] }],
  ['501 values', any(...Array.from({ length: 501 }, (_each, index) => index))],
  ['two questions at once', { ...any('a'), filled: true }],
  ['no question', { of }],
  ['an empty word', { of: 'title', text: 'contains', words: '  ' }],
  ['an unknown operator', { of: 'title', text: 'matches', words: 'a' }],
  ['a day that is none', { of, span: { from: '2026-02-30', to: null } }],
  ['a stretch of nothing', { of, span: { next: 0, unit: 'day' } }],
  ['blocks three deep', { how: 'all', parts: [{ how: 'any', parts: [{ how: 'none', parts: [] }] }] }],
  ['a number that is none', { of: 'size', from: Number.NaN, to: null }],
])('refuses %s', (_name, part) => {
  expect(reads([part])).toBe(false);
});

it('finds the single conditions in blocks', () => {
  const parts: Part[] = [any('a'), { how: 'any', parts: [any('b'), { how: 'none', parts: [any('c')] }] }];
  expect(conditionsIn(parts)).toEqual([any('a'), any('b'), any('c')]);
});
