import { createHash } from 'node:crypto';
import { Worker } from 'node:worker_threads';
import { crc32 } from 'node:zlib';
import { pieceBytes, type Fingerprint } from '@/core/content/model';

/** The fingerprint of content, computed as its bytes come. Their memory may be reused once a promise resolves. */
export interface RunningFingerprint {
  update(bytes: Uint8Array): Promise<void>;
  /** The fingerprint of everything; no bytes can be added after it. */
  finish(): Promise<Fingerprint>;
  /** Releases its thread. Safe to call more than once. */
  end(): void;
}

/** Below this size a thread costs more than it saves. */
const worthAThread = 16 * 1024 * 1024;

/**
 * A fingerprint for content of a given size. Large content is hashed on a thread: SHA-256 of a mebibyte takes about as
 * long as storing it, and would block the network and the database on the main thread. Bytes in shared memory are not
 * copied.
 */
export function runningFingerprint(sizeBytes: number): RunningFingerprint {
  return sizeBytes < worthAThread ? here() : apart();
}

/** Checksums of pieces, of bytes that come in parts of any length. */
export class PieceSums {
  readonly #sums: number[] = [];
  #sum = 0;
  #filled = 0;

  update(bytes: Uint8Array): void {
    for (let rest = bytes; rest.length > 0;) {
      const part = rest.subarray(0, pieceBytes - this.#filled);
      this.#sum = crc32(part, this.#sum);
      this.#filled += part.length;
      if (this.#filled === pieceBytes) this.#next();
      rest = rest.subarray(part.length);
    }
  }

  /** The sums, that of the last, shorter piece included. */
  finish(): readonly number[] {
    if (this.#filled > 0) this.#next();
    return this.#sums;
  }

  #next(): void {
    // Signed, as PostgreSQL's integers are.
    this.#sums.push(this.#sum | 0);
    this.#sum = 0;
    this.#filled = 0;
  }
}

function here(): RunningFingerprint {
  const hash = createHash('sha256');
  const sums = new PieceSums();
  return {
    update: (bytes) => {
      hash.update(bytes);
      sums.update(bytes);
      return Promise.resolve();
    },
    finish: () => Promise.resolve({ sha256: hash.digest('hex'), pieceSums: sums.finish() }),
    end: () => undefined,
  };
}

/** The fingerprint of bytes that are stored already. */
export async function fingerprintOf(bytes: AsyncIterable<Uint8Array>): Promise<Fingerprint> {
  const running = here();
  for await (const part of bytes) await running.update(part);
  return running.finish();
}

/** Plain JavaScript in a string, because the bundler would not include a separate file in the built server. */
const program = `
  const { parentPort } = require('node:worker_threads');
  const hash = require('node:crypto').createHash('sha256');
  parentPort.on('message', (bytes) => parentPort.postMessage(bytes ? (hash.update(bytes), '') : hash.digest('hex')));`;

function apart(): RunningFingerprint {
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
  const ask = (bytes: Uint8Array | null): Promise<string> =>
    new Promise((done, failed) => {
      if (broken) return failed(broken);
      waiting.push({ done, failed });
      worker.postMessage(bytes);
    });
  const sums = new PieceSums();
  return {
    update: async (bytes) => {
      const hashed = ask(bytes);
      // Five times as fast as the hash: no reason for a thread of its own.
      sums.update(bytes);
      await hashed;
    },
    finish: async () => ({ sha256: await ask(null), pieceSums: sums.finish() }),
    end: () => void worker.terminate(),
  };
}
