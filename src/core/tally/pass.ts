import {
  asksNothing,
  conditionsIn,
  isBlock,
  isFind,
  type Block,
  type Condition,
  type FindCondition,
  type Part,
} from '../views/conditions';
import { isOwnWay } from '../views/own';
import { searchKey } from '../text/fold';
import { periodDays, spanDays, type Days } from '../calendar/period';
import { longTextKey, type Asker, type ViewPlace } from '../views/question';
import { foundBy } from './found';
import type { CodedLane, DayLane, NumberLane, TitleLane } from './lane';
import { type Scan } from './scan';
import { scopeOver, scopesInto, tellsReaders } from './scopes';
import { noDay } from './stores';

/** 1 for each row that passes, else 0, in the order of the scan's `rows`. */
type Passes = Uint8Array;

/** The rows that meet all conditions, or all conditions except those on one property. */
export interface Pass {
  readonly all: Int32Array;
  readonly without: (of: string) => Int32Array;
}

/** Conditions on more properties than this share one bit. */
const mostBits = 30;
const sharedBit = 1 << mostBits;

/** The rows of a scan that meet all conditions. */
export function passOf(scan: Scan, conditions: readonly Part[]): Pass {
  const asking = conditions.flatMap((part) => standing(part));
  const { rows } = scan;
  if (asking.length === 0) return { all: rows, without: () => rows };
  const speaksOf = asking.map((part) => {
    const ofs = new Set(conditionsIn([part]).map((each) => each.of));
    return ofs.size === 1 ? [...ofs][0] : undefined;
  });
  const alone = [...new Set(speaksOf.flatMap((of) => of ?? []))];
  const bits = new Map(alone.slice(0, mostBits).map((of, at) => [of, 1 << at]));
  /** By row, a bit for each property whose conditions it fails. */
  const failed = new Int32Array(rows.length);
  asking.forEach((part, at) => note(passesOf(scan, part), bits.get(speaksOf[at] ?? '') ?? sharedBit, failed));
  const all = passing(rows, failed, 0);
  return {
    all,
    without: (of) => {
      if (!alone.includes(of)) return all;
      const own = bits.get(of);
      if (own !== undefined) return speaksOf.every((each) => each === of) ? rows : passing(rows, failed, own);
      return passOf(
        scan,
        asking.filter((_part, at) => speaksOf[at] !== of),
      ).all;
    },
  };
}

// The loops below run over the whole library and contain no branches: what a processor cannot foretell it pays for in each.

function note(passes: Passes, bit: number, failed: Int32Array): void {
  for (let at = 0; at < passes.length; at += 1)
    failed[at] = (failed[at] as number) | (((passes[at] as number) - 1) & bit);
}

/** The rows that fail nothing, except perhaps the conditions of a forgiven bit. */
function passing(rows: Int32Array, failed: Int32Array, forgiven: number): Int32Array {
  const kept = new Int32Array(rows.length);
  let count = 0;
  for (let at = 0; at < rows.length; at += 1) {
    const failures = (failed[at] as number) & ~forgiven;
    kept[count] = rows[at] as number;
    // 1 where there are none: of any other number either it or its negative has the sign bit.
    count += 1 - ((failures | -failures) >>> 31);
  }
  return kept.subarray(0, count);
}

/** A part without conditions that are not filled in, and without empty blocks. */
function standing(part: Part): Part[] {
  if (!isBlock(part)) return asksNothing(part) ? [] : [part];
  const parts = part.parts.flatMap(standing);
  return parts.length === 0 ? [] : [{ ...part, parts }];
}

function passesAll(scan: Scan, parts: readonly Part[]): Passes {
  const passes = new Uint8Array(scan.rows.length).fill(1);
  for (const part of parts) {
    const each = passesOf(scan, part);
    for (let at = 0; at < passes.length; at += 1) passes[at] = (passes[at] as number) & (each[at] as number);
  }
  return passes;
}

function passesOf(scan: Scan, part: Part): Passes {
  return isBlock(part) ? passesBlock(scan, part) : passesOne(scan, part);
}

function passesBlock(scan: Scan, { how, parts }: Block): Passes {
  if (how === 'all') return passesAll(scan, parts);
  const passes = new Uint8Array(scan.rows.length);
  for (const part of parts) {
    const each = passesOf(scan, part);
    for (let at = 0; at < passes.length; at += 1) passes[at] = (passes[at] as number) | (each[at] as number);
  }
  if (how === 'none') for (let at = 0; at < passes.length; at += 1) passes[at] = 1 - (passes[at] as number);
  return passes;
}

