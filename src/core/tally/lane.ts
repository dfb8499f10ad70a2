import type { AskedFor } from '../views/conditions';

/** Values by code, by row of the tally. Where there are `sets`, codes are those of sets of values. */
export interface CodedLane {
  readonly kind: 'coded';
  readonly codes: Int32Array;
  readonly sets: readonly (readonly number[])[] | null;
  /** How many codes of values there are; code 0 is none. */
  readonly size: number;
  readonly valueOf: (code: number) => AskedFor;
  readonly find: (value: AskedFor) => number;
  /** Where a value stands among all, in their own order. Equal where names are. */
  readonly rankOf: (code: number) => number;
  /** Whether the asker may know of a value. */
  readonly isHidden: (code: number) => boolean;
  /** The form in which words are looked for in a text. */
  readonly keyOf: (code: number) => string;
}
/** Titles, by row: nearly all differ. */
export interface TitleLane {
  readonly kind: 'title';
  readonly keys: readonly string[];
  /** Where each stands in natural order. */
  readonly ranks: Float64Array;
}
export interface NumberLane {
  readonly kind: 'number';
  /** NaN for none. */
  readonly numbers: Float64Array;
}
export interface DayLane {
  readonly kind: 'day';
  readonly days: Int32Array;
  readonly instants: Float64Array | null;
}
export interface PresenceLane {
  readonly kind: 'presence';
  readonly present: Uint8Array;
}
export type Lane = CodedLane | TitleLane | NumberLane | DayLane | PresenceLane;
