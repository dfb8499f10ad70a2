import { dayAt, type DayNumber } from '../calendar/period';
import { remembered } from '../collections/remembered';
import { isWithin, rulesAt, type OfType, type Rule } from '../rules/rules';
import { longest, type KeepingFacts } from '../retention/keeping';
import type { RetentionClass } from '../retention/model';
import { nextReview } from '../reviews/cycle';
import type { ReviewCycle } from '../reviews/model';
import { CodedStore, noDay, type ColumnStore } from './stores';
import type { Tally } from './tally';

/** What each row's paper is owed: its next review and who reviews; how long it is kept, by which class, and what then. */
export interface Owed {
  /** `noDay` for none. */
  readonly reviewOn: Int32Array;
  readonly reviewers: CodedStore;
  readonly keptUntil: Int32Array;
  readonly classes: CodedStore;
  readonly ends: CodedStore;
}

const known = new WeakMap<Tally, { readonly version: number; readonly owed: Owed }>();

/** Works out what every paper is owed in one pass. Kept until anything changes. */
export function owedIn(tally: Tally): Owed {
  const there = known.get(tally);
  if (there?.version === tally.version) return there.owed;
  const owed = { ...reviewsIn(tally), ...keepingIn(tally) };
  known.set(tally, { version: tally.version, owed });
  return owed;
}

/** Whether a row's paper is of a rule's type. */
type Test = (row: number) => boolean;
const always: Test = () => true;
const never: Test = () => false;

/** Makes the test of a type, by the codes of the column's values: whether one counts is looked up once for each. */
function testOf(tally: Tally, ofType: OfType | null): Test {
  if (ofType === null) return always;
  const store: ColumnStore | undefined = tally.columns.get(ofType.columnId);
  if (store?.kind !== 'coded' && store?.kind !== 'set') return never;
  const { broader } = tally.world.owing;
  const isIt = store.dictionary.values.map(
    (value) => typeof value === 'string' && isWithin(value, ofType.termId, broader),
  );
  if (store.kind === 'coded') return (row) => isIt[store.codes[row] as number] === true;
  const sets = store.sets.map((set) => set.some((code) => isIt[code] === true));
  return (row) => sets[store.codes[row] as number] === true;
}

/** For each place, by code, the rules that may speak there, nearest first, each with its test. */
function spoken<Says>(
  tally: Tally,
  rules: ReadonlyMap<string, readonly Rule<Says>[]>,
): readonly (readonly { readonly test: Test; readonly says: Says }[])[] {
  const tested = new Map(
    [...rules.values()].flat().map((rule) => [rule, { test: testOf(tally, rule.ofType), says: rule.says }]),
  );
  return tally.places.map(({ lineage }) => rulesAt(rules, lineage).flatMap((rule) => tested.get(rule) ?? []));
}

function reviewsIn(tally: Tally): Pick<Owed, 'reviewOn' | 'reviewers'> {
  const { rules, own, last } = tally.world.owing.cycles;
  const reviewOn = new Int32Array(tally.rows).fill(noDay);
  const reviewers = new CodedStore();
  reviewers.codes = new Int32Array(tally.rows);
  if (rules.size === 0 && own.size === 0) return { reviewOn, reviewers };
  const at = spoken(tally, rules);
  // Most papers of a cycle were filed on few days: each is worked out once.
  const fresh = remembered((cycle: number) =>
    remembered((filed: DayNumber) => nextReview(cycles[cycle] as ReviewCycle, filed, null)?.due ?? noDay),
  );
  const cycles: ReviewCycle[] = [];
  const numbers = new Map<ReviewCycle, number>();
  const set = (row: number, cycle: ReviewCycle): void => {
    const number = numbers.get(cycle) ?? cycles.push(cycle) - 1;
    numbers.set(cycle, number);
    const filed = tally.filedDays[row] as number;
    const reviewed = last.size === 0 ? undefined : last.get(tally.ids.idOf(row));
    const due = reviewed === undefined ? fresh(number)(filed) : (nextReview(cycle, filed, reviewed)?.due ?? noDay);
    reviewOn[row] = due;
    if (due !== noDay) reviewers.set(row, cycle.responsibleId);
  };
  for (let row = 0; row < tally.rows; row += 1) {
    const rulesHere = at[tally.homes[row] as number];
    if (rulesHere === undefined || rulesHere.length === 0) continue;
    const found = rulesHere.find(({ test }) => test(row));
    if (found) set(row, found.says);
  }
  for (const [id, cycle] of own) {
    const row = tally.ids.rowOf(id);
    if (row < 0) continue;
    reviewOn[row] = noDay;
    reviewers.set(row, null);
    if (cycle) set(row, cycle);
  }
  return { reviewOn, reviewers };
}

function keepingIn(tally: Tally): Pick<Owed, 'keptUntil' | 'classes' | 'ends'> {
  const { world, places } = tally;
  const { schedule } = world.owing;
  const keptUntil = new Int32Array(tally.rows).fill(noDay);
  const [classes, ends] = [new CodedStore(), new CodedStore()];
  classes.codes = new Int32Array(tally.rows);
  ends.codes = new Int32Array(tally.rows);
  if (schedule.size === 0) return { keptUntil, classes, ends };
  const at = spoken(tally, schedule);
  const closed = closings(tally);
  // One object for all rows: a million of them would cost more than the days themselves.
  let row = 0;
  const facts: KeepingFacts = {
    get filed() {
      return tally.filedDays[row] as number;
    },
    get closed() {
      return closed[tally.homes[row] as number] ?? null;
    },
    get filingYear() {
      return places[tally.homes[row] as number]?.filingYear ?? null;
    },
    dayIn(columnId) {
      const store = tally.columns.get(columnId);
      const day = store?.kind === 'day' ? (store.days[row] as number) : noDay;
      return day === noDay ? null : day;
    },
  };
  const speaking: RetentionClass[] = [];
  for (; row < tally.rows; row += 1) {
    const rulesHere = at[tally.homes[row] as number];
    if (rulesHere === undefined || rulesHere.length === 0) continue;
    speaking.length = 0;
    for (const { test, says } of rulesHere) if (test(row)) speaking.push(says);
    const found = speaking.length === 0 ? null : longest(speaking, facts, world.yearStartMonth);
    if (found === null) continue;
    if (found.kept.until !== null) keptUntil[row] = found.kept.until;
    classes.set(row, found.kept.by.id);
    ends.set(row, found.end);
  }
  return { keptUntil, classes, ends };
}

/** By place code, the day on which the dossier of the place was closed; null for none, and while it is open. */
function closings({ places, placeCodes, world }: Tally): readonly (DayNumber | null)[] {
  return places.map(({ lineage }) => {
    for (const id of lineage) {
      const place = places[placeCodes.get(id) ?? -1];
      if (place?.kind === 'dossier') return place.closedAtMs === null ? null : dayAt(place.closedAtMs, world.timeZone);
    }
    return null;
  });
}