function passesOne(scan: Scan, condition: Condition): Passes {
  if (isFind(condition)) return passesFound(scan, condition);
  if (condition.of === 'openTo') {
    const opens = openBy(scan.asker, condition);
    return byPlace(
      scan,
      ({ scopeId }) => opens([scopeId ?? ''], scopeId),
      (row) => opens(withNone(scopesInto(scan.tally, row)), scopeOver(scan.tally, row)),
    );
  }
  if (condition.of === 'own' && 'anyOf' in condition) {
    const isOwn = scan.isOwn(condition.anyOf.filter(isOwnWay));
    return Uint8Array.from(scan.rows, (row) => isOwn[row] as number);
  }
  if (condition.of === 'place' && 'anyOf' in condition) {
    const wanted = new Set(condition.anyOf);
    const holds = ({ lineage }: OnPlaceOf) => lineage.some((id) => wanted.has(id));
    const { places } = scan.tally;
    return byPlace(scan, holds, (row) =>
      (scan.standing.get(row) ?? []).some((code) => holds(places[code] as OnPlaceOf)),
    );
  }
  const lane = scan.lane(condition.of);
  switch (lane.kind) {
    case 'coded':
      return passesCoded(scan, lane, condition);
    case 'title':
      return passesTitle(scan, lane, condition);
    case 'number':
      return passesNumber(scan, lane, condition);
    case 'day':
      return passesDay(scan, lane, condition);
    case 'presence':
      return passesLongText(scan, lane.present, condition);
  }
}

function passesFound(scan: Scan, condition: FindCondition): Passes {
  const { rows } = scan;
  const { scores } = foundBy(scan, condition);
  const passes = new Uint8Array(rows.length);
  for (let at = 0; at < passes.length; at += 1) passes[at] = Number((scores[rows[at] as number] as number) > 0);
  return passes;
}

const misfit = (condition: Condition): never => {
  throw new Error(`A condition of ${condition.of} came through unchecked`);
};

/** Papers without a scope are open to keepers only, who are asked for without a scope. */
const withNone = (scopes: readonly string[]): readonly string[] => (scopes.length === 0 ? [''] : scopes);

type OnPlaceOf = Pick<ViewPlace, 'lineage' | 'scopeId'>;

/** Tests a predicate on the places of papers; papers with several places are tested one by one. */
function byPlace(scan: Scan, holds: (place: OnPlaceOf) => boolean, apart: (row: number) => boolean): Passes {
  const { rows } = scan;
  const { places, homes, isApart } = scan.tally;
  const ok = Uint8Array.from(places, (place) => Number(holds(place)));
  const passes = new Uint8Array(rows.length);
  for (let at = 0; at < passes.length; at += 1) {
    const row = rows[at] as number;
    passes[at] = isApart[row] === 1 ? Number(apart(row)) : (ok[homes[row] as number] as number);
  }
  return passes;
}

/**
 * Whether a person asked for may see a paper, by its scopes; a paper without any is open to keepers only. For other
 * people than the caller this is told only if the caller manages the paper, by the scope over it.
 */
function openBy(asker: Asker, condition: Condition): (ways: readonly string[], over: string | null) => boolean {
  const people =
    'who' in condition
      ? meant(asker, condition.who)
      : 'anyOf' in condition
        ? new Set(condition.anyOf)
        : misfit(condition);
  const scopesOf = (some: readonly unknown[]) => some.map((id) => asker.openTo.get(String(id)));
  const own = scopesOf([...people].filter((id) => id === asker.personId));
  const others = scopesOf([...people].filter((id) => id !== asker.personId));
  const someHas = (scopes: typeof own, ways: readonly string[]) =>
    scopes.some((each) => ways.some((id) => each?.has(id) === true));
  return (ways, over) => someHas(own, ways) || (tellsReaders(asker, over) && someHas(others, ways));
}

function meant(asker: Asker, who: readonly ('me' | 'my-groups')[]): ReadonlySet<string> {
  return new Set([
    ...(who.includes('me') ? [asker.personId] : []),
    ...(who.includes('my-groups') ? asker.groupMates : []),
  ]);
}

const [unknown, fails, holds] = [0, 1, 2];

function passesCoded(scan: Scan, lane: CodedLane, condition: Condition): Passes {
  const ofValue = valueTest(lane, condition, scan.asker);
  const onNone =
    ('filled' in condition && !condition.filled) || ('anyOf' in condition && condition.anyOf.includes(null));
  const ofCode = (code: number): boolean => {
    if (lane.sets === null) return code === 0 ? onNone : ofValue(code);
    const set = lane.sets[code] ?? [];
    return set.length === 0 ? onNone : set.some(ofValue);
  };
  const answers = new Uint8Array(lane.sets?.length ?? lane.size);
  const { rows } = scan;
  const { codes } = lane;
  const passes = new Uint8Array(rows.length);
  if (answers.length <= rows.length) {
    for (let code = 0; code < answers.length; code += 1) answers[code] = Number(ofCode(code));
    for (let at = 0; at < passes.length; at += 1) passes[at] = answers[codes[rows[at] as number] as number] as number;
    return passes;
  }
  // Of more values than rows, only those that occur are tested, each once.
  for (let at = 0; at < passes.length; at += 1) {
    const code = codes[rows[at] as number] as number;
    let answer = answers[code] as number;
    if (answer === unknown) {
      answer = ofCode(code) ? holds : fails;
      answers[code] = answer;
    }
    passes[at] = answer - 1;
  }
  return passes;
}

