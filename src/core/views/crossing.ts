import type { CrossTable, NamedGroup } from './contract';
import type { Totals } from './question';

/** The contents of cells: papers, a share of them, or the sum of a column. */
export const cellKinds = ['papers', 'ofAll', 'ofRow', 'ofHead', 'sum'] as const;
export type CellKind = (typeof cellKinds)[number];

const sameGroup = (a: NamedGroup, b: NamedGroup): boolean => a.kind === b.kind && a.key === b.key;

/** The group of a row under a head; undefined if no paper is in both. */
export const cellAt = (row: NamedGroup, head: NamedGroup): NamedGroup | undefined =>
  row.groups.find((group) => sameGroup(group, head));

/**
 * The number in a cell; shares are from 0 to 1. A paper with several values is in several rows or under several heads, so
 * shares of a row can add up to more than one.
 */
export function amountAt(
  table: CrossTable,
  row: Totals | null,
  head: Totals | null,
  cell: Totals | undefined,
  kind: CellKind,
): number {
  const papers = cell?.papers ?? 0;
  const share = (of: number | undefined): number => (of ? papers / of : 0);
  switch (kind) {
    case 'papers':
      return papers;
    case 'ofAll':
      return share(table.totals.papers);
    case 'ofRow':
      return share((row ?? table.totals).papers);
    case 'ofHead':
      return share((head ?? table.totals).papers);
    case 'sum':
      return cell?.measures[0]?.sum ?? 0;
  }
}

/** The table as rows of cells with heads and totals, for download. */
export function asCells(
  table: CrossTable,
  corner: string,
  kind: CellKind,
  words: (amount: number, kind: CellKind) => string,
): string[][] {
  const line = (name: string, totals: Totals | null, cells: readonly (Totals | undefined)[], all: Totals): string[] => [
    name,
    ...cells.map((cell, at) => words(amountAt(table, totals, table.heads[at]?.totals ?? null, cell, kind), kind)),
    words(amountAt(table, totals, null, all, kind), kind),
  ];
  return [
    [corner, ...table.heads.map((head) => head.name), 'All'],
    ...table.rows.map((row) =>
      line(
        row.name,
        row.totals,
        table.heads.map((head) => cellAt(row, head)?.totals),
        row.totals,
      ),
    ),
    line(
      'All',
      null,
      table.heads.map((head) => head.totals),
      table.totals,
    ),
  ];
}
