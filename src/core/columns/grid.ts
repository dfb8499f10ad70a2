/** A cell of the value editor: row and column index, both from 0. */
export interface Cell {
  readonly row: number;
  readonly column: number;
}

/** The selection: from `anchor` to `focus`, both included; keys move `focus`. */
export interface Selection {
  readonly anchor: Cell;
  readonly focus: Cell;
}

/** A rectangle of cells; all four edges belong to it. */
export interface Block {
  readonly top: number;
  readonly left: number;
  readonly bottom: number;
  readonly right: number;
}

/** The rectangle between the two corners of a selection. */
export const blockOf = ({ anchor, focus }: Selection): Block => ({
  top: Math.min(anchor.row, focus.row),
  left: Math.min(anchor.column, focus.column),
  bottom: Math.max(anchor.row, focus.row),
  right: Math.max(anchor.column, focus.column),
});

/** Whether a cell lies in a block. */
export const contains = (block: Block, { row, column }: Cell): boolean =>
  row >= block.top && row <= block.bottom && column >= block.left && column <= block.right;

const within = (value: number, most: number): number => Math.max(0, Math.min(most, value));

/** The selection after a step, within the grid; `extend` keeps the anchor. */
export function stepped(
  selection: Selection,
  rows: number,
  columns: number,
  size: { rows: number; columns: number },
  extend: boolean,
): Selection {
  const focus = {
    row: within(selection.focus.row + rows, size.rows - 1),
    column: within(selection.focus.column + columns, size.columns - 1),
  };
  return { anchor: extend ? selection.anchor : focus, focus };
}

/** The next cell by Tab: along the row, then in the next row; backwards with `back`. Null at the end of the grid. */
export function tabbed({ focus }: Selection, size: { rows: number; columns: number }, back: boolean): Selection | null {
  const at = focus.row * size.columns + focus.column + (back ? -1 : 1);
  if (at < 0 || at >= size.rows * size.columns) return null;
  const cell = { row: Math.floor(at / size.columns), column: at % size.columns };
  return { anchor: cell, focus: cell };
}

/** Where each cell of a pasted block goes: a single cell fills the selection, a larger block starts at its corner. */
export function pastePlan(
  block: readonly (readonly string[])[],
  selection: Selection,
  size: { rows: number; columns: number },
): { readonly cell: Cell; readonly text: string }[] {
  const target = blockOf(selection);
  const height = block.length;
  const width = Math.max(0, ...block.map((row) => row.length));
  if (height === 0 || width === 0) return [];
  const [single] = block[0] ?? [];
  const fills = height === 1 && width === 1 && single !== undefined;
  const bottom = fills ? target.bottom : Math.min(size.rows - 1, target.top + height - 1);
  const right = fills ? target.right : Math.min(size.columns - 1, target.left + width - 1);
  const placed: { cell: Cell; text: string }[] = [];
  for (let row = target.top; row <= bottom; row += 1) {
    for (let column = target.left; column <= right; column += 1) {
      const text = fills ? single : block[row - target.top]?.[column - target.left];
      if (text !== undefined) placed.push({ cell: { row, column }, text });
    }
  }
  return placed;
}

/** The source of each cell when filling a selection: its first row, or its first column. */
export function fillPlan(selection: Selection, way: 'down' | 'across'): { readonly cell: Cell; readonly from: Cell }[] {
  const block = blockOf(selection);
  const plan: { cell: Cell; from: Cell }[] = [];
  for (let row = block.top; row <= block.bottom; row += 1) {
    for (let column = block.left; column <= block.right; column += 1) {
      const from = way === 'down' ? { row: block.top, column } : { row, column: block.left };
      if (from.row !== row || from.column !== column) plan.push({ cell: { row, column }, from });
    }
  }
  return plan;
}
