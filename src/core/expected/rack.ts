import {
  eachState,
  occasionKey,
  occasionsOf,
  type ExpectedState,
  type ExpectingDossier,
  type Occasion,
  type Standings,
} from './slots';

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

export interface RackMatter extends Standings {
  /** First calendar years of the filing years shown, in order. */
  readonly years: readonly number[];
  readonly yearStartMonth: number;
  /** What lies in the places of an occasion: in a year of a dossier, or in the dossier beside its years. */
  readonly holding: (occasion: string) => Holding | undefined;
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

/** The letters of what is expected on an occasion. */
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
    // What is for one meeting stands together, apart from the next and from what is for the year.
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
