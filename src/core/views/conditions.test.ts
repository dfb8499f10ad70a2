import { conditionsSchema, meets, toggled, type Condition } from './conditions';

const of = '00000000-0000-4000-8000-000000000001';
const any = (...anyOf: Condition['anyOf']): Condition => ({ of, anyOf });

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

it('reads from an address, and refuses what is no condition', () => {
  expect(conditionsSchema.safeParse([any('a', 1, true, null)]).success).toBe(true);
  expect(conditionsSchema.safeParse([any('a'), any('b')]).success).toBe(false);
  expect(conditionsSchema.safeParse([{ of: 'made up', anyOf: ['a'] }]).success).toBe(false);
  expect(conditionsSchema.safeParse([any(...Array.from({ length: 501 }, (_, index) => index))]).success).toBe(false);
});
