import { searchKey } from '../text/fold';

/** A word on a page and where it stands, as fractions of the page's width and height from its top left corner. */
export interface PlacedWord {
  readonly text: string;
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** A place on a page: the same fractions. */
export type Spot = Omit<PlacedWord, 'text'>;

/** How often a phrase stands in a text, whatever its case, accents, line ends and hyphens. */
export function countOf(text: string, phrase: string): number {
  const key = searchKey(phrase);
  return key === '' ? 0 : searchKey(text).split(key).length - 1;
}

/**
 * Where a phrase stands on a page: for each time the spots of its words, one for each line. A part of a word counts as
 * the whole word.
 */
export function spotsOf(words: readonly PlacedWord[], phrase: string): Spot[][] {
  const key = searchKey(phrase);
  if (key === '') return [];
  let page = '';
  const starts = words.map((word) => {
    const folded = searchKey(word.text);
    const start = page === '' ? 0 : page.length + 1;
    page = page === '' ? folded : `${page} ${folded}`;
    return start;
  });
  const found: Spot[][] = [];
  for (let at = page.indexOf(key); at !== -1; at = page.indexOf(key, at + key.length)) {
    const end = at + key.length;
    const hit = words.filter((_word, index) => {
      const start = starts[index] ?? 0;
      return start < end && (starts[index + 1] ?? page.length + 1) - 1 > at;
    });
    found.push(byLine(hit));
  }
  return found;
}

/** Joins words of one line into one spot. */
function byLine(words: readonly PlacedWord[]): Spot[] {
  const lines: Spot[] = [];
  for (const { left, top, right, bottom } of words) {
    const last = lines.at(-1);
    const middle = (top + bottom) / 2;
    if (last && middle > last.top && middle < last.bottom && left >= last.left)
      lines[lines.length - 1] = {
        left: last.left,
        top: Math.min(last.top, top),
        right: Math.max(last.right, right),
        bottom: Math.max(last.bottom, bottom),
      };
    else lines.push({ left, top, right, bottom });
  }
  return lines;
}
