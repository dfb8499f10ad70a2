import { openingView, type SavedView } from './saved';
import { plainView, sameView, viewSpecSchema, withoutGone, type ViewSpec } from './spec';

type Opening = Pick<SavedView, 'placeId' | 'audience' | 'opensHere'> & { readonly name: string };
const view = (name: string, placeId: string, audience: SavedView['audience'], opensHere = true): Opening => ({
  name,
  placeId,
  audience,
  opensHere,
});
const lineage = ['library', 'series', 'dossier'];

it.each<[string, Opening[], string | undefined]>([
  ['none where none says so', [view('a', 'dossier', 'all', false)], undefined],
  ['the nearest on the way up', [view('far', 'library', 'me'), view('near', 'series', 'all')], 'near'],
  [
    'at one place one’s own before the groups’ before everyone’s',
    [view('all', 'dossier', 'all'), view('mine', 'dossier', 'me'), view('ours', 'dossier', 'groups')],
    'mine',
  ],
  ['none that is saved elsewhere', [view('elsewhere', 'other', 'all')], undefined],
])('opens %s', (_name, views, opened) => {
  expect(openingView(views, lineage)?.name).toBe(opened);
});

const gone = '00000000-0000-4000-8000-000000000001';
const here = '00000000-0000-4000-8000-000000000002';
const spec: ViewSpec = {
  ...plainView,
  conditions: [
    { of: gone, anyOf: ['x'] },
    {
      how: 'any',
      parts: [
        { of: gone, filled: true },
        { of: here, filled: true },
      ],
    },
  ],
  groupings: [{ of: gone, by: 'value', order: 'own', direction: 'up' }],
  sorts: [
    { of: 'order', direction: 'up' },
    { of: gone, direction: 'up' },
  ],
};

it('outlives its columns: groupings and sorts by one that is gone are left out and counted, conditions are not', () => {
  expect(withoutGone(spec, (of) => of === here)).toEqual({
    groupings: [],
    sorts: [{ of: 'order', direction: 'up' }],
    missing: 2,
  });
  const bySum = { of: here, by: 'value', order: gone, direction: 'up' } as const;
  expect(withoutGone({ groupings: [bySum], sorts: [] }, (of) => of === here).missing).toBe(1);
  expect(withoutGone(spec, () => true)).toEqual({ groupings: spec.groupings, sorts: spec.sorts, missing: 0 });
});

it('is the same view in whatever order its parts were written', () => {
  const turned = Object.fromEntries(Object.entries(spec).reverse()) as unknown as ViewSpec;
  expect(Object.keys(turned)).not.toEqual(Object.keys(spec));
  expect(sameView(spec, turned)).toBe(true);
  expect(sameView(spec, { ...spec, below: true })).toBe(false);
  expect(sameView(spec, { ...spec, sorts: [...spec.sorts].reverse() })).toBe(false);
});

it.each([
  [
    'a fourth grouping',
    { groupings: Array.from({ length: 4 }, () => ({ of: 'kind', by: 'value', order: 'own', direction: 'up' })) },
  ],
  ['a layout that there is not', { layout: 'rack of sorts' }],
  ['a field that nobody knows', { colour: 'plum' }],
  ['a width of nothing', { widths: { title: 0 } }],
])('refuses %s', (_name, change) => {
  expect(viewSpecSchema.safeParse({ ...plainView, ...change }).success).toBe(false);
  expect(viewSpecSchema.safeParse(plainView).success).toBe(true);
});
