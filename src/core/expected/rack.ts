import {
  eachState,
  occasionKey,
  occasionsOf,
  type ExpectedState,
  type ExpectingDossier,
  type Occasion,
  type SlotFacts,
} from './slots';

/** A letter for each state, for rows of squares. */
export const stateLetters = { met: 'm', ahead: 'a', gap: 'g', waived: 'w' } as const satisfies Record<
  ExpectedState,
  string
>;
/** The state that a letter stands for; null for any other. */
export const stateOfLetter = (letter: string): ExpectedState | null =>
  (Object.keys(stateLetters) as ExpectedState[]).find((state) => stateLetters[state] === letter) ?? null;

/** What a filing year of a dossier contains; `lastFiledMs` is null if it is empty. */
export interface Holding {
  readonly papers: number;
  readonly pages: number;
  readonly bytes: number;
  readonly lastFiledMs: number | null;
}

/** A filing year of a dossier: its contents, and the states of its expected papers. */
export interface RackCell extends Holding {
  /** A letter per expected paper (`stateLetters`): one group per meeting, separated by spaces, then those of the year. */
  readonly squares: string;
  readonly gaps: number;
}

/** A row of the rack. */
export interface RackRow {
  readonly dossierId: string;
  /** Letters for what is expected of the dossier itself. */
  readonly squares: string;
  /** In the order of the rack's years; null for a year without a place. */
  readonly cells: readonly (RackCell | null)[];
  /** Everything in the dossier, in its years and outside them. */
  readonly whole: Holding;
  /** All missing papers: the dossier's own and those of its years. */
  readonly gaps: number;
}

/** All that a row of the rack is worked out from. */
export interface RackMatter extends SlotFacts {
  /** First calendar years of the filing years shown, in order. */
  readonly years: readonly number[];
  readonly yearStartMonth: number;
  /** Contents by occasion: a year of a dossier, or the dossier outside its years. */
  readonly holding: (occasion: string) => Holding | undefined;
}

/** No papers. */
export const emptyHolding: Holding = { papers: 0, pages: 0, bytes: 0, lastFiledMs: null };

/** Two holdings together. */
export const addHolding = (one: Holding, other: Holding): Holding => ({
  papers: one.papers + other.papers,
  pages: one.pages + other.pages,
  bytes: one.bytes + other.bytes,
  lastFiledMs:
    one.lastFiledMs === null || other.lastFiledMs === null
      ? (one.lastFiledMs ?? other.lastFiledMs)
      : Math.max(one.lastFiledMs, other.lastFiledMs),
});

/** The letters for one occasion. */
function lettersOf(occasion: Occasion, matter: RackMatter): string {
  let letters = '';
  eachState(occasion, matter, (_expectation, state) => {
    letters += stateLetters[state];
  });
  return letters;
}

const gapsIn = (letters: string): number => letters.split(stateLetters.gap).length - 1;

/** The row of one dossier. */
export function rackRow(dossier: ExpectingDossier, matter: RackMatter): RackRow {
  const letters = new Map<number | null, string>();
  for (const occasion of occasionsOf(dossier, matter.yearStartMonth)) {
    const own = lettersOf(occasion, matter);
    if (own === '') continue;
    // Groups the letters of one meeting.
    const before = letters.get(occasion.startYear);
    letters.set(occasion.startYear, before === undefined ? own : `${before} ${own}`);
  }
  const held = (startYear: number | null): Holding =>
    matter.holding(occasionKey(dossier.id, startYear, null)) ?? emptyHolding;
  const has = new Set(dossier.years);
  return {
    dossierId: dossier.id,
    squares: letters.get(null) ?? '',
    cells: matter.years.map((startYear): RackCell | null => {
      if (!has.has(startYear)) return null;
      const squares = letters.get(startYear) ?? '';
      return { ...held(startYear), squares, gaps: gapsIn(squares) };
    }),
    whole: dossier.years.reduce((sum, startYear) => addHolding(sum, held(startYear)), held(null)),
    gaps: [...letters.values()].reduce((sum, squares) => sum + gapsIn(squares), 0),
  };
}
