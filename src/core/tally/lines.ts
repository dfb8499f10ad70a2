import type { Question } from '../views/question';
import type { Sort } from '../views/spec';
import type { Grouped, Leaf } from './group';
import type { Scan } from './scan';
import { selectRange } from './selectRange';
import { noDay } from './stores';

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
  const slotOf = new Map(wanted.map((leaf, slot) => [leaf.leaf, slot]));
  const lists = wanted.map((leaf) => new Int32Array(leaf.lines));
  const counts = wanted.map(() => 0);
  for (let entry = 0; entry < at.length; entry += 1) {
    const slot = slotOf.get(leaf[entry] as number);
    if (slot === undefined) continue;
    const count = counts[slot] ?? 0;
    (lists[slot] as Int32Array)[count] = at[entry] as number;
    counts[slot] = count + 1;
  }
  return lists;
}

function inOrder(scan: Scan, ats: Int32Array, sorts: readonly Sort[], from: number, to: number): Int32Array {
  const keys = [...sorts, { of: 'title', direction: 'up' } as const].map((sort) => keysOf(scan, ats, sort));
  const { ids } = scan.tally;
  const compare = (a: number, b: number): number => {
    for (const key of keys) {
      const [one, other] = [key[a] as number, key[b] as number];
      if (one < other) return -1;
      if (one > other) return 1;
    }
    return ids.compare(ats[a] as number, ats[b] as number);
  };
  const order = candidates(ats.length, to, keys[0] ?? new Float64Array(ats.length), compare);
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

/** Sort keys, smaller first; papers without a value come last in both directions. */
function keysOf(scan: Scan, ats: Int32Array, { of, direction }: Sort): Float64Array {
  const sign = direction === 'up' ? 1 : -1;
  const keys = new Float64Array(ats.length);
  const fill = (keyAt: (at: number) => number): Float64Array => {
    for (let index = 0; index < keys.length; index += 1) keys[index] = keyAt(ats[index] as number);
    return keys;
  };
  const number = (value: number): number => (Number.isNaN(value) ? Infinity : sign * value);
  if (of === 'order') {
    const { numbers } = scan.tally.orders;
    return fill((at) => number(numbers[at] as number));
  }
  const lane = scan.lane(of);
  switch (lane.kind) {
    case 'title':
      return fill((at) => sign * (lane.ranks[at] as number));
    case 'number':
      return fill((at) => number(lane.numbers[at] as number));
    case 'day': {
      const { days, instants } = lane;
      if (instants) return fill((at) => sign * (instants[at] as number));
      return fill((at) => (days[at] === noDay ? Infinity : sign * (days[at] as number)));
    }
    case 'coded': {
      const { codes, sets } = lane;
      const ranked = (code: number): number =>
        code === 0 ? Infinity : lane.isHidden(code) ? afterValues : sign * lane.rankOf(code);
      if (sets === null) return fill((at) => ranked(codes[at] as number));
      const ofSets = sets.map((set) => (set.length === 0 ? Infinity : sign * Math.min(...set.map(lane.rankOf))));
      return fill((at) => ofSets[codes[at] as number] as number);
    }
    case 'presence':
      throw new Error(`${of} has no order`);
  }
}
