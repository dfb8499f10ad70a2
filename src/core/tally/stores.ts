import { remembered } from '../collections/remembered';
import type { Value } from '../columns/model';
import { searchKey } from '../text/fold';
import { naturalCompare } from '../text/natural';
import type { AskedFor } from '../views/conditions';
import { dayNumber } from '../calendar/period';
import { Ranks } from './ranks';
import { ValueWords } from './valueWords';
import { grown } from './rowIds';

/** No day. */
export const noDay = -2147483648;

/** The distinct values of a column, each with a code; code 0 is no value. */
export class Dictionary {
  readonly values: AskedFor[] = [null];
  readonly #codes = new Map<AskedFor, number>();
  /** The words of its values, for questions by words. */
  readonly words = new ValueWords(this.values);
  #keys: (string | undefined)[] = [];
  #ranks: Ranks | null = null;

  codeOf(value: AskedFor): number {
    if (value === null) return 0;
    const there = this.#codes.get(value);
    if (there !== undefined) return there;
    const code = this.values.push(value) - 1;
    this.#codes.set(value, code);
    this.#ranks?.add(code);
    return code;
  }

  /** The code of a value; -1 if it is unknown. */
  find = (value: AskedFor): number => (value === null ? 0 : (this.#codes.get(value) ?? -1));

  /** A text's search key. */
  keyOf(code: number): string {
    return (this.#keys[code] ??= searchKey(String(this.values[code])));
  }

  /** Ranks of texts in natural order, by code. */
  naturalRanks(): Float64Array {
    if (this.#ranks === null) {
      this.#ranks = new Ranks((a, b) => naturalCompare(String(this.values[a]), String(this.values[b])));
      for (let code = 1; code < this.values.length; code += 1) this.#ranks.add(code);
    }
    return this.#ranks.settled();
  }
}

/** At most one value per row, by code. */
export class CodedStore {
  readonly kind = 'coded';
  readonly dictionary = new Dictionary();
  codes = new Int32Array(0);

  set(row: number, value: Value | null): void {
    this.codes = grown(this.codes, row + 1);
    this.codes[row] = this.dictionary.codeOf(Array.isArray(value) ? null : (value as AskedFor));
  }
}

/** Several values per row: one code for each distinct set; set 0 is empty. */
export class SetStore {
  readonly kind = 'set';
  readonly dictionary = new Dictionary();
  readonly sets: (readonly number[])[] = [[]];
  readonly #codes = new Map<string, number>([['', 0]]);
  codes = new Int32Array(0);

  set(row: number, value: Value | null): void {
    const members = Array.isArray(value) ? (value as readonly string[]) : [];
    this.codes = grown(this.codes, row + 1);
    const key = members.join('\n');
    let code = this.#codes.get(key);
    if (code === undefined) {
      code = this.sets.push([...new Set(members)].map((each) => this.dictionary.codeOf(each))) - 1;
      this.#codes.set(key, code);
    }
    this.codes[row] = code;
  }
}

/** Numbers; NaN for none. */
export class NumberStore {
  readonly kind = 'number';
  numbers = new Float64Array(0);

  set(row: number, value: Value | null): void {
    this.numbers = grown(this.numbers, row + 1);
    this.numbers[row] = typeof value === 'number' ? value : NaN;
  }
}

/** Days; `noDay` for none. */
export class DayStore {
  readonly kind = 'day';
  days = new Int32Array(0);
  /** Days are few: each is read once. */
  readonly #numberOf = remembered((day: string) => dayNumber(day) ?? noDay);

  set(row: number, value: Value | null): void {
    this.days = grown(this.days, row + 1);
    this.days[row] = typeof value === 'string' ? this.#numberOf(value) : noDay;
  }

  /** The same for a day by its number. */
  put(row: number, day: number): void {
    this.days = grown(this.days, row + 1);
    this.days[row] = day;
  }
}

/** Whether there is a text; long texts themselves stay in the database. */
export class PresenceStore {
  readonly kind = 'presence';
  present = new Uint8Array(0);

  set(row: number, value: Value | null): void {
    this.present = grown(this.present, row + 1);
    this.present[row] = value === null ? 0 : 1;
  }
}

/** A column of values that can be changed row by row. */
export type ColumnStore = CodedStore | SetStore | NumberStore | DayStore | PresenceStore;
