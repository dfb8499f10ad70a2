import type { Wanted } from '../search/question';
import type { TextIndex } from '../search/textHits';
import { waysOf } from '../search/terms';
import { weights } from '../search/weights';
import type { Among } from '../search/among';
import type { Matcher } from './matcher';
import type { Scan } from './scan';

/**
 * Puts the best rows in order again, by how much of its title is wanted and how near the words stand in its text. What is
 * added is never less than nothing, so the best stay the best.
 */
export function reordered(
  scan: Scan,
  best: Int32Array,
  {
    all,
    says,
    index,
    scores,
    among,
    matcher,
  }: {
    readonly all: readonly Wanted[];
    readonly says: readonly number[];
    readonly index: TextIndex;
    readonly scores: Float32Array;
    readonly among: Among;
    /** Matches the question's words, also those it excludes: no row in `best` has one of those. */
    readonly matcher: Matcher;
  },
): void {
  if (best.length < 2) return;
  const mean = says.reduce((sum, each) => sum + each, 0) / Math.max(1, says.length);
  // By the first word of each: of a phrase the others stand beside it anyhow.
  const terms = all.map((wanted) => [
    ...new Set(waysOf(wanted, index.languages).flatMap(([first]) => first?.term ?? [])),
  ]);
  for (const row of best) {
    const share = among === 'inside' ? 0 : scan.tally.rowWords.titleShare(row, matcher);
    const near = among === 'titles' || all.length < 2 ? 0 : Math.max(0, ...nearness(scan, row, terms, index));
    scores[row] = (scores[row] as number) + mean * (weights.share * share + weights.nearness * near);
  }
}

/** How near the words stand in each text of a row: 1 side by side, towards 0 the farther apart; 0 where only one stands there. */
function nearness({ tally }: Scan, row: number, terms: readonly (readonly string[])[], index: TextIndex): number[] {
  return tally.texts.ofRow(row).map((number) => {
    const there = terms.map((each) => placesOf(each, number, index)).filter((places) => places.length > 0);
    return there.length < 2 ? 0 : (there.length - 1) / narrowest(there);
  });
}

/** A word that stands more often stands near to everything. */
const mostPositions = 400;

/** Where any of some terms stands in a text, in order. */
function placesOf(terms: readonly string[], number: number, index: TextIndex): Int32Array {
  const lists = terms.map((term) => positionsIn(term, number, index)).filter((each) => each.length > 0);
  const [only] = lists;
  if (lists.length === 1 && only) return only;
  return Int32Array.from(lists.flatMap((each) => [...each])).sort();
}

const nowhere = new Int32Array();

function positionsIn(term: string, number: number, index: TextIndex): Int32Array {
  const postings = index.postings(term);
  if (!postings) return nowhere;
  const { numbers } = postings;
  let [low, high] = [0, numbers.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((numbers[middle] as number) < number) low = middle + 1;
    else high = middle;
  }
  return numbers[low] === number ? postings.positionsAt(low).subarray(0, mostPositions) : nowhere;
}

/** The fewest words between the first and the last of a run that has one of each list, all of which ascend. */
function narrowest(lists: readonly Int32Array[]): number {
  const at = lists.map(() => 0);
  let least = Infinity;
  for (;;) {
    let [first, last, lowest] = [Infinity, -Infinity, 0];
    for (let list = 0; list < lists.length; list += 1) {
      const position = (lists[list] as Int32Array)[at[list] as number] as number;
      if (position < first) [first, lowest] = [position, list];
      if (position > last) last = position;
    }
    least = Math.min(least, last - first);
    // The one that lags behind goes on; at its end no run is narrower.
    at[lowest] = (at[lowest] as number) + 1;
    if ((at[lowest] as number) >= (lists[lowest] as Int32Array).length) return Math.max(lists.length - 1, least);
  }
}
