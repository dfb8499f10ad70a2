import type { AskedFor } from '../views/conditions';
import { ownWays } from '../views/own';
import { periodOf } from '../calendar/period';
import { mostListed, type PropertyCounts } from '../views/question';
import type { CodedLane, DayLane, NumberLane } from './lane';
import { type Scan } from './scan';
import { scopeOver, scopesInto, tellsReaders } from './scopes';
import { noDay } from './stores';

interface Counted {
  readonly value: AskedFor;
  readonly papers: number;
  readonly rank: number;
}

/** Counts the values of a property in some rows. */
export function countsOf(scan: Scan, rows: Int32Array, of: string): PropertyCounts {
  if (of === 'place') return listed(inPlaces(scan, rows));
  if (of === 'openTo') return listed(openTo(scan, rows));
  if (of === 'own') return listed(inOwnWays(scan, rows));
  const lane = scan.lane(of);
  switch (lane.kind) {
    case 'coded':
      return listed(byValue(lane, rows));
    case 'number':
      return range(lane, rows);
    case 'day':
      return months(scan, lane, rows);
    case 'presence': {
      const filled = rows.reduce((sum, row) => sum + (lane.present[row] as number), 0);
      return { kind: 'range', least: null, most: null, none: rows.length - filled, filled };
    }
    case 'title':
      return { kind: 'range', least: null, most: null, none: 0, filled: rows.length };
  }
}

/** Most papers first, then in the values' own order. */
function listed(counted: readonly Counted[]): PropertyCounts {
  const all = counted
    .filter((each) => each.papers > 0)
    .sort((a, b) => b.papers - a.papers || a.rank - b.rank || (String(a.value) < String(b.value) ? -1 : 1));
  return {
    kind: 'values',
    values: all.slice(0, mostListed).map(({ value, papers }) => ({ value, papers })),
    more: Math.max(0, all.length - mostListed),
  };
}

/** Up to this many codes, four lists of counts stay close to the processor. */
const fewCodes = 4096;

/**
 * The number of rows with each code. With few codes the same count often comes twice in a row, and the second addition
 * would wait for the first: four lists in turn take a third less time.
 */
export function countCodes(codes: Int32Array, size: number, rows: Int32Array): Int32Array {
  const lists = size <= fewCodes ? 4 : 1;
  const counts = new Int32Array(size * lists);
  const inTurn = lists === 1 ? 0 : rows.length & ~3;
  for (let at = 0; at < inTurn; at += 4) {
    const first = codes[rows[at] as number] as number;
    const second = (codes[rows[at + 1] as number] as number) + size;
    const third = (codes[rows[at + 2] as number] as number) + 2 * size;
    const fourth = (codes[rows[at + 3] as number] as number) + 3 * size;
    counts[first] = (counts[first] as number) + 1;
    counts[second] = (counts[second] as number) + 1;
    counts[third] = (counts[third] as number) + 1;
    counts[fourth] = (counts[fourth] as number) + 1;
  }
  for (let at = inTurn; at < rows.length; at += 1) {
    const code = codes[rows[at] as number] as number;
    counts[code] = (counts[code] as number) + 1;
  }
  for (let list = 1; list < lists; list += 1)
    for (let code = 0; code < size; code += 1)
      counts[code] = (counts[code] as number) + (counts[list * size + code] as number);
  return counts.subarray(0, size);
}

function byValue(lane: CodedLane, rows: Int32Array): Counted[] {
  let counts = countCodes(lane.codes, lane.sets?.length ?? lane.size, rows);
  if (lane.sets !== null) {
    const ofSets = counts;
    counts = new Int32Array(lane.size);
    lane.sets.forEach((set, code) => {
      for (const each of set.length === 0 ? [0] : set) counts[each] = (counts[each] ?? 0) + (ofSets[code] ?? 0);
    });
  }
  const counted: Counted[] = [];
  counts.forEach((papers, code) => {
    if (papers > 0 && !lane.isHidden(code))
      counted.push({
        value: code === 0 ? null : lane.valueOf(code),
        papers,
        rank: code === 0 ? Infinity : lane.rankOf(code),
      });
  });
  return counted;
}

