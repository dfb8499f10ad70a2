import { dayAt, type DayNumber } from '../calendar/period';
import { remembered } from '../collections/remembered';
import { isWithin, rulesAt, type Broader, type OfType, type Rule } from '../rules/rules';
import { keepingCalendar, longest, type KeepingFacts } from '../retention/keeping';
import { nextReview } from '../reviews/cycle';
import type { ReviewCycle } from '../reviews/model';
import type { ViewWorld } from '../views/question';
import { CodedStore, DayStore, noDay, type ColumnStore, type SetStore } from './stores';
import type { Tally } from './tally';

/** What each row's paper is owed: its next review and who reviews; how long it is kept, by which class, and what then. */
export interface Owed {
  /** `noDay` for none. */
  readonly reviewOn: DayStore;
  readonly reviewers: CodedStore;
  readonly keptUntil: DayStore;
  readonly classes: CodedStore;
  readonly ends: CodedStore;
}

interface Known {
  readonly world: ViewWorld;
  readonly placesVersion: number;
  readonly epoch: number;
  /** How much of the log of changed rows is worked in. */
  worked: number;
  readonly owed: Owed;
  readonly work: (row: number) => void;
}

const known = new WeakMap<Tally, Known>();

/**
 * What every paper is owed. Worked out in one pass where rules or places have changed; where only papers have, for the rows of
 * those.
 */
export function owedIn(tally: Tally): Owed {
  const there = known.get(tally);
  if (
    there?.world === tally.world &&
    there.placesVersion === tally.placesVersion &&
    there.epoch === tally.touchedEpoch
  ) {
    for (; there.worked < tally.touched.length; there.worked += 1) there.work(tally.touched[there.worked] as number);
    return there.owed;
  }
  const owed: Owed = {
    reviewOn: new DayStore(),
    reviewers: new CodedStore(),
    keptUntil: new DayStore(),
    classes: new CodedStore(),
    ends: new CodedStore(),
  };
  const [review, keep] = [reviewing(tally, owed), keeping(tally, owed)];
  const work = (row: number): void => {
    review(row);
    keep(row);
  };
  // From the last row on, so that the stores grow once.
  for (let row = tally.rows - 1; row >= 0; row -= 1) work(row);
  known.set(tally, {
    world: tally.world,
    placesVersion: tally.placesVersion,
    epoch: tally.touchedEpoch,
    worked: tally.touched.length,
    owed,
    work,
  });
  return owed;
}

/** The rules that speak of rows, nearest first, looked up once for each kind of place and each set of values. */
type Speaking<Says> = (row: number) => readonly Says[];

const none: readonly never[] = [];

/**
 * Makes the look-up of rules for rows. Places with the same rules above them share one; which rules are of a paper's types
 * follows from the codes of its values, which are few: each combination is worked out once.
 */
function speakingIn<Says>(tally: Tally, rules: ReadonlyMap<string, readonly Rule<Says>[]>): Speaking<Says> {
  const shared = new Map<string, Speaking<Says>>();
  const of = tally.places.map(({ lineage }) => {
    const here = rulesAt(rules, lineage);
    const key = here.map(({ id }) => id).join(' ');
    const known = shared.get(key) ?? lookUp(tally, here);
    shared.set(key, known);
    return here.length === 0 ? null : known;
  });
  return (row) => of[tally.homes[row] as number]?.(row) ?? none;
}

