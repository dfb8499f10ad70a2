import type { AskedFor } from '../views/conditions';

/** A property's value codes by row. With `sets`, codes stand for sets of values. */
export interface CodedLane {
  readonly kind: 'coded';
  readonly codes: Int32Array;
  readonly sets: readonly (readonly number[])[] | null;
  /** The number of value codes; code 0 is none. */
  readonly size: number;
  readonly valueOf: (code: number) => AskedFor;
  readonly find: (value: AskedFor) => number;
  /** A value's rank in the values' own order; equal for equal names. */
  readonly rankOf: (code: number) => number;
  /** Whether the value is hidden from the caller. */
  readonly isHidden: (code: number) => boolean;
  /** A text's search key. */
  readonly keyOf: (code: number) => string;
}
/** Titles by row; nearly all differ. */
export interface TitleLane {
  readonly kind: 'title';
  readonly keys: readonly string[];
  /** Ranks in natural order. */
  readonly ranks: Float64Array;
}
/** A column of numbers, by row; NaN where there is no value. */
export interface NumberLane {
  readonly kind: 'number';
  /** NaN for none. */
  readonly numbers: Float64Array;
}
/** A column of days, by row. */
export interface DayLane {
  readonly kind: 'day';
  readonly days: Int32Array;
  readonly instants: Float64Array | null;
}
/** A column of which it is only known where there are values. */
export interface PresenceLane {
  readonly kind: 'presence';
  readonly present: Uint8Array;
}
/** A column as the pass reads it. */
export type Lane = CodedLane | TitleLane | NumberLane | DayLane | PresenceLane;
