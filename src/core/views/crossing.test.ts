import type { CrossTable, NamedGroup } from './contract';
import { amountAt, asCells, cellAt, type CellKind } from './crossing';

const group = (name: string, papers: number, groups: readonly NamedGroup[] = [], sum = 0): NamedGroup => ({
  kind: name === 'none' ? 'none' : 'value',
  key: name === 'none' ? null : name,
  name,
  totals: { papers, pages: 0, bytes: 0, measures: [{ filled: papers, sum, least: null, most: null }] },
  groups,
  lines: papers,
  values: 1,
});
// Ten papers; two stand under both heads, so that the heads come to more than all.
const table: CrossTable = {
  rows: [group('Minutes', 6, [group('A', 4, [], 40), group('B', 4, [], 2.5)]), group('none', 4, [group('A', 4)])],
  heads: [group('A', 8), group('B', 4)],
  totals: { papers: 10, pages: 0, bytes: 0, measures: [{ filled: 10, sum: 42.5, least: null, most: null }] },
  measures: ['amount'],
};
const [minutes, none] = table.rows as [NamedGroup, NamedGroup];
const [a, b] = table.heads as [NamedGroup, NamedGroup];
const at = (row: NamedGroup, head: NamedGroup, kind: CellKind): number =>
  amountAt(table, row.totals, head.totals, cellAt(row, head)?.totals, kind);

it.each<[CellKind, number, number]>([
  ['papers', 4, 0],
  ['ofAll', 0.4, 0],
  ['ofRow', 4 / 6, 0],
  ['ofHead', 1, 0],
  ['sum', 2.5, 0],
])('shows %s of what stands in both, and nothing where nothing does', (kind, both, nothing) => {
  expect(at(minutes, b, kind)).toBeCloseTo(both, 10);
  expect(at(none, b, kind)).toBe(nothing);
  expect(at(minutes, a, 'ofHead')).toBe(0.5);
});

it('goes away as rows of cells with heads and totals', () => {
  expect(asCells(table, 'Type / Mark', 'papers', String)).toEqual([
    ['Type / Mark', 'A', 'B', 'All'],
    ['Minutes', '4', '4', '6'],
    ['none', '4', '0', '4'],
    ['All', '8', '4', '10'],
  ]);
  const shares = asCells(table, '', 'ofRow', (amount) => amount.toFixed(2));
  expect(shares[1]).toEqual(['Minutes', '0.67', '0.67', '1.00']);
});