function lookUp<Says>(tally: Tally, rules: readonly Rule<Says>[]): Speaking<Says> {
  const stores = [...new Set(rules.flatMap(({ ofType }) => ofType?.columnId ?? []))].flatMap((columnId) => {
    const store: ColumnStore | undefined = tally.columns.get(columnId);
    return store?.kind === 'coded' || store?.kind === 'set' ? [{ columnId, store }] : [];
  });
  const known = new Map<number | string, readonly Says[]>();
  const codeAt = (at: number, row: number): number => stores[at]?.store.codes[row] as number;
  // One number for the codes of one or two columns, of more their text. Codes stay as new values come.
  const base = 2 ** 26;
  const keyOf = (row: number): number | string => {
    if (stores.length === 0) return 0;
    if (stores.length === 1) return codeAt(0, row);
    if (stores.length === 2) return codeAt(0, row) * base + codeAt(1, row);
    return stores.map((_store, at) => codeAt(at, row)).join(' ');
  };
  return (row) => {
    const key = keyOf(row);
    const there = known.get(key);
    if (there) return there;
    const says = rules
      .filter(({ ofType }) => {
        if (ofType === null) return true;
        const { store } = stores.find(({ columnId }) => columnId === ofType.columnId) ?? {};
        return store !== undefined && isOf(store, store.codes[row] as number, ofType, tally.world.owing.broader);
      })
      .map((rule) => rule.says);
    known.set(key, says);
    return says;
  };
}

/** Whether a code of a column stands for a value of a type. */
function isOf(store: CodedStore | SetStore, code: number, { termId }: OfType, broader: Broader): boolean {
  const codes = store.kind === 'coded' ? [code] : (store.sets[code] ?? []);
  return codes.some((each) => {
    const value = store.dictionary.values[each];
    return typeof value === 'string' && isWithin(value, termId, broader);
  });
}

/** Works out the review of a row. */
function reviewing(tally: Tally, { reviewOn, reviewers }: Owed): (row: number) => void {
  const { rules, own, last } = tally.world.owing.cycles;
  const speaking = speakingIn(tally, rules);
  // Most papers of a cycle were filed on few days: each is worked out once.
  const fresh = remembered((cycle: number) =>
    remembered((filed: DayNumber) => nextReview(cycles[cycle] as ReviewCycle, filed, null)?.due ?? noDay),
  );
  const cycles: ReviewCycle[] = [];
  const numbers = new Map<ReviewCycle, number>();
  const dueBy = (cycle: ReviewCycle, row: number): DayNumber => {
    const number = numbers.get(cycle) ?? cycles.push(cycle) - 1;
    numbers.set(cycle, number);
    const filed = tally.filedDays[row] as number;
    const reviewed = last.size === 0 ? undefined : last.get(tally.ids.idOf(row));
    return reviewed === undefined ? fresh(number)(filed) : (nextReview(cycle, filed, reviewed)?.due ?? noDay);
  };
  return (row) => {
    const said = own.size === 0 || tally.homes[row] === -1 ? undefined : own.get(tally.ids.idOf(row));
    const cycle = said === undefined ? speaking(row)[0] : said;
    const due = cycle ? dueBy(cycle, row) : noDay;
    reviewOn.put(row, due);
    reviewers.set(row, cycle && due !== noDay ? cycle.responsibleId : null);
  };
}

/** Works out how long the paper of a row is kept. */
function keeping(tally: Tally, { keptUntil, classes, ends }: Owed): (row: number) => void {
  const { world, places } = tally;
  const speaking = speakingIn(tally, world.owing.schedule);
  const closed = closings(tally);
  // One object for all rows: a million of them would cost more than the days themselves.
  let at = 0;
  const facts: KeepingFacts = {
    get filed() {
      return tally.filedDays[at] as number;
    },
    get closed() {
      return closed[tally.homes[at] as number] ?? null;
    },
    get filingYear() {
      return places[tally.homes[at] as number]?.filingYear ?? null;
    },
    dayIn(columnId) {
      const store = tally.columns.get(columnId);
      const day = store?.kind === 'day' ? (store.days[at] as number) : noDay;
      return day === noDay ? null : day;
    },
  };
  const calendar = keepingCalendar(world.yearStartMonth);
  return (row) => {
    at = row;
    const classesHere = speaking(row);
    const found = classesHere.length === 0 ? null : longest(classesHere, facts, calendar);
    keptUntil.put(row, found?.kept.until ?? noDay);
    classes.set(row, found?.kept.by.id ?? null);
    ends.set(row, found?.end ?? null);
  };
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
