import type { DayNumber } from '../views/period';
import {
  slotKey,
  slotsOf,
  stateOf,
  type Expectation,
  type ExpectedState,
  type ExpectingDossier,
  type Slot,
} from './expected';

/** How expected papers are written in a row of squares: a letter each. */
export const stateLetters = { met: 'm', ahead: 'a', gap: 'g', waived: 'w' } as const satisfies Record<
  ExpectedState,
  string
>;
export const stateOfLetter = (letter: string): ExpectedState | null =>
  (Object.keys(stateLetters) as ExpectedState[]).find((state) => stateLetters[state] === letter) ?? null;

/** What lies in one filing year of a dossier; `lastFiledMs` is null where nothing does. */
export interface Holding {
  readonly papers: number;
  readonly pages: number;
  readonly bytes: number;
  readonly lastFiledMs: number | null;
}

/** One filing year of a dossier: what lies there, and how what is expected stands. */
export interface RackCell extends Holding {
  /** A letter for each expected paper (`stateLetters`): those of one meeting together, then a space; what is for the year last. */
  readonly squares: string;
  readonly gaps: number;
}

/** A row of the rack. */
export interface RackRow {
  readonly dossierId: string;
  /** Letters of what is expected of the dossier itself. */
  readonly squares: string;
  /** In the order of the rack's years; null where the dossier has no place for one. */
  readonly cells: readonly (RackCell | null)[];
  /** All that lies in the dossier, in its years and beside them. */
  readonly whole: Holding;
  /** All gaps: the dossier's own and those of its years. */
  readonly gaps: number;
}

export interface RackMatter {
  readonly expected: readonly Expectation[];
  /** First calendar years of the filing years shown, in order. */
  readonly years: readonly number[];
  readonly yearStartMonth: number;
  readonly today: DayNumber;
  /** What lies in a dossier, by year (null: in none of its years). */
  readonly holding: (dossierId: string, startYear: number | null) => Holding | undefined;
  /** Keys of slots that a paper meets, and of those that someone said are not needed. */
  readonly met: ReadonlySet<string>;
  readonly waived: ReadonlySet<string>;
}

export const emptyHolding: Holding = { papers: 0, pages: 0, bytes: 0, lastFiledMs: null };

export const addHolding = (one: Holding, other: Holding): Holding => ({
  papers: one.papers + other.papers,
  pages: one.pages + other.pages,
  bytes: one.bytes + other.bytes,
  lastFiledMs:
    one.lastFiledMs === null || other.lastFiledMs === null
      ? (one.lastFiledMs ?? other.lastFiledMs)
      : Math.max(one.lastFiledMs, other.lastFiledMs),
});

/** How one slot of a dossier stands. */
export function slotState(
  { expectation, startYear, meetingId, due }: Slot,
  dossierId: string,
  { met, waived, today }: Pick<RackMatter, 'met' | 'waived' | 'today'>,
): ExpectedState {
  const key = slotKey(expectation.id, dossierId, startYear, meetingId);
  return stateOf({ due }, { met: met.has(key), waived: waived.has(key) }, today);
}

/** The row of one dossier. */
export function rackRow(dossier: ExpectingDossier, matter: RackMatter): RackRow {
  const own = { squares: '', gaps: 0 };
  const byYear = new Map(
    dossier.years.map((startYear) => [startYear, { squares: '', gaps: 0, last: null as string | null }]),
  );
  for (const slot of slotsOf(matter.expected, dossier, matter.yearStartMonth)) {
    const state = slotState(slot, dossier.id, matter);
    const into = slot.startYear === null ? own : byYear.get(slot.startYear);
    if (!into) continue;
    // What is for one meeting stands together, apart from the next and from what is for the year.
    if ('last' in into) {
      if (into.squares !== '' && into.last !== slot.meetingId) into.squares += ' ';
      into.last = slot.meetingId;
    }
    into.squares += stateLetters[state];
    into.gaps += Number(state === 'gap');
  }
  const cells = matter.years.map((startYear): RackCell | null => {
    const year = byYear.get(startYear);
    if (!year) return null;
    return { ...(matter.holding(dossier.id, startYear) ?? emptyHolding), squares: year.squares, gaps: year.gaps };
  });
  const beside = matter.holding(dossier.id, null) ?? emptyHolding;
  return {
    dossierId: dossier.id,
    squares: own.squares,
    cells,
    whole: dossier.years.reduce(
      (sum, startYear) => addHolding(sum, matter.holding(dossier.id, startYear) ?? emptyHolding),
      beside,
    ),
    gaps: own.gaps + [...byYear.values()].reduce((sum, year) => sum + year.gaps, 0),
  };
}