function passesTitle(scan: Scan, lane: TitleLane, condition: Condition): Passes {
  const { rows } = scan;
  const passes = new Uint8Array(rows.length);
  if ('filled' in condition) return condition.filled ? passes.fill(1) : passes;
  if (!('text' in condition)) return passes;
  const words = searchKey(condition.words);
  const starts = condition.text === 'starts';
  for (let at = 0; at < passes.length; at += 1) {
    const key = lane.keys[rows[at] as number] as string;
    if (starts ? key.startsWith(words) : key.includes(words)) passes[at] = 1;
  }
  return passes;
}

function valueTest(lane: CodedLane, condition: Condition, asker: Asker): (code: number) => boolean {
  if ('filled' in condition) return () => condition.filled;
  if ('text' in condition) {
    const words = searchKey(condition.words);
    return condition.text === 'starts'
      ? (code) => lane.keyOf(code).startsWith(words)
      : (code) => lane.keyOf(code).includes(words);
  }
  const wanted =
    'who' in condition ? meant(asker, condition.who) : 'anyOf' in condition ? condition.anyOf : misfit(condition);
  const codes = new Set([...wanted].map(lane.find));
  return (code) => codes.has(code) && !lane.isHidden(code);
}

function passesNumber({ rows }: Scan, { numbers }: NumberLane, condition: Condition): Passes {
  const passes = new Uint8Array(rows.length);
  if ('from' in condition) {
    const [from, to] = [condition.from ?? -Infinity, condition.to ?? Infinity];
    for (let at = 0; at < passes.length; at += 1) {
      const number = numbers[rows[at] as number] as number;
      if (number >= from && number <= to) passes[at] = 1;
    }
    return passes;
  }
  const wanted = 'anyOf' in condition ? new Set(condition.anyOf) : null;
  const onNone = wanted ? wanted.has(null) : 'filled' in condition ? !condition.filled : misfit(condition);
  for (let at = 0; at < passes.length; at += 1) {
    const number = numbers[rows[at] as number] as number;
    if (Number.isNaN(number) ? onNone : wanted ? wanted.has(number) : !onNone) passes[at] = 1;
  }
  return passes;
}

function passesDay(scan: Scan, lane: DayLane, condition: Condition): Passes {
  if ('span' in condition) {
    const span = spanDays(condition.span, scan.looking);
    return span === null ? sinceLook(scan, lane) : withinAny(scan, lane.days, [span], false);
  }
  const anyDay: Days = { from: null, to: null };
  if ('filled' in condition) return withinAny(scan, lane.days, condition.filled ? [anyDay] : [], !condition.filled);
  if (!('anyOf' in condition)) return misfit(condition);
  const spans = condition.anyOf.flatMap((key) =>
    key === null ? [] : (periodDays(String(key), scan.looking) ?? misfit(condition)),
  );
  return withinAny(scan, lane.days, spans, condition.anyOf.includes(null));
}

function sinceLook({ rows, asker }: Scan, { instants }: DayLane): Passes {
  const since = asker.lookedAtMs ?? -Infinity;
  const passes = new Uint8Array(rows.length);
  for (let at = 0; at < passes.length; at += 1)
    if ((instants?.[rows[at] as number] ?? -Infinity) > since) passes[at] = 1;
  return passes;
}

function withinAny({ rows }: Scan, days: Int32Array, spans: readonly Days[], onNone: boolean): Passes {
  const passes = new Uint8Array(rows.length);
  if (onNone) for (let at = 0; at < passes.length; at += 1) if (days[rows[at] as number] === noDay) passes[at] = 1;
  for (const { from, to } of spans) {
    const [first, last] = [from ?? noDay + 1, to ?? Infinity];
    for (let at = 0; at < passes.length; at += 1) {
      const day = days[rows[at] as number] as number;
      if (day >= first && day <= last) passes[at] = 1;
    }
  }
  return passes;
}

/** Long texts are searched in the database; these are the papers found. */
function passesLongText({ rows, asker, tally }: Scan, present: Uint8Array, condition: Condition): Passes {
  const passes = new Uint8Array(rows.length);
  if ('filled' in condition) {
    for (let at = 0; at < passes.length; at += 1)
      passes[at] = Number((present[rows[at] as number] === 1) === condition.filled);
    return passes;
  }
  if (!('text' in condition)) return misfit(condition);
  const found = asker.found.get(longTextKey(condition.of, condition.text, condition.words));
  const foundRows = new Set([...(found ?? [])].map((id) => tally.ids.rowOf(id)));
  rows.forEach((row, at) => (passes[at] = Number(present[row] === 1 && foundRows.has(row))));
  return passes;
}
