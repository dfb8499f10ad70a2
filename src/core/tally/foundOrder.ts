import type { Wanted } from '../search/question';
import type { TextIndex } from '../search/textHits';
import { waysOf } from '../search/terms';
import { weights } from '../search/weights';
import type { Among } from '../search/among';
import { Matcher } from './matcher';
import type { Scan } from './scan';
import { languagesOf } from './found';

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
  }: {
    readonly all: readonly Wanted[];
    readonly says: readonly number[];
    readonly index: TextIndex;
    readonly scores: Float32Array;
    readonly among: Among;
  },
): void {
  if (best.length < 2) return;
  const mean = says.reduce((sum, each) => sum + each, 0) / Math.max(1, says.length);
  const matcher = new Matcher(scan.tally.lexicon, all, languagesOf(scan.tally));
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
    const places = terms.map((each) => each.flatMap((term) => positionsIn(term, number, index)));
    const there = places.filter((each) => each.length > 0);
    if (there.length < 2) return 0;
    return (there.length - 1) / narrowest(there);
  });
}

function positionsIn(term: string, number: number, index: TextIndex): number[] {
  const postings = index.postings(term);
  if (!postings) return [];
  const { numbers } = postings;
  let [low, high] = [0, numbers.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((numbers[middle] as number) < number) low = middle + 1;
    else high = middle;
  }
  return numbers[low] === number ? [...postings.positionsAt(low).subarray(0, mostPositions)] : [];
}

/** A word that stands more often stands near to everything. */
const mostPositions = 400;

/** The fewest words between the first and the last of a run that has one of each list. */
function narrowest(lists: readonly (readonly number[])[]): number {
  const all = lists
    .flatMap((positions, list) => positions.map((position) => ({ position, list })))
    .sort((one, other) => one.position - other.position);
  const last = new Map<number, number>();
  let least = Infinity;
  for (const { position, list } of all) {
    last.set(list, position);
    if (last.size < lists.length) continue;
    least = Math.min(least, position - Math.min(...last.values()));
  }
  return Math.max(lists.length - 1, least);
}
