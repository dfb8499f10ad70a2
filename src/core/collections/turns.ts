/** Lets so many pieces of work run at once; the rest waits, first come, first served. */
export class Turns {
  readonly #waiting: (() => void)[] = [];
  #running = 0;

  constructor(private readonly most: number) {}

  /** Does the work when its turn has come. What it throws is its own caller's. */
  async run<T>(work: () => Promise<T>): Promise<T> {
    if (this.#running >= this.most) await new Promise<void>((next) => this.#waiting.push(next));
    else this.#running += 1;
    try {
      return await work();
    } finally {
      // The place goes straight to who waits longest, so that nobody who comes later gets in between.
      const next = this.#waiting.shift();
      if (next) next();
      else this.#running -= 1;
    }
  }
}
