import { createHash } from 'node:crypto';
import { Worker } from 'node:worker_threads';

/** An incremental SHA-256. A piece's memory may be reused once its promise resolves. */
export interface RunningHash {
  update(piece: Uint8Array): Promise<void>;
  /** The digest in hexadecimal; no pieces can be added after it. */
  digest(): Promise<string>;
  /** Releases its thread. Safe to call more than once. */
  end(): void;
}

/** Below this size a thread costs more than it saves. */
const worthAThread = 16 * 1024 * 1024;

/**
 * A hash for content of a given size. Large content is hashed on a thread: SHA-256 of a mebibyte takes about as long as
 * storing it, and would block the network and the database on the main thread. Pieces in shared memory are not copied.
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

/** Plain JavaScript in a string, because the bundler would not include a separate file in the built server. */
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
