import { z } from 'zod';

const answerSchema = z.object({ key: z.string(), sha256: z.string().nullable() });

let worker: Worker | null = null;
const waiting = new Map<string, (sha256: string | null) => void>();

function hashWorker(): Worker {
  if (worker) return worker;
  worker = new Worker(new URL('./hash.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }) => {
    const { key, sha256 } = answerSchema.parse(data);
    waiting.get(key)?.(sha256);
    waiting.delete(key);
  };
  // Without a hash the file is still sent; the server then has nothing to compare with.
  worker.onerror = () => {
    for (const answer of waiting.values()) answer(null);
    waiting.clear();
  };
  return worker;
}

/** A file's SHA-256 in hexadecimal, computed in a web worker; null where the browser cannot read the file. */
export const fileHash = (key: string, file: File): Promise<string | null> =>
  new Promise((resolve) => {
    waiting.set(key, resolve);
    hashWorker().postMessage({ key, file });
  });
