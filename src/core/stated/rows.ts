import type { PlacedWord, Spot } from '../reading/find';
import { searchKey } from '../text/fold';
import { mostPages } from './model';

/** A word with its key for comparison, without the signs around it. */
export interface Word extends PlacedWord {
  readonly key: string;
}

/** Words that stand together: a part of a row, apart from the next by more than a blank. */
export interface Cell {
  readonly words: readonly Word[];
  readonly row: number;
}

/** The height of an A4 page by its width: fractions of the one are turned into fractions of the other by it. */
const pageRatio = Math.SQRT2;
/** A gap wider than so many heights of the letters parts two cells. */
const cellGap = 0.9;

const keyOf = (text: string): string => searchKey(text).replaceAll(/^[^\p{L}\p{N}£€$(]+|[^\p{L}\p{N}£€$)°]+$/gu, '');

/** The cells of a page, row by row from the top, from left to right. */
function cellsOf(page: readonly PlacedWord[]): Cell[] {
  const rows: Word[][] = [];
  const inOrder = page
    .map((word) => ({ ...word, key: keyOf(word.text) }))
    .sort((one, other) => one.top + one.bottom - other.top - other.bottom);
  for (const word of inOrder) {
    const row = rows.at(-1);
    const first = row?.[0];
    const middle = (word.top + word.bottom) / 2;
    if (row && first && middle < first.bottom && middle > first.top) row.push(word);
    else rows.push([word]);
  }
  return rows.flatMap((row, at) => {
    const cells: Word[][] = [];
    for (const word of row.sort((one, other) => one.left - other.left)) {
      const cell = cells.at(-1);
      const before = cell?.at(-1);
      const height = (word.bottom - word.top) * pageRatio;
      if (cell && before && word.left - before.right < cellGap * height) cell.push(word);
      else cells.push([word]);
    }
    return cells.map((words) => ({ words, row: at }));
  });
}

/** A page of more words than this is made to take long, or a table that states nothing of itself. */
const mostWords = 5000;

/** The cells of the pages that are looked through, the first ones and the last, each with its number, from 1. */
export const cellsOfPages = (
  pages: readonly (readonly PlacedWord[])[],
): readonly { readonly cells: readonly Cell[]; readonly page: number }[] =>
  (pages.length <= mostPages ? pages : [...pages.slice(0, mostPages - 1), ...pages.slice(-1)]).map((words, at) => ({
    cells: cellsOf(words.slice(0, mostWords)),
    page: at === mostPages - 1 ? pages.length : at + 1,
  }));

/** The words of a text that has no places, as if it were printed in lines with letters of one width; tabs part cells. */
export function placedLines(text: string): PlacedWord[] {
  const step = { across: 0.005, down: 0.01 } as const;
  return text.split(/\r?\n/u).flatMap((line, row) => {
    const top = row * step.down;
    return [...line.replaceAll('\t', '      ').matchAll(/\S+/gu)].map(({ 0: word, index }) => ({
      text: word,
      left: index * step.across,
      right: (index + word.length) * step.across,
      top,
      bottom: top + step.down * 0.9,
    }));
  });
}

/** Where words stand together. */
export const spotOf = (words: readonly PlacedWord[]): Spot => ({
  left: Math.min(...words.map(({ left }) => left)),
  right: Math.max(...words.map(({ right }) => right)),
  top: Math.min(...words.map(({ top }) => top)),
  bottom: Math.max(...words.map(({ bottom }) => bottom)),
});
