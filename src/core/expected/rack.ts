import {
  eachState,
  occasionKey,
  occasionsOf,
  type ExpectedState,
  type ExpectingDossier,
  type Occasion,
  type SlotFacts,
} from './slots';
import { folderCell, type RackColumn } from './rackColumns';
import type { Expectation } from '../plans/expectation';

/** A letter for each state, for rows of squares. */
export const stateLetters = { met: 'm', ending: 'e', ahead: 'a', gap: 'g', waived: 'w' } as const satisfies Record<
  ExpectedState,
  string
>;
/** The state that a letter stands for; null for any other. */
export const stateOfLetter = (letter: string): ExpectedState | null =>
  (Object.keys(stateLetters) as ExpectedState[]).find((state) => stateLetters[state] === letter) ?? null;

/** What a cell's part of a dossier contains; `lastFiledMs` is null if it is empty. */
export interface Holding {
  readonly papers: number;
  readonly pages: number;
  readonly bytes: number;
  readonly lastFiledMs: number | null;
}

/** A filing year, planned folder or expected paper of a dossier: what is in it, and the states of its expected papers. */
export interface RackCell extends Holding {
  /** A letter per expected paper (`stateLetters`): one group per meeting, separated by spaces, then those of the year. */
  readonly squares: string;
  readonly gaps: number;
}

/** A row of the rack. */
export interface RackRow {
  readonly dossierId: string;
  /** Letters for what is expected of the dossier itself, and stands in no column. */
  readonly squares: string;
  /** In the order of the rack's columns; null for a year or folder without a place. */
  readonly cells: readonly (RackCell | null)[];
  /** Everything in the dossier, in its years and outside them. */
  readonly whole: Holding;
  /** All missing papers: the dossier's own and those of its years. */
  readonly gaps: number;
}

/** All that a row of the rack is worked out from. */
export interface RackMatter extends SlotFacts {
  readonly columns: readonly RackColumn[];
  /** The column in which a paper expected of each dossier stands; null: with the dossier itself. */
  readonly columnOf: (expectation: Expectation) => string | null;
  readonly yearStartMonth: number;
  /** Contents: by occasion of a year, by `folderCell`, or by the dossier outside of these. */
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
  const { columns } = matter;
  const has = new Set([...dossier.years.map(String), ...(dossier.folders ?? [])]);
  const stands = (column: RackColumn): boolean =>
    column.kind === 'year' || column.kind === 'folder' ? has.has(column.key) : true;
  const shown = new Set(columns.filter(stands).map((column) => column.key));
  const letters = new Map<string | null, string>();
  for (const occasion of occasionsOf(dossier, matter.yearStartMonth)) {
    if (occasion.startYear === null)
      eachState(occasion, matter, (expectation, state) => {
        const wanted = matter.columnOf(expectation);
        const key = wanted !== null && shown.has(wanted) ? wanted : null;
        letters.set(key, (letters.get(key) ?? '') + stateLetters[state]);
      });
    else {
      const own = lettersOf(occasion, matter);
      if (own === '') continue;
      // Groups the letters of one meeting.
      const key = String(occasion.startYear);
      const before = letters.get(key);
      letters.set(key, before === undefined ? own : `${before} ${own}`);
    }
  }
  const held = (key: string): Holding => matter.holding(key) ?? emptyHolding;
  const heldIn = ({ kind, key }: RackColumn): Holding => {
    if (kind === 'paper') return emptyHolding;
    if (kind === 'whole') return held(dossier.id);
    return held(kind === 'year' ? occasionKey(dossier.id, Number(key), null) : folderCell(dossier.id, key));
  };
  const apart = columns.filter((column) => (column.kind === 'year' || column.kind === 'folder') && stands(column));
  return {
    dossierId: dossier.id,
    squares: letters.get(null) ?? '',
    cells: columns.map((column): RackCell | null => {
      if (!stands(column)) return null;
      const squares = letters.get(column.key) ?? '';
      return { ...heldIn(column), squares, gaps: gapsIn(squares) };
    }),
    whole: apart.reduce((sum, column) => addHolding(sum, heldIn(column)), held(dossier.id)),
    gaps: [...letters.values()].reduce((sum, squares) => sum + gapsIn(squares), 0),
  };
}
