import { Worker } from 'node:worker_threads';
import { issue } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';
import type { Result } from '@/core/errors/result';
import type { TallyAsk, TallyAsks } from '@/core/tally/ask';
import { programOf } from '../base/processes';
import { config } from '../base/config';
import { FollowedTally, type Questioner } from './followed';

/** Null while the tally is being filled. */
type Ask = <K extends TallyAsk>(
  kind: K,
  question: TallyAsks[K]['question'],
  who: Questioner,
) => Promise<Result<TallyAsks[K]['answer']> | null>;
type AnyAnswer = Result<TallyAsks[TallyAsk]['answer']>;

/** This process's source of answers from the tally. */
interface Host {
  ask: Ask;
  close(): Promise<void>;
}

/** Messages to the thread and back; one without a number says that the tally has been filled. */
export interface TallyRequest {
  readonly number: number;
  readonly kind: TallyAsk;
  readonly question: TallyAsks[TallyAsk]['question'];
  readonly who: Questioner;
}
/** What is said to the thread of the tally. */
export type TallyMessage =
  | { readonly read: true }
  | { readonly number: number; readonly answer: AnyAnswer }
  | { readonly number: number; readonly failed: string };

const held = globalThis as typeof globalThis & { embrinTally?: Host };

/** Starts filling the tally; asking a question does so too. */
export function startTally(): void {
  host();
}

/** The tally's answer; null while it is being filled. */
export const askTally: Ask = (kind, question, who) => host().ask(kind, question, who);

/** The same where a tally is running already, else null: a script that reads places fills none and can exit. */
export const askRunningTally: Ask = (kind, question, who) =>
  held.embrinTally?.ask(kind, question, who) ?? Promise.resolve(null);

/** Whether this process has a tally. */
export const isTallyRunning = (): boolean => held.embrinTally !== undefined;

/** Stops the tally, so that a script can exit. */
export async function stopTally(): Promise<void> {
  const running = held.embrinTally;
  delete held.embrinTally;
  await running?.close();
}

function host(): Host {
  held.embrinTally ??= config().EMBRIN_TALLY === 'thread' ? new ThreadHost() : hostHere();
  return held.embrinTally;
}

/** A tally in the calling thread, for scripts and tests. */
function hostHere(): Host {
  const tally = new FollowedTally(config().DATABASE_URL);
  return { ask: (kind, question, who) => tally.ask(kind, question, who), close: () => tally.close() };
}

/** A tally on a thread of its own, so that a pass over a large library does not delay other requests. */
class ThreadHost implements Host {
  #thread: Worker | null = null;
  #read = false;
  #number = 0;
  readonly #waiting = new Map<number, { done: (answer: AnyAnswer) => void; failed: (error: unknown) => void }>();

  constructor() {
    this.#start();
  }

  #start(): Worker {
    this.#read = false;
    // A file of its own: the bundler of the pages would not include it.
    const { file, nodeWords } = programOf('worker/tally.ts');
    const thread = new Worker(file, { execArgv: [...nodeWords] });
    thread.unref();
    thread.on('message', (told: TallyMessage) => this.#hear(told));
    const ended = () => {
      if (this.#thread === thread) this.#thread = null;
      for (const each of this.#waiting.values()) each.failed(new Refusal(issue('unavailable')));
      this.#waiting.clear();
    };
    thread.on('error', ended);
    thread.on('exit', ended);
    this.#thread = thread;
    return thread;
  }

  #hear(told: TallyMessage): void {
    if ('read' in told) {
      this.#read = true;
      return;
    }
    const waiting = this.#waiting.get(told.number);
    this.#waiting.delete(told.number);
    if ('answer' in told) waiting?.done(told.answer);
    else waiting?.failed(new Refusal(issue('unavailable')));
  }

  ask<K extends TallyAsk>(
    kind: K,
    question: TallyAsks[K]['question'],
    who: Questioner,
  ): Promise<Result<TallyAsks[K]['answer']> | null> {
    const thread = this.#thread ?? this.#start();
    if (!this.#read) return Promise.resolve(null);
    return new Promise((done, failed) => {
      const number = (this.#number += 1);
      // The thread answers each question under its number.
      this.#waiting.set(number, { done: done as (answer: AnyAnswer) => void, failed });
      thread.postMessage({ number, kind, question, who } satisfies TallyRequest);
    });
  }

  async close(): Promise<void> {
    await this.#thread?.terminate();
  }
}
