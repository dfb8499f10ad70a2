import type { ChildProcess } from 'node:child_process';
import { Turns } from '@/core/collections/turns';
import { killGroup } from './group';
import { ownFolder, type OwnFolder } from './file';
import { CagedFault } from './limits';

/** A caged process that answers one request at a time, and its own folder. */
export interface Warm {
  readonly child: ChildProcess;
  readonly own: OwnFolder;
  answered: number;
  /** Set where it should not be used again, though it has answered. */
  spent: boolean;
  timer: ReturnType<typeof setTimeout> | null;
}

/** What is true of all caged processes of a kind. */
interface Kind {
  /** How many answer at once; other requests wait. */
  readonly mostAtOnce: number;
  /** A process is replaced after this many answers. */
  readonly answersEach: number;
  /** An idle one ends after this, so that its parent can exit. */
  readonly idleMs: number;
  readonly start: (folder: string) => ChildProcess;
}

/** Caged processes that are kept warm from one file to the next. One that fails is killed, and affects no other. */
export class WarmProcesses {
  readonly #idle: Warm[] = [];
  readonly #turns: Turns;

  constructor(private readonly kind: Kind) {
    this.#turns = new Turns(kind.mostAtOnce);
  }

  /** Lends a process to some work. @throws whatever the work throws; the process is killed then */
  use<T>(work: (warm: Warm) => Promise<T>): Promise<T> {
    return this.#turns.run(async () => {
      const warm = this.#idle.pop() ?? (await this.#start());
      if (warm.timer) clearTimeout(warm.timer);
      warm.child.ref();
      warm.child.channel?.ref();
      try {
        const result = await work(warm);
        await warm.own.empty();
        this.#rest(warm);
        return result;
      } catch (error) {
        // Its memory may be corrupted: the next file gets a new one.
        killGroup(warm.child);
        throw error;
      }
    });
  }

  #rest(warm: Warm): void {
    warm.answered += 1;
    if (warm.spent || warm.answered >= this.kind.answersEach) return killGroup(warm.child);
    this.#idle.push(warm);
    warm.child.unref();
    warm.child.channel?.unref();
    warm.timer = setTimeout(() => {
      // No longer lent from this moment on, not only once it has ended.
      this.#forget(warm);
      killGroup(warm.child);
    }, this.kind.idleMs);
    warm.timer.unref();
  }

  #forget(warm: Warm): void {
    const at = this.#idle.indexOf(warm);
    if (at !== -1) this.#idle.splice(at, 1);
  }

  async #start(): Promise<Warm> {
    const own = await ownFolder();
    const child = this.kind.start(own.folder);
    const warm: Warm = { child, own, answered: 0, spent: false, timer: null };
    child.on('error', () => undefined);
    child.once('exit', () => {
      this.#forget(warm);
      void own.remove();
    });
    return warm;
  }
}

/** Waits for a process's answer to what `send` asks it. @throws CagedFault if it ends instead, or takes too long */
export function answerOf<T>(
  child: ChildProcess,
  timeMs: number,
  listen: (hear: (answer: T) => void) => () => void,
  send: () => void,
): Promise<T> {
  return new Promise((done, failed) => {
    const end = (work: () => void) => {
      clearTimeout(timer);
      deaf();
      child.off('exit', lost);
      work();
    };
    const fail = (why: CagedFault['why']) => end(() => failed(new CagedFault(why)));
    const lost = () => fail('brokeOff');
    const timer = setTimeout(() => fail('tooSlow'), timeMs);
    const deaf = listen((answer) => end(() => done(answer)));
    child.once('exit', lost);
    if (child.exitCode !== null || child.signalCode !== null) return lost();
    send();
  });
}
