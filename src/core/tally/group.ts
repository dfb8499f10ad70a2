import type { Column } from '../columns/model';
import { issue } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import type { AskedFor } from '../views/conditions';
import { agos, periodOf, type PeriodUnit } from '../calendar/period';
import { groupWays, propertyName, senseOf } from '../views/property';
import { mostGroups, type Group, type GroupKind, type Question, type Totals } from '../views/question';
import type { Grouping } from '../views/spec';
import { countCodes, countDays } from './count';
import type { CodedLane } from './lane';
import type { Scan } from './scan';
import { noDay } from './stores';
import { type Lines, type Summed, sum, totalsOf, measureOf } from './sums';

/** The groups of one level: each row's groups as dense codes, with the meaning of each code. */
interface Level {
  readonly grouping: Grouping;
  /** By row: the code of a set of groups. */
  readonly codes: Int32Array;
  readonly sets: readonly (readonly number[])[];
  readonly slots: readonly Slot[];
}
interface Slot {
  readonly kind: GroupKind;
  readonly key: AskedFor;
  readonly rank: number;
  readonly values: number;
}

/** A group at the lowest level. */
export interface Leaf {
  readonly leaf: number;
  readonly start: number;
  readonly lines: number;
}
/** The groups of an answer, and the totals over all of it. */
export interface Grouped {
  readonly totals: Totals;
  readonly groups: readonly Group[];
  readonly lines: number;
  readonly entries: Lines;
  /** The groups of the last level in the order in which they are shown. */
  readonly leaves: readonly Leaf[];
}

const notHere = 'The view groups, sorts or sums by a column that is not in use here.';

/** Refuses groupings, sorts, counts and sums that cannot be computed. */
export function checkQuestion(question: Question, columns: readonly Column[]): Result<null> {
  for (const { of, by, order } of question.groupings) {
    const sense = senseOf(of, columns);
    if (sense === null) return bad(issue('gone', notHere));
    if (!groupWays[sense].includes(by) || of === 'title')
      return bad(issue('invalid', `Papers are not grouped by “${propertyName(of, columns)}” in that way.`));
    if (isColumn(order) && !question.measures.includes(order)) return bad(issue('gone', notHere));
  }
  const named = [...question.sorts.map((sort) => sort.of).filter((of) => of !== 'order'), ...question.counts];
  if (named.some((of) => senseOf(of, columns) === null)) return bad(issue('gone', notHere));
  if (question.counts.includes('find')) return bad(issue('invalid', 'What is looked for has no values to count.'));
  const unsortable = question.sorts.find(
    ({ of }) => of !== 'order' && ['longText', 'openTo', 'own', 'find'].includes(senseOf(of, columns) ?? ''),
  );
  if (unsortable)
    return bad(issue('invalid', `Papers are not put in order by “${propertyName(unsortable.of, columns)}”.`));
  const measured = (of: string) => ['number', 'day'].includes(senseOf(of, columns) ?? '');
  return question.measures.every(measured) ? good(null) : bad(issue('gone', notHere));
}

const isColumn = (order: string): boolean => !['own', 'papers', 'pages', 'bytes'].includes(order);

/** Groups rows, with the totals of each group. `whole`: the totals of all of them. */
export function groupsOf(scan: Scan, rows: Int32Array, question: Question, whole: Summed): Grouped {
  const caps = mostGroups[question.groupings.length] ?? [];
  const levels = question.groupings.map((grouping, depth) => levelOf(scan, rows, grouping, caps[depth] ?? 0));
  const measures = question.measures.map((of) => measureOf(scan, of));
  const { pages, sizes } = scan.tally;
  let entries: Lines = { at: rows, leaf: null };
  let size = 1;
  const sums = [whole];
  for (const level of levels) {
    entries = split(entries, level);
    size *= level.slots.length;
    sums.push(sum(entries, size, pages.numbers, sizes.numbers, measures));
  }
  const leaves: Leaf[] = [];
  let lines = 0;
  const gather = (depth: number, above: number): Group[] => {
    const level = levels[depth];
    if (!level) {
      const count = sums[depth]?.papers[above] ?? 0;
      leaves.push({ leaf: above, start: lines, lines: count });
      lines += count;
      return [];
    }
    const here = sums[depth + 1];
    const present = level.slots
      .map((slot, code) => ({ slot, code: above * level.slots.length + code }))
      .filter(({ code }) => (here?.papers[code] ?? 0) > 0);
    const totals = new Map(present.map(({ code }) => [code, totalsOf(here, code)]));
    const order = inOrder(level.grouping, question.measures);
    present.sort((a, b) => order(a.slot, totals.get(a.code), b.slot, totals.get(b.code)));
    return present.map(({ slot, code }) => {
      const start = lines;
      const groups = gather(depth + 1, code);
      const { kind, key, values } = slot;
      return { kind, key, values, totals: totals.get(code) ?? totalsOf(here, code), groups, lines: lines - start };
    });
  };
  const groups = gather(0, 0);
  return { totals: totalsOf(sums[0], 0), groups, lines, entries, leaves };
}

