import { blockOf, contains, fillPlan, pastePlan, stepped, tabbed, type Selection } from './grid';

const size = { rows: 5, columns: 3 };
const at = (row: number, column: number): Selection => ({ anchor: { row, column }, focus: { row, column } });

it('steps within the grid, and stretches from where it began', () => {
  expect(stepped(at(0, 0), -1, -1, size, false).focus).toEqual({ row: 0, column: 0 });
  expect(stepped(at(4, 2), 9, 9, size, false).focus).toEqual({ row: 4, column: 2 });
  const stretched = stepped(stepped(at(1, 1), 2, 0, size, true), 0, -1, size, true);
  expect(blockOf(stretched)).toEqual({ top: 1, left: 0, bottom: 3, right: 1 });
  expect(contains(blockOf(stretched), { row: 2, column: 1 })).toBe(true);
  expect(contains(blockOf(stretched), { row: 0, column: 1 })).toBe(false);
});

it('goes along the row by Tab, then on to the next, and out at the end', () => {
  expect(tabbed(at(0, 2), size, false)?.focus).toEqual({ row: 1, column: 0 });
  expect(tabbed(at(1, 0), size, true)?.focus).toEqual({ row: 0, column: 2 });
  expect(tabbed(at(4, 2), size, false)).toBeNull();
  expect(tabbed(at(0, 0), size, true)).toBeNull();
});

it('pastes a block at the corner of the selection, cut at the edge; one cell fills all that is chosen', () => {
  const block = [
    ['a', 'b'],
    ['c', 'd'],
  ];
  expect(pastePlan(block, at(4, 2), size)).toEqual([{ cell: { row: 4, column: 2 }, text: 'a' }]);
  expect(pastePlan(block, at(0, 0), size)).toHaveLength(4);
  const three: Selection = { anchor: { row: 2, column: 1 }, focus: { row: 0, column: 1 } };
  expect(pastePlan([['x']], three, size).map((each) => each.cell.row)).toEqual([0, 1, 2]);
  expect(pastePlan([['a', 'b'], ['c']], at(0, 0), size)).toHaveLength(3);
});

it('fills down from the first row and across from the first column', () => {
  const block: Selection = { anchor: { row: 1, column: 0 }, focus: { row: 3, column: 1 } };
  expect(fillPlan(block, 'down')).toHaveLength(4);
  expect(fillPlan(block, 'down').every((each) => each.from.row === 1 && each.from.column === each.cell.column)).toBe(
    true,
  );
  expect(fillPlan(block, 'across').every((each) => each.from.column === 0 && each.from.row === each.cell.row)).toBe(
    true,
  );
});
