import { wrap, type Remote } from 'comlink';
import type { HashFile } from './hash.worker';

let hashing: { readonly hash: Remote<HashFile>; readonly broken: Promise<never> } | null = null;

function hashWorker() {
  if (hashing) return hashing;
  const worker = new Worker(new URL('./hash.worker.ts', import.meta.url), { type: 'module' });
  const broken = new Promise<never>((_done, failed) => {
    worker.onerror = () => failed(new Error('The hashing worker did not start'));
  });
  broken.catch(() => undefined);
  hashing = { hash: wrap<HashFile>(worker), broken };
  return hashing;
}

/**
 * A file's SHA-256 in hexadecimal, computed in a web worker; null where the browser cannot read the file, or has no
 * worker. The file is then still sent: the server has nothing to compare with.
 */
export function fileHash(file: File): Promise<string | null> {
  const there = hashes.get(file) ?? read(file);
  hashes.set(file, there);
  return there;
}

/** Each file is read once, though it is looked at before it is sent. */
const hashes = new WeakMap<File, Promise<string | null>>();

async function read(file: File): Promise<string | null> {
  const { hash, broken } = hashWorker();
  try {
    return await Promise.race([hash(file), broken]);
  } catch {
    return null;
  }
}
