import { type Numbering } from './model';
import { depthsOf, type Standing } from '../outline/outline';

type Mark = (at: number) => string;

const figure: Mark = (at) => String(at);

/** a … z, aa, ab …, as list markers go on after z. */
const letter: Mark = (at) =>
  at > 26
    ? letter(Math.floor((at - 1) / 26)) + letter(((at - 1) % 26) + 1)
    : String.fromCharCode('a'.charCodeAt(0) + at - 1);

const romanSigns = [
  [100, 'c'],
  [90, 'xc'],
  [50, 'l'],
  [40, 'xl'],
  [10, 'x'],
  [9, 'ix'],
  [5, 'v'],
  [4, 'iv'],
  [1, 'i'],
] as const;

const roman: Mark = (at) => {
  const [worth, sign] = romanSigns.find(([each]) => each <= at) ?? [at, ''];
  return at === 0 ? '' : sign + roman(at - worth);
};

/** The marks of the three levels. With `figures` the marks above stand before an item's own. */
const marks: Readonly<Record<Numbering, readonly [Mark, Mark, Mark]>> = {
  figures: [figure, figure, figure],
  letters: [figure, (at) => `(${letter(at)})`, (at) => `(${roman(at)})`],
  capitals: [(at) => letter(at).toUpperCase(), figure, (at) => `(${letter(at)})`],
};

/**
 * The number of each item, in the order of the items: "4.2" in figures, "(b)" in letters below the top.
 * @param items depth first
 */
export function numbersOf(items: readonly Standing[], numbering: Numbering): string[] {
  const depths = depthsOf(items);
  const counts = new Map<string | null, number>();
  const numbers = new Map<string, string>();
  return items.map(({ id, parentId }, at) => {
    const count = (counts.get(parentId) ?? 0) + 1;
    counts.set(parentId, count);
    const mark = marks[numbering][(depths[at] ?? 1) - 1]?.(count) ?? '';
    const above = parentId === null ? undefined : numbers.get(parentId);
    const number = numbering === 'figures' && above !== undefined ? `${above}.${mark}` : mark;
    numbers.set(id, number);
    return number;
  });
}

/**
 * Each item's number with those above it where the style leaves them out: "4 (b)". What a sentence calls the item.
 * @param items depth first
 */
export function fullNumbersOf(items: readonly Standing[], numbering: Numbering): string[] {
  const numbers = numbersOf(items, numbering);
  if (numbering === 'figures') return numbers;
  const full = new Map<string, string>();
  return items.map(({ id, parentId }, at) => {
    const above = parentId === null ? undefined : full.get(parentId);
    const number = above === undefined ? (numbers[at] ?? '') : `${above} ${numbers[at] ?? ''}`;
    full.set(id, number);
    return number;
  });
}
