import type { PlacedWord } from '../reading/find';
import { labelFinder, linking } from './labels';
import type { SingleKind, Taught } from './model';
import { readAt } from './readers';
import { cellsOfPages, spotOf, type Cell, type Word } from './rows';

/** Of so many words a label is at most; a number at most of so many pieces. */
const mostWords = 4;
const mostPieces = 4;

const known = labelFinder();

/**
 * What a filed paper teaches of where its sender states something: the words that stand beside or above the value with which it was
 * filed. Null: it does not stand there, or nothing stands by it that would tell it on another paper.
 * @param pages the words of each page with their places @param value as in `Stated`
 */
export function taughtBy(pages: readonly (readonly PlacedWord[])[], kind: SingleKind, value: string): Taught | null {
  for (const { cells } of cellsOfPages(pages))
    for (const [at, cell] of cells.entries())
      for (const from of cell.words.keys()) {
        const length = lengthOf(kind, cell.words, from, value);
        const words = length === 0 ? [] : labelOf(kind, cells, at, from);
        if (words.length > 0) return { kind, words, length };
      }
  return null;
}

/** Whether two values of a kind are the same: `12.5` is `12.50`. */
export const isSame = (kind: SingleKind, one: string, other: string): boolean =>
  kind === 'amount' ? Number(one) === Number(other) : one === other;

/** Of how many words a value is that begins at a word; 0: none does. */
function lengthOf(kind: SingleKind, words: readonly Word[], from: number, value: string): number {
  for (let most = kind === 'number' ? mostPieces : 1; most > 0; most -= 1) {
    const found = readAt(kind, words, from, kind === 'number' ? most : undefined);
    if (found && isSame(kind, found.read.value, value)) return found.words.length;
  }
  return 0;
}

/** The words before a value, those of the cell before it, or of the one above it; none where these say something else. */
function labelOf(kind: SingleKind, cells: readonly Cell[], at: number, from: number): readonly string[] {
  const cell = cells[at] as Cell;
  const before = cells[at - 1];
  const places = [
    cell.words.slice(0, from),
    from === 0 && before?.row === cell.row ? before.words : [],
    from === 0 ? above(cells, cell) : [],
  ];
  return places.map((words) => lastWords(kind, words)).find((words) => words.length > 0) ?? [];
}

function above(cells: readonly Cell[], { words, row }: Cell): readonly Word[] {
  const spot = spotOf(words);
  const over = cells.find((each) => {
    const its = spotOf(each.words);
    return each.row === row - 1 && its.left <= spot.right && its.right >= spot.left;
  });
  return over && over.words.length <= mostWords ? over.words : [];
}

/** The last words of some that could be a label: they link nothing, have no digits, and are not known to say something else. */
function lastWords(kind: SingleKind, words: readonly Word[]): readonly string[] {
  const keys = words.map(({ key }) => key);
  while (keys.length > 0 && (linking.has(keys.at(-1) ?? '') || keys.at(-1) === '')) keys.pop();
  const beyond = keys.findLastIndex((key) => !/^[^\d]*\p{L}[^\d]*$/u.test(key));
  const label = keys.slice(Math.max(beyond + 1, keys.length - mostWords));
  const said = words.slice(keys.length - label.length, keys.length);
  const whole = known(said, 0);
  const saysOther =
    said.some((_word, from) => known(said, from)?.kind === null) ||
    (whole?.words.length === said.length && whole.kind !== kind);
  return saysOther ? [] : label;
}
