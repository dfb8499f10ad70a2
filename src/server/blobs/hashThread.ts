import { createHash } from 'node:crypto';
import { Worker } from 'node:worker_threads';

/** A running SHA-256 that is fed piece by piece. A piece's memory may be used again once its promise is kept. */
export interface RunningHash {
  update(piece: Uint8Array): Promise<void>;
  /** The digest in hexadecimal; no pieces after it. */
  digest(): Promise<string>;
  /** Lets go of what it runs on. Safe to call more than once. */
  end(): void;
}

/** Below this a thread of its own costs more than it saves. */
const worthAThread = 16 * 1024 * 1024;

/**
 * A hash for content of a size. Large content is hashed on a thread of its own: SHA-256 of a mebibyte takes about as
 * long as storing one, and on the main thread neither the network nor the database would move meanwhile. Pieces of
 * shared memory are not copied.
 */
export function runningHash(sizeBytes: number): RunningHash {
  return sizeBytes < worthAThread ? hashHere() : hashApart();
}

function hashHere(): RunningHash {
  const hash = createHash('sha256');
  return {
    update: (piece) => {
      hash.update(piece);
      return Promise.resolve();
    },
    digest: () => Promise.resolve(hash.digest('hex')),
    end: () => undefined,
  };
}

/** Plain JavaScript in a string, because a bundler would not find a file's way to the built server. */
const program = `
  const { parentPort } = require('node:worker_threads');
  const hash = require('node:crypto').createHash('sha256');
  parentPort.on('message', (piece) => parentPort.postMessage(piece ? (hash.update(piece), '') : hash.digest('hex')));`;

function hashApart(): RunningHash {
  const worker = new Worker(program, { eval: true });
  worker.unref();
  const waiting: { done: (answer: string) => void; failed: (error: unknown) => void }[] = [];
  let broken: unknown = null;
  const fail = (error: unknown) => {
    broken ??= error;
    for (const each of waiting.splice(0)) each.failed(error);
  };
  worker.on('message', (answer: string) => waiting.shift()?.done(answer));
  worker.on('error', fail);
  worker.on('exit', () => fail(new Error('The hashing thread has ended')));
  const ask = (piece: Uint8Array | null): Promise<string> =>
    new Promise((done, failed) => {
      if (broken) return failed(broken);
      waiting.push({ done, failed });
      worker.postMessage(piece);
    });
  return {
    update: async (piece) => void (await ask(piece)),
    digest: () => ask(null),
    end: () => void worker.terminate(),
  };
}