/** A paper counts once for each place it lies in and each place above, below the one being viewed. */
function inPlaces(scan: Scan, rows: Int32Array): Counted[] {
  const { places } = scan.tally;
  const counts = new Map<string, number>();
  const below = (code: number): readonly string[] => {
    const lineage = places[code]?.lineage ?? [];
    const at = lineage.indexOf(scan.question.placeId);
    return at === -1 ? [] : lineage.slice(at + 1);
  };
  const { plain, apart } = parted(scan, rows);
  countCodes(scan.tally.homes, places.length, plain).forEach((papers, code) => {
    if (papers > 0) for (const id of below(code)) counts.set(id, (counts.get(id) ?? 0) + papers);
  });
  for (const row of apart)
    for (const id of new Set((scan.standing.get(row) ?? []).flatMap(below))) counts.set(id, (counts.get(id) ?? 0) + 1);
  const lane = scan.lane('place');
  const rank = (id: string): number => (lane.kind === 'coded' ? lane.rankOf(lane.find(id)) : 0);
  return [...counts].map(([value, papers]) => ({ value, papers, rank: rank(value) }));
}

/** Separates rows of papers that lie only in their homes from the others. */
function parted(scan: Scan, rows: Int32Array): { readonly plain: Int32Array; readonly apart: Int32Array } {
  const { isApart, apart } = scan.tally;
  if (apart.size === 0) return { plain: rows, apart: rows.subarray(0, 0) };
  return {
    plain: rows.filter((row) => isApart[row] === 0),
    apart: rows.filter((row) => isApart[row] === 1),
  };
}

function openTo(scan: Scan, rows: Int32Array): Counted[] {
  const { places, homes } = scan.tally;
  const { plain, apart } = parted(scan, rows);
  const inScope = new Map<string, number>();
  countCodes(homes, places.length, plain).forEach((papers, code) => {
    const scopeId = places[code]?.scopeId ?? '';
    if (papers > 0) inScope.set(scopeId, (inScope.get(scopeId) ?? 0) + papers);
  });
  const ways = Array.from(apart, (row) => ({ into: scopesInto(scan.tally, row), over: scopeOver(scan.tally, row) }));
  const { asker } = scan;
  return [...asker.openTo].map(([value, scopes]) => {
    const told = (over: string) => value === asker.personId || tellsReaders(asker, over);
    return {
      value,
      papers:
        [...inScope].reduce((sum, [id, papers]) => sum + (scopes.has(id) && told(id) ? papers : 0), 0) +
        ways.filter(
          ({ into, over }) =>
            told(over ?? '') && (into.length === 0 ? scopes.has('') : into.some((id) => scopes.has(id))),
        ).length,
      rank: 0,
    };
  });
}

function inOwnWays(scan: Scan, rows: Int32Array): Counted[] {
  return [...scan.asker.own.keys()].map((value) => {
    const isOwn = scan.isOwn([value]);
    return { value, papers: rows.reduce((sum, row) => sum + (isOwn[row] as number), 0), rank: ownWays.indexOf(value) };
  });
}

function range({ numbers }: NumberLane, rows: Int32Array): PropertyCounts {
  let [least, most, filled] = [Infinity, -Infinity, 0];
  for (let at = 0; at < rows.length; at += 1) {
    const number = numbers[rows[at] as number] as number;
    if (Number.isNaN(number)) continue;
    filled += 1;
    if (number < least) least = number;
    if (number > most) most = number;
  }
  const none = rows.length - filled;
  return { kind: 'range', least: filled > 0 ? least : null, most: filled > 0 ? most : null, none, filled };
}

function months(scan: Scan, lane: DayLane, rows: Int32Array): PropertyCounts {
  const { first, counts: days, none } = countDays(lane.days, rows);
  const counts = new Map<string, number>();
  days.forEach((papers, at) => {
    if (papers === 0) return;
    const month = periodOf(first + at, 'month', scan.looking);
    counts.set(month, (counts.get(month) ?? 0) + papers);
  });
  const all = [...counts].sort(([a], [b]) => (a < b ? 1 : -1)).slice(0, mostListed);
  return { kind: 'months', months: all.map(([value, papers]) => ({ value, papers })), none };
}

/** The number of rows with each day, from the first day on. */
export function countDays(
  days: Int32Array,
  rows: Int32Array,
): { readonly first: number; readonly counts: Int32Array; readonly none: number } {
  let [first, last] = [Infinity, -Infinity];
  for (let at = 0; at < rows.length; at += 1) {
    const day = days[rows[at] as number] as number;
    if (day === noDay) continue;
    if (day < first) first = day;
    if (day > last) last = day;
  }
  if (first > last) return { first: 0, counts: new Int32Array(0), none: rows.length };
  const counts = new Int32Array(last - first + 1);
  let none = 0;
  for (let at = 0; at < rows.length; at += 1) {
    const day = days[rows[at] as number] as number;
    if (day === noDay) none += 1;
    else counts[day - first] = (counts[day - first] as number) + 1;
  }
  return { first, counts, none };
}
