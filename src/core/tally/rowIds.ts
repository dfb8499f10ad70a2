/** Grows a typed array to at least `needed`, keeping its contents. Doubles the capacity, so that growing is rare. */
export function grown<T extends Int32Array | Uint32Array | Uint8Array | Float64Array>(array: T, needed: number): T {
  if (array.length >= needed) return array;
  const larger = new (array.constructor as new (length: number) => T)(Math.max(needed, array.length * 2, 1024));
  larger.set(array);
  return larger;
}

const free = -1;
const words = 4;

/**
 * Maps paper ids to rows by the id's 128 bits (RFC 9562): an open-addressed table over typed arrays, because a `Map` of a
 * million strings takes more memory than the rest of the tally.
 */
export class RowIds {
  #bits = new Uint32Array(0);
  #table = new Int32Array(1024).fill(free);
  #used = 0;

  /** The row of an id, or -1. */
  rowOf(id: string): number {
    const at = bitsOf(id);
    return this.#table[this.#slot(at)] ?? free;
  }

  /** Sets the row of an id that has none. */
  set(id: string, row: number): void {
    const at = bitsOf(id);
    this.#bits = grown(this.#bits, (row + 1) * words);
    this.#bits.set(at, row * words);
    this.#used += 1;
    if (this.#used * 2 > this.#table.length) this.#rehash();
    this.#table[this.#slot(at)] = row;
  }

  /** Removes an id and reinserts the entries after it in its run. */
  delete(id: string): void {
    let slot = this.#slot(bitsOf(id));
    if (this.#table[slot] === free) return;
    this.#table[slot] = free;
    this.#used -= 1;
    const mask = this.#table.length - 1;
    for (slot = (slot + 1) & mask; this.#table[slot] !== free; slot = (slot + 1) & mask) {
      const row = this.#table[slot] ?? free;
      this.#table[slot] = free;
      this.#table[this.#slot(this.#bits.subarray(row * words, row * words + words))] = row;
    }
  }

  /** The id of a row. */
  idOf(row: number): string {
    let hex = '';
    for (let word = 0; word < words; word += 1)
      hex += (this.#bits[row * words + word] ?? 0).toString(16).padStart(8, '0');
    return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
  }

  /** Compares the ids of two rows, as their texts would compare. */
  compare(a: number, b: number): number {
    for (let word = 0; word < words; word += 1) {
      const difference = (this.#bits[a * words + word] ?? 0) - (this.#bits[b * words + word] ?? 0);
      if (difference !== 0) return difference;
    }
    return 0;
  }

  #slot(at: ArrayLike<number>): number {
    const mask = this.#table.length - 1;
    let slot = mixed((at[0] ?? 0) ^ Math.imul(at[1] ?? 0, 0x9e3779b1) ^ (at[2] ?? 0) ^ (at[3] ?? 0)) & mask;
    for (;;) {
      const row = this.#table[slot] ?? free;
      if (row === free || this.#is(row, at)) return slot;
      slot = (slot + 1) & mask;
    }
  }

  #is(row: number, at: ArrayLike<number>): boolean {
    for (let word = 0; word < words; word += 1) if (this.#bits[row * words + word] !== at[word]) return false;
    return true;
  }

  #rehash(): void {
    const old = this.#table;
    const rows = old.filter((row) => row !== free);
    this.#table = new Int32Array(old.length * 2).fill(free);
    for (const row of rows) this.#table[this.#slot(this.#bits.subarray(row * words, row * words + words))] = row;
  }
}

/** Mixes all bits (the finaliser of MurmurHash3), so that ids need not be random. */
function mixed(bits: number): number {
  let hash = Math.imul(bits ^ (bits >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return (hash ^ (hash >>> 16)) >>> 0;
}

const hexValue = new Int8Array(128).fill(-1);
for (let digit = 0; digit < 16; digit += 1) hexValue[digit.toString(16).charCodeAt(0)] = digit;

/** The four words of an id; the next call reuses the array. */
function bitsOf(id: string): Uint32Array {
  let digits = 0;
  let word = 0;
  for (let at = 0; at < id.length; at += 1) {
    const code = id.charCodeAt(at);
    if (code === hyphen) continue;
    const value = code < 128 ? (hexValue[code] as number) : -1;
    if (value < 0 || digits === 32) throw new Error(`“${id}” is no id of a paper`);
    word = (word << 4) | value;
    digits += 1;
    if (digits % 8 === 0) bits[digits / 8 - 1] = word;
  }
  if (digits !== 32) throw new Error(`“${id}” is no id of a paper`);
  return bits;
}
const hyphen = '-'.charCodeAt(0);
const bits = new Uint32Array(words);
