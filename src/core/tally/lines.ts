import { findsIn } from '../views/conditions';
import type { Question } from '../views/question';
import type { Sort } from '../views/spec';
import { foundBy } from './found';
import type { Grouped, Leaf } from './group';
import type { Scan } from './scan';
import { selectRange } from './selectRange';
import { noDay } from './stores';

/** The better a paper answers the words that are looked for, the smaller its key; null where none are. */
function bestFirst(scan: Scan): ((row: number) => number) | null {
  const found = findsIn(scan.question.conditions).map((each) => foundBy(scan, each).scores);
  return found.length === 0 ? null : (row) => found.reduce((sum, scores) => sum - (scores[row] as number), 0);
}

/** Sorts after all values and before papers without one. */
const afterValues = 1e300;

/** The ids of the lines asked for, sorted by group, then by sort keys, title and id. */
export function linesOf(scan: Scan, grouped: Grouped, question: Question): string[] {
  const [start, end] = [question.start, Math.min(grouped.lines, question.start + question.limit)];
  if (start >= end) return [];
  const wanted = grouped.leaves.filter((leaf) => leaf.start < end && leaf.start + leaf.lines > start && leaf.lines > 0);
  const rows = gathered(grouped, wanted);
  return wanted.flatMap((leaf, index) => {
    const ats = rows[index] ?? new Int32Array(0);
    const from = Math.max(0, start - leaf.start);
    const to = Math.min(leaf.lines, end - leaf.start);
    const picked = inOrder(scan, ats, question.sorts, from, to);
    return Array.from(picked, (at) => scan.tally.ids.idOf(at));
  });
}

function gathered({ entries, leaves }: Grouped, wanted: readonly Leaf[]): Int32Array[] {
  const { at, leaf } = entries;
  if (leaf === null || leaves.length === 1) return [at];
  const listOf = new Int32Array(Math.max(...leaves.map((each) => each.leaf)) + 1).fill(-1);
  wanted.forEach((each, list) => (listOf[each.leaf] = list));
  const lists = wanted.map((each) => new Int32Array(each.lines));
  const counts = wanted.map(() => 0);
  for (let entry = 0; entry < at.length; entry += 1) {
    const list = listOf[leaf[entry] as number] as number;
    if (list < 0) continue;
    const count = counts[list] as number;
    (lists[list] as Int32Array)[count] = at[entry] as number;
    counts[list] = count + 1;
  }
  return lists;
}

function inOrder(scan: Scan, ats: Int32Array, sorts: readonly Sort[], from: number, to: number): Int32Array {
  const byTitle = keyOf(scan, { of: 'title', direction: 'up' });
  const sorted = sorts.map((sort) => keyOf(scan, sort));
  // Where words are looked for and nothing else is asked, the best come first.
  const best = sorts.length === 0 ? bestFirst(scan) : null;
  const [main = byTitle, ...others] = [...(best ? [best] : sorted), byTitle];
  // The first key is asked for each paper, the others only where it is equal.
  const first = new Float64Array(ats.length);
  for (let at = 0; at < first.length; at += 1) first[at] = main(ats[at] as number);
  const { ids } = scan.tally;
  const compare = (a: number, b: number): number => {
    const [one, other] = [first[a] as number, first[b] as number];
    if (one < other) return -1;
    if (one > other) return 1;
    const [rowA, rowB] = [ats[a] as number, ats[b] as number];
    for (const key of others) {
      const [keyA, keyB] = [key(rowA), key(rowB)];
      if (keyA < keyB) return -1;
      if (keyA > keyB) return 1;
    }
    return ids.compare(rowA, rowB);
  };
  const order = candidates(ats.length, to, first, compare);
  selectRange(order, compare, from, to);
  return order.subarray(from, to).map((index) => ats[index] as number);
}

/** Indexes that include the first `to` in order; skips most of a long list cheaply. */
function candidates(
  length: number,
  to: number,
  key: Float64Array,
  compare: (a: number, b: number) => number,
): Int32Array {
  const most = Math.max(4 * to, 1024);
  if (most * 4 > length) return Int32Array.from({ length }, (_each, index) => index);
  const kept: number[] = [];
  let last = -1;
  for (let index = 0; index < length; index += 1) {
    if (last !== -1 && ((key[index] as number) > (key[last] as number) || compare(index, last) > 0)) continue;
    kept.push(index);
    if (kept.length < most) continue;
    kept.sort(compare);
    kept.length = to;
    last = kept[to - 1] as number;
  }
  return Int32Array.from(kept);
}

/** A row's sort key, smaller first; papers without a value come last in both directions. */
function keyOf(scan: Scan, { of, direction }: Sort): (row: number) => number {
  const sign = direction === 'up' ? 1 : -1;
  const number = (value: number): number => (Number.isNaN(value) ? Infinity : sign * value);
  if (of === 'order') {
    const { numbers } = scan.tally.orders;
    return (row) => number(numbers[row] as number);
  }
  const lane = scan.lane(of);
  switch (lane.kind) {
    case 'title': {
      const { ranks } = lane;
      return (row) => sign * (ranks[row] as number);
    }
    case 'number': {
      const { numbers } = lane;
      return (row) => number(numbers[row] as number);
    }
    case 'day': {
      const { days, instants } = lane;
      if (instants) return (row) => sign * (instants[row] as number);
      return (row) => (days[row] === noDay ? Infinity : sign * (days[row] as number));
    }
    case 'coded': {
      const { codes, sets } = lane;
      const ranked = (code: number): number =>
        code === 0 ? Infinity : lane.isHidden(code) ? afterValues : sign * lane.rankOf(code);
      if (sets === null) return (row) => ranked(codes[row] as number);
      const ofSets = sets.map((set) => (set.length === 0 ? Infinity : sign * Math.min(...set.map(lane.rankOf))));
      return (row) => ofSets[codes[row] as number] as number;
    }
    case 'presence':
      throw new Error(`${of} has no order`);
  }
}
