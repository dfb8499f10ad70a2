import { isOfType, isWithin, rulesAt, type Rule } from './rules';

const broader = new Map([
  ['staff policy', 'policy'],
  ['leave policy', 'staff policy'],
]);

it.each([
  ['policy', true],
  ['staff policy', true],
  ['leave policy', true],
  ['minutes', false],
])('says whether %s is a policy: %s', (term, is) => {
  expect(isWithin(term, 'policy', broader)).toBe(is);
});

it('ends where terms are a ring', () => {
  const ring = new Map([
    ['a', 'b'],
    ['b', 'a'],
  ]);
  expect(isWithin('a', 'c', ring)).toBe(false);
  expect(isWithin('a', 'b', ring)).toBe(true);
});

it('knows a type by one value, or by one of several', () => {
  const policy = { columnId: 'type', termId: 'policy' };
  expect(isOfType('leave policy', policy, broader)).toBe(true);
  expect(isOfType(['minutes', 'staff policy'], policy, broader)).toBe(true);
  expect(isOfType([], policy, broader)).toBe(false);
  expect(isOfType(undefined, policy, broader)).toBe(false);
  expect(isOfType(7, policy, broader)).toBe(false);
});

it('lets the nearest place speak first, and there the rules of a type before the one for all', () => {
  const rule = (id: string, placeId: string, termId: string | null): Rule<string> => ({
    id,
    placeId,
    ofType: termId === null ? null : { columnId: 'type', termId },
    says: id,
  });
  const rules = new Map([
    ['library', [rule('everything', 'library', null)]],
    ['series', [rule('all of the series', 'series', null), rule('its policies', 'series', 'policy')]],
  ]);
  expect(rulesAt(rules, ['library', 'series', 'dossier']).map(({ id }) => id)).toEqual([
    'its policies',
    'all of the series',
    'everything',
  ]);
  expect(rulesAt(rules, ['library', 'other']).map(({ id }) => id)).toEqual(['everything']);
});
