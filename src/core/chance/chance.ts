/** A small seeded generator (mulberry32): the same seed, the same library. */
export class Chance {
  #state: number;

  constructor(seed: number) {
    this.#state = seed >>> 0;
  }

  /** The next number in [0, 1). */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(this.#state ^ (this.#state >>> 15), this.#state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  }

  /** A whole number from least to most, both included. */
  whole(least: number, most: number): number {
    return least + Math.floor(this.next() * (most - least + 1));
  }

  pick<T>(from: readonly T[]): T {
    const picked = from[Math.floor(this.next() * from.length)];
    if (picked === undefined) throw new Error('Nothing to pick from');
    return picked;
  }

  some<T>(from: readonly T[], count: number): T[] {
    const rest = [...from];
    return Array.from({ length: Math.min(count, rest.length) }, () =>
      rest.splice(this.whole(0, rest.length - 1), 1),
    ).flat();
  }

  happens(share: number): boolean {
    return this.next() < share;
  }
}
