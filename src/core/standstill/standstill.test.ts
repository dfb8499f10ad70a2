import { allCapabilities, bitOf, listOf, setOf } from '../access/capability';
import { difference } from '../access/impact';
import { resolveLibrary, type AccessLibrary } from '../access/library';
import type { Step } from '../access/resolve';
import { atStandstill, moving, stoppedBy } from './standstill';

const ann = { personId: 'ann', groupIds: new Set<string>() };
const gives = (set: number): Step => ({
  follows: true,
  grants: [{ subject: { kind: 'person', id: 'ann' }, gives: set, withholds: 0 }],
});
const plain: Step = { follows: true, grants: [] };
const library: AccessLibrary = {
  places: [
    { id: 'series', parentId: null, step: gives(setOf(['amend', 'add', 'take'])) },
    { id: 'year', parentId: 'series', step: plain },
    { id: 'alone', parentId: 'year', step: { ...gives(allCapabilities), follows: false } },
  ],
  papers: [
    { id: 'minutes', homeId: 'year', step: plain, openings: [] },
    { id: 'lease', homeId: 'series', step: plain, openings: ['alone'] },
  ],
};
const resolved = resolveLibrary(library, [ann]);
const now = (own: Parameters<typeof atStandstill>[2], above = new Map<string, number>()) => {
  const { places, papers } = atStandstill(library, resolved, own, above);
  return Object.fromEntries([...places, ...papers].map(([id, sight]) => [id, listOf(sight.get('ann') ?? 0).join(' ')]));
};

it.each([
  [moving, []],
  [{ locked: true, closed: false }, ['amend']],
  [{ locked: false, closed: true }, ['add', 'amend']],
  [{ locked: true, closed: true }, ['add', 'amend']],
] as const)('%j stops %j', (standstill, stopped) => {
  expect(listOf(stoppedBy(standstill))).toEqual(stopped);
});

it('changes nothing where nothing is held still', () => {
  expect(atStandstill(library, resolved, new Map(), new Map())).toEqual(resolved);
});

it('reaches all below a closed place, what stands alone and who manages it included', () => {
  expect(now(new Map([['year', { locked: false, closed: true }]]))).toEqual({
    series: 'see take add amend',
    year: 'see take',
    alone: 'see take manage',
    minutes: 'see take',
    lease: 'see take add amend',
  });
});

it('of a locked paper stops that paper; of a place around the library all of it', () => {
  expect(now(new Map([['lease', { locked: true, closed: false }]]))['lease']).toBe('see take add');
  const held = now(new Map([['lease', moving]]), new Map([['series', bitOf('amend')]]));
  expect(held['minutes']).toBe('see take add amend');
  const inside: AccessLibrary = {
    ...library,
    places: [{ ...library.places[0], id: 'series', parentId: 'root', step: plain }],
  };
  const sights = resolveLibrary({ ...inside, papers: [] }, [ann], new Map([['root', new Map([['ann', 31]])]]));
  const stopped = atStandstill({ ...inside, papers: [] }, sights, new Map(), new Map([['root', bitOf('amend')]]));
  expect(stopped.places.get('series')?.get('ann')).toBe(31 & ~bitOf('amend'));
});

it('makes a difference that can be told to those alone whom it stops', () => {
  const after = atStandstill(library, resolved, new Map([['minutes', { locked: true, closed: false }]]), new Map());
  expect(difference(resolved, after)).toEqual([
    { personId: 'ann', places: new Map(), papers: new Map([['minutes', { before: 15, after: 7 }]]) },
  ]);
});
