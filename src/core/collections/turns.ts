/** Limits how many tasks run at once; others wait, first come, first served. */
export class Turns {
  readonly #waiting: (() => void)[] = [];
  #running = 0;

  constructor(private readonly most: number) {}

  /** Runs a task when its turn comes; its errors go to its own caller. */
  async run<T>(work: () => Promise<T>): Promise<T> {
    if (this.#running >= this.most) await new Promise<void>((next) => this.#waiting.push(next));
    else this.#running += 1;
    try {
      return await work();
    } finally {
      // Hands the slot directly to the longest-waiting task, so that no later one overtakes it.
      const next = this.#waiting.shift();
      if (next) next();
      else this.#running -= 1;
    }
  }
}
