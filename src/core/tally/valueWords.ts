import type { AskedFor } from '../views/conditions';
import type { Lexicon } from './lexicon';
import type { Matcher } from './matcher';

/** The words of the distinct values of a column, read when a question by words first needs them. */
export class ValueWords {
  #codes: (readonly number[])[] = [[]];
  #namedBy: object | null = null;

  constructor(private readonly values: readonly AskedFor[]) {}

  /**
   * Reads the words of values that are new.
   * @param namedBy stands for the names of values; where it is another, all are read again
   */
  read(lexicon: Lexicon, namedBy: object, textsOf: (value: AskedFor) => readonly string[]): void {
    if (this.#namedBy !== namedBy) this.#codes = [[]];
    this.#namedBy = namedBy;
    for (let code = this.#codes.length; code < this.values.length; code += 1)
      this.#codes.push(lexicon.codesInAll(textsOf(this.values[code] ?? null)));
  }

  /** By value code: a bit for each wanted word that the value has; null if no value has any. */
  bits(matcher: Matcher): Int32Array | null {
    const bits = new Int32Array(this.values.length);
    let any = 0;
    for (let code = 1; code < bits.length; code += 1) {
      bits[code] = matcher.bitsIn(this.#codes[code] ?? []);
      any |= bits[code] as number;
    }
    return any === 0 ? null : bits;
  }
}
