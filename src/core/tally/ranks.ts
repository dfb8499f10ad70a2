import { naturalCompare } from '../text/natural';
import { grown } from './rowIds';

/** Above this many new codes, merging them is cheaper than inserting each. */
const fewNewcomers = 64;

/**
 * Keeps codes sorted and gives each a rank, equal for codes that compare as equal. A new code gets a rank between its
 * neighbours', so that a change costs a search instead of a sort.
 */
export class Ranks {
  #order = new Int32Array(0);
  #count = 0;
  #rank = new Float64Array(0);
  #newcomers: number[] = [];

  constructor(private readonly compare: (a: number, b: number) => number) {}

  /** Adds a code that has no rank yet. */
  add(code: number): void {
    this.#newcomers.push(code);
  }

  /** Removes a code, which has to compare as it did when it was added. */
  remove(code: number): void {
    const waiting = this.#newcomers.indexOf(code);
    if (waiting !== -1) {
      this.#newcomers.splice(waiting, 1);
      return;
    }
    let at = this.#placeFor(code);
    while (at < this.#count && this.#order[at] !== code) at += 1;
    if (at === this.#count) throw new Error(`Code ${code} has no rank to lose`);
    this.#order.copyWithin(at, at + 1, this.#count);
    this.#count -= 1;
  }

  /** Current ranks by code, valid until the next change. */
  settled(): Float64Array {
    if (this.#newcomers.length > fewNewcomers) this.#sortIn();
    else for (const code of this.#newcomers) this.#insert(code);
    this.#newcomers = [];
    return this.#rank;
  }

  /** Merges new codes. `Array.prototype.sort` merges sorted runs cheaply. */
  #sortIn(): void {
    const all = Array.from(this.#order.subarray(0, this.#count));
    for (const code of this.#newcomers) all.push(code);
    this.#order = Int32Array.from(all);
    this.#count = all.length;
    if (this.#number()) return;
    all.sort(this.compare);
    this.#order = Int32Array.from(all);
    this.#number();
  }

  /** Numbers codes by their order; false if they are not in order. */
  #number(): boolean {
    let most = 0;
    for (let at = 0; at < this.#count; at += 1) most = Math.max(most, this.#order[at] as number);
    this.#rank = grown(this.#rank, most + 1);
    let rank = 0;
    for (let at = 0; at < this.#count; at += 1) {
      const code = this.#order[at] as number;
      const difference = at === 0 ? 0 : this.compare(this.#order[at - 1] as number, code);
      if (difference > 0) return false;
      if (difference < 0) rank += 1;
      this.#rank[code] = rank;
    }
    return true;
  }

  /** The first position whose code does not come before this one. */
  #placeFor(code: number): number {
    let [low, high] = [0, this.#count];
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.compare(this.#order[middle] ?? 0, code) < 0) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  #insert(code: number): void {
    const at = this.#placeFor(code);
    this.#order = grown(this.#order, this.#count + 1);
    this.#order.copyWithin(at + 1, at, this.#count);
    this.#order[at] = code;
    this.#count += 1;
    this.#rank = grown(this.#rank, code + 1);
    const next = at + 1 < this.#count ? (this.#order[at + 1] ?? null) : null;
    if (next !== null && this.compare(code, next) === 0) {
      this.#rank[code] = this.#rank[next] ?? 0;
      return;
    }
    const before = at > 0 ? (this.#rank[this.#order[at - 1] ?? 0] ?? 0) : null;
    const after = next === null ? null : (this.#rank[next] ?? 0);
    const rank =
      before === null ? (after === null ? 0 : after - 1) : after === null ? before + 1 : (before + after) / 2;
    this.#rank[code] = rank;
    if (rank === before || rank === after) this.#number();
  }
}

/**
 * The rank of each code by the name of what it stands for, in natural order; equal names rank equal.
 * @param values what each code stands for; code 0 is none.
 */
export function nameRanks(values: readonly unknown[], names: ReadonlyMap<string, string>): Float64Array {
  const nameOf = (code: number) => names.get(String(values[code])) ?? '';
  const codes = Array.from(values, (_value, code) => code).slice(1);
  codes.sort((a, b) => naturalCompare(nameOf(a), nameOf(b)));
  const rank = new Float64Array(values.length);
  codes.forEach((code, at) => {
    const before = codes[at - 1];
    rank[code] =
      before === undefined ? 0 : (rank[before] ?? 0) + Number(naturalCompare(nameOf(before), nameOf(code)) !== 0);
  });
  return rank;
}