function split(from: Lines, level: Level): Lines {
  const { codes, sets, slots } = level;
  if (sets.every((set) => set.length <= 1)) return inOne(from, level);
  const sizes = Int32Array.from(sets, (set) => set.length);
  let count = 0;
  for (let entry = 0; entry < from.at.length; entry += 1)
    count += sizes[codes[from.at[entry] as number] as number] as number;
  const at = new Int32Array(count);
  const leaf = new Int32Array(count);
  count = 0;
  for (let entry = 0; entry < from.at.length; entry += 1) {
    const row = from.at[entry] as number;
    const above = from.leaf === null ? 0 : (from.leaf[entry] as number) * slots.length;
    const set = sets[codes[row] as number] as readonly number[];
    for (let member = 0; member < set.length; member += 1) {
      at[count] = row;
      leaf[count++] = above + (set[member] as number);
    }
  }
  return { at, leaf };
}

/** The same where every row is in one group: as many lines as before. */
function inOne({ at, leaf: above }: Lines, { codes, sets, slots }: Level): Lines {
  const slotOf = Int32Array.from(sets, (set) => set[0] ?? 0);
  const leaf = new Int32Array(at.length);
  for (let entry = 0; entry < leaf.length; entry += 1)
    leaf[entry] = slotOf[codes[at[entry] as number] as number] as number;
  if (above !== null)
    for (let entry = 0; entry < leaf.length; entry += 1)
      leaf[entry] = (leaf[entry] as number) + (above[entry] as number) * slots.length;
  return { at, leaf };
}

/** A level before its groups are limited: groups by code; 0 is none and 1 is hidden. */
interface Raw {
  readonly codes: Int32Array;
  readonly sets: readonly (readonly number[])[] | null;
  readonly size: number;
  readonly keyOf: (code: number) => AskedFor;
  readonly rankOf: (code: number) => number;
}

function levelOf(scan: Scan, rows: Int32Array, grouping: Grouping, most: number): Level {
  const raw = rawLevel(scan, rows, grouping);
  const bySet = countCodes(raw.codes, raw.sets?.length ?? raw.size, rows);
  const papers = new Int32Array(raw.size);
  const members = (code: number): readonly number[] => {
    const set = raw.sets === null ? [code] : (raw.sets[code] ?? []);
    return set.length === 0 ? [0] : set;
  };
  bySet.forEach((count, code) => {
    if (count > 0) for (const each of members(code)) papers[each] = (papers[each] ?? 0) + count;
  });
  const values: number[] = [];
  papers.forEach((count, code) => {
    if (count > 0 && code > hiddenCode) values.push(code);
  });
  const byPapers = (a: number, b: number): number =>
    (papers[b] ?? 0) - (papers[a] ?? 0) ||
    raw.rankOf(a) - raw.rankOf(b) ||
    (String(raw.keyOf(a)) < String(raw.keyOf(b)) ? -1 : 1);
  const kept = values.length <= most ? values : [...values].sort(byPapers).slice(0, most);
  const slots: Slot[] = kept.map((code) => ({
    kind: 'value',
    key: raw.keyOf(code),
    rank: raw.rankOf(code),
    values: 1,
  }));
  const slotOf = new Int32Array(raw.size).fill(-1);
  kept.forEach((code, slot) => (slotOf[code] = slot));
  const more = (kind: GroupKind, count: number): number => slots.push({ kind, key: null, rank: 0, values: count }) - 1;
  if ((papers[0] ?? 0) > 0) slotOf[0] = more('none', 1);
  if ((papers[hiddenCode] ?? 0) > 0) slotOf[hiddenCode] = more('hidden', 1);
  if (kept.length < values.length) {
    const rest = more('rest', values.length - kept.length);
    for (const code of values) if (slotOf[code] === -1) slotOf[code] = rest;
  }
  const sets = Array.from(bySet, (count, code) =>
    count === 0 ? [] : [...new Set(members(code).map((each) => slotOf[each] ?? 0))],
  );
  return { grouping, codes: raw.codes, sets, slots };
}

