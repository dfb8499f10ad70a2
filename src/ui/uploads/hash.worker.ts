import { expose } from 'comlink';
import { createSHA256 } from 'hash-wasm';

/** Computes a file's SHA-256 in hexadecimal, away from the screen's thread. */
async function hashFile(file: File): Promise<string> {
  const hasher = await createSHA256();
  hasher.init();
  const reader = file.stream().getReader();
  for (let part = await reader.read(); !part.done; part = await reader.read()) hasher.update(part.value);
  return hasher.digest('hex');
}

export type HashFile = typeof hashFile;

expose(hashFile);
