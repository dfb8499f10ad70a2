import { gap, type Lexicon } from './lexicon';
import type { Matcher } from './matcher';
import { grown } from './rowIds';

/** What of a paper is kept as words: a title by which it is called, and what else was written about it. */
export const wordFields = ['title', 'fileName', 'value'] as const;
export type WordField = (typeof wordFields)[number];

/** Stands before the words of a field: -1 for the first field, and so on. */
const opens = (field: number): number => -1 - field;

/** The words of each row's title, file name, remark and long values, as codes one behind the other. */
export class RowWords {
  #codes = new Int32Array(0);
  #starts = new Int32Array(0);
  #ends = new Int32Array(0);
  /** By row: a bit for each word by the end of its code. Most rows have none of what is wanted, and are passed over by this. */
  #hints = new Int32Array(0);
  #used = 0;
  #live = 0;

  constructor(private readonly lexicon: Lexicon) {}

  /** Sets the words of a row. */
  set(row: number, texts: Readonly<Record<WordField, readonly string[]>>): void {
    const codes = wordFields.flatMap((field, at) => {
      const inField = this.lexicon.codesInAll(texts[field]);
      return inField.length === 0 ? [] : [opens(at), ...inField];
    });
    this.clear(row);
    this.#codes = grown(this.#codes, this.#used + codes.length);
    this.#codes.set(codes, this.#used);
    this.#starts = grown(this.#starts, row + 1);
    this.#ends = grown(this.#ends, row + 1);
    this.#hints = grown(this.#hints, row + 1);
    this.#hints[row] = codes.reduce((bits, code) => (code < 0 ? bits : bits | (1 << (code & 31))), 0);
    this.#starts[row] = this.#used;
    this.#used += codes.length;
    this.#ends[row] = this.#used;
    this.#live += codes.length;
    if (this.#used > 4096 && this.#used > 2 * this.#live) this.#pack();
  }

  /** Takes a row's words away. */
  clear(row: number): void {
    this.#live -= (this.#ends[row] ?? 0) - (this.#starts[row] ?? 0);
    if (row < this.#ends.length) this.#ends[row] = this.#starts[row] ?? 0;
  }

  /** Moves what is in use together. */
  #pack(): void {
    const codes = new Int32Array(Math.max(1024, this.#live * 2));
    let used = 0;
    for (let row = 0; row < this.#starts.length; row += 1) {
      const [start, end] = [this.#starts[row] as number, this.#ends[row] as number];
      codes.set(this.#codes.subarray(start, end), used);
      this.#starts[row] = used;
      used += end - start;
      this.#ends[row] = used;
    }
    [this.#codes, this.#used] = [codes, used];
  }

  /** Notes in which fields of which rows what is wanted stands: one bit each, in an array for each field. */
  match(rows: Int32Array, matcher: Matcher, into: Readonly<Record<WordField, Int32Array>>): void {
    const { single, first, hint } = matcher;
    const fields = wordFields.map((field) => into[field]);
    for (let at = 0; at < rows.length; at += 1) {
      const row = rows[at] as number;
      if (((this.#hints[row] as number) & hint) === 0) continue;
      const end = this.#ends[row] as number;
      let field = fields[0] as Int32Array;
      for (let place = this.#starts[row] as number; place < end; place += 1) {
        const code = this.#codes[place] as number;
        if (code < 0) {
          field = fields[opens(code)] as Int32Array;
          continue;
        }
        const bits = (single[code] as number) | (first[code] === 0 ? 0 : matcher.phrasesAt(this.#codes, place, end));
        if (bits !== 0) field[row] = (field[row] as number) | bits;
      }
    }
  }

  /** Which share of a row's title is wanted, from 0 to 1. */
  titleShare(row: number, { single, first }: Matcher): number {
    let [words, hits] = [0, 0];
    for (let place = (this.#starts[row] as number) + 1; place < (this.#ends[row] as number); place += 1) {
      const code = this.#codes[place] as number;
      if (code < 0 || code === gap) break;
      words += 1;
      hits += Number(((single[code] as number) | (first[code] as number)) !== 0);
    }
    return words === 0 ? 0 : hits / words;
  }
}