const hiddenCode = 1;

function rawLevel(scan: Scan, rows: Int32Array, { of, by }: Grouping): Raw {
  const lane = scan.lane(of, by === 'dossier' || by === 'series' ? by : 'value');
  if (lane.kind === 'coded') return rawCoded(scan, rows, lane);
  const codes = new Int32Array(scan.tally.rows);
  const keys: (string | number)[] = [];
  const codeOf = new Map<string | number, number>();
  const code = (key: string | number): number => {
    const there = codeOf.get(key);
    if (there !== undefined) return there;
    codeOf.set(key, keys.push(key) + hiddenCode);
    return keys.length + hiddenCode;
  };
  if (lane.kind === 'number') {
    for (let at = 0; at < rows.length; at += 1) {
      const row = rows[at] as number;
      const number = lane.numbers[row] as number;
      if (!Number.isNaN(number)) codes[row] = code(number);
    }
  } else if (lane.kind === 'day') {
    const { first, counts } = countDays(lane.days, rows);
    const ofDay = counts.map((papers, day) =>
      papers === 0 ? 0 : code(periodOf(first + day, by as PeriodUnit, scan.looking)),
    );
    const { days } = lane;
    for (let at = 0; at < rows.length; at += 1) {
      const row = rows[at] as number;
      const day = days[row] as number;
      codes[row] = day === noDay ? 0 : (ofDay[day - first] as number);
    }
  }
  const keyOf = (each: number): AskedFor => keys[each - hiddenCode - 1] ?? null;
  const sorted = new Map([...keys].sort(byOwnOrder).map((key, rank) => [key, rank]));
  return {
    codes,
    sets: null,
    size: keys.length + hiddenCode + 1,
    keyOf,
    rankOf: (each) => sorted.get(keyOf(each) as string | number) ?? 0,
  };
}

function byOwnOrder(a: string | number, b: string | number): number {
  const ago = (key: string | number) => agos.indexOf(key as (typeof agos)[number]);
  if (typeof a === 'string' && ago(a) !== -1) return ago(a) - ago(b);
  return a < b ? -1 : 1;
}

function rawCoded(scan: Scan, rows: Int32Array, lane: CodedLane): Raw {
  const shifted = (code: number): number => (code === 0 ? 0 : lane.isHidden(code) ? hiddenCode : code + hiddenCode);
  const rest = {
    size: lane.size + hiddenCode,
    keyOf: (code: number) => lane.valueOf(code - hiddenCode),
    rankOf: (code: number) => lane.rankOf(code - hiddenCode),
  };
  if (lane.sets !== null) return { codes: lane.codes, sets: lane.sets.map((set) => set.map(shifted)), ...rest };
  // As sets of one value each, so that codes stay unchanged.
  const occurs = countCodes(lane.codes, lane.size, rows);
  const sets = Array.from(occurs, (papers, code) => (papers === 0 ? [] : [shifted(code)]));
  return { codes: lane.codes, sets, ...rest };
}

const kindOrder: Record<GroupKind, number> = { value: 0, rest: 1, hidden: 2, none: 3 };

type InOrder = (a: Slot, ofA: Totals | undefined, b: Slot, ofB: Totals | undefined) => number;

/** Sorts groups as the grouping asks; several, hidden and none come last in both directions. */
function inOrder({ order, direction }: Grouping, measures: readonly string[]): InOrder {
  const sign = direction === 'up' ? 1 : -1;
  const size = (totals: Totals | undefined): number => {
    if (!totals || order === 'own') return 0;
    if (order === 'papers' || order === 'pages' || order === 'bytes') return totals[order];
    return totals.measures[measures.indexOf(order)]?.sum ?? 0;
  };
  return (a, ofA, b, ofB) =>
    kindOrder[a.kind] - kindOrder[b.kind] ||
    sign * (size(ofA) - size(ofB)) ||
    (order === 'own' ? sign : 1) * (a.rank - b.rank) ||
    (String(a.key) < String(b.key) ? -1 : String(a.key) > String(b.key) ? 1 : 0);
}
