import fc from 'fast-check';
import {
  arrivedValues,
  bound,
  columnsAlong,
  differences,
  givenAs,
  resolveGiven,
  shownValues,
  type Given,
  type GivingPlace,
} from './given';
import type { Column } from './model';

const place = (id: string, given: readonly Given[] = [], more: Partial<GivingPlace> = {}): GivingPlace => ({
  id,
  name: `Place ${id}`,
  kind: 'folder',
  filingYear: null,
  meetingDay: null,
  given,
  ...more,
});
const fixed = (columnId: string, value: string): Given => ({ columnId, mode: 'fixed', value, binding: null });
const offered = (columnId: string, value: string): Given => ({ columnId, mode: 'offered', value, binding: null });
const text = () => 'text' as const;

it('lets the nearest place win, column by column, and says which it was', () => {
  const path = [place('1', [fixed('a', 'far'), fixed('b', 'far')]), place('2', [offered('a', 'near')]), place('3')];
  const resolved = resolveGiven(path, text);
  expect(resolved.get('a')).toEqual({ mode: 'offered', value: 'near', fromId: '2', fromName: 'Place 2' });
  expect(resolved.get('b')).toMatchObject({ mode: 'fixed', value: 'far', fromId: '1' });
  expect(givenAs('fixed', resolved)).toEqual({ b: 'far' });
});

it('binds to what the home is, and asks the next place up where there is nothing of the kind', () => {
  const path = [
    place(
      '1',
      [fixed('meeting', 'none yet'), { columnId: 'committee', mode: 'fixed', value: null, binding: 'dossier' }],
      { kind: 'series' },
    ),
    place('2', [{ columnId: 'meeting', mode: 'fixed', value: null, binding: 'meetingDay' }], {
      kind: 'dossier',
      name: 'Finance',
    }),
    place('3', [], { kind: 'year', filingYear: { label: '2026–27', startYear: 2026 } }),
    place('4', [], { meetingDay: '2026-07-14' }),
  ];
  expect(resolveGiven(path, text).get('meeting')).toMatchObject({ value: '2026-07-14', fromId: '2' });
  expect(resolveGiven(path, text).get('committee')).toMatchObject({ value: 'Finance', fromId: '1' });
  expect(resolveGiven(path.slice(0, 3), text).get('meeting')).toMatchObject({ value: 'none yet', fromId: '1' });
  expect(resolveGiven(path.slice(0, 1), text).get('committee')).toBeUndefined();
  expect(bound('filingYear', 'number', path)).toBe(2026);
  expect(bound('filingYear', 'text', path)).toBe('2026–27');
  expect(bound('dossier', 'dossier', path)).toBe('2');
  expect(bound('dossier', 'amount', path)).toBeNull();
});

it('ignores columns that are not there', () => {
  expect(resolveGiven([place('1', [fixed('gone', 'x')])], () => undefined).size).toBe(0);
});

it('agrees with a plain search from the home upwards on random paths', () => {
  const line = fc.record({
    columnId: fc.constantFrom('a', 'b', 'c'),
    mode: fc.constantFrom('fixed' as const, 'offered' as const),
    value: fc.constantFrom('x', 'y', 'z'),
    binding: fc.constant(null),
  });
  const sheet = fc.uniqueArray(line, { selector: (each) => each.columnId, maxLength: 3 });
  fc.assert(
    fc.property(fc.array(sheet, { minLength: 1, maxLength: 8 }), (sheets) => {
      const path = sheets.map((given, index) => place(String(index), given));
      const resolved = resolveGiven(path, text);
      for (const columnId of ['a', 'b', 'c']) {
        let expected: Given | undefined;
        for (let at = path.length - 1; at >= 0 && !expected; at -= 1)
          expected = path[at]?.given.find((each) => each.columnId === columnId);
        expect(resolved.get(columnId)?.value).toBe(expected?.value ?? undefined);
        expect(resolved.get(columnId)?.mode).toBe(expected?.mode);
      }
    }),
    { seed: 14, numRuns: 500 },
  );
});

it('shows fixed values over a paper’s own, and fills in offers and defaults only where it has none', () => {
  expect(shownValues({ a: 'own', b: 'own' }, { a: 'fixed' })).toEqual({ a: 'fixed', b: 'own' });
  expect(arrivedValues({ a: 'own' }, { a: 'offered', b: 'offered' }, { b: 'default', c: 'default' })).toEqual({
    a: 'own',
    b: 'offered',
    c: 'default',
  });
  expect(differences({ a: 'x', b: ['1'] }, { b: ['1'], c: true })).toEqual([
    { columnId: 'a', before: 'x', after: null },
    { columnId: 'c', before: null, after: true },
  ]);
});

it('puts columns in order along the way, the library’s first, retired ones left out', () => {
  const column = (id: string, placeId: string, position: number, retired = false) =>
    ({ id, placeId, position, retired }) as Column;
  const columns = [
    column('deep', 'b', 1),
    column('second', 'a', 2),
    column('first', 'a', 1),
    column('old', 'a', 3, true),
    column('elsewhere', 'z', 1),
  ];
  expect(columnsAlong(columns, ['a', 'b']).map((each) => each.id)).toEqual(['first', 'second', 'deep']);
});
