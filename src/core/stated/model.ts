import type { Spot } from '../reading/find';

/** What a bill or a letter states of itself: its number, its day, when it is to be paid, how much, and for what time. */
export type StatedKind = SingleKind | 'period';
/** Those whose value stands in one piece; a period has two days. */
export const singleKinds = ['number', 'day', 'due', 'amount'] as const;
export type SingleKind = (typeof singleKinds)[number];

/** Something that a paper states. */
export interface Stated {
  readonly kind: StatedKind;
  /**
   * A number as it stands there; a day in ISO 8601; an amount in its currency’s main unit with a point: `1284.60`; a period as an
   * interval of ISO 8601, both days in it: `2026-10-01/2026-10-31`.
   */
  readonly value: string;
  /** ISO 4217 code of an amount; null where none stands by it, and for all else. */
  readonly currency: string | null;
  /** As it stands there. */
  readonly words: string;
  /** The words by which it was known, as they stand there; null: by where it stands and how it looks. */
  readonly by: string | null;
  /** From 1. */
  readonly page: number;
  /** Null where the text has no places. */
  readonly spot: Spot | null;
  /** How likely it is right, from 0 to 1: of what is said to be 0.9 sure, about nine in ten are right. */
  readonly sure: number;
  /** It was taken from the bill’s own data, and not read. */
  readonly isData?: true;
  /** The words by which it was known were taught by papers that were filed before. */
  readonly isTaught?: true;
}

/** Words beside which papers of the same sender state something, as somebody has shown by what they filed one with. */
export interface Taught {
  readonly kind: SingleKind;
  /** Folded. */
  readonly words: readonly string[];
  /** Of how many words the value is: a number may have blanks in it. */
  readonly length: number;
}

/** What is known of a paper beside its pages. */
export interface Around {
  /** The subject of the mail and the names of its files: a number that stands there too is the paper’s own. */
  readonly names: string;
  /** The day on which it arrived, ISO 8601. */
  readonly arrivedOn: string;
  /** References of the library’s own dossiers, folded: whoever quotes one does not number a bill with it. */
  readonly references?: ReadonlySet<string>;
  /** What was learnt from papers of the same sender; of each kind one at most. */
  readonly taught?: readonly Taught[];
}

/** Something that stands on a page and looks like a value of its kind. */
export interface Candidate extends Omit<Stated, 'sure' | 'kind'> {
  readonly kind: SingleKind;
  /** How much the words by it and its place say, from 0 to 1. */
  readonly score: number;
}

/** Only so many pages are looked through: what a bill states stands on its first and its last. */
export const mostPages = 4;
