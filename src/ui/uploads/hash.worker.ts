import { createSHA256 } from 'hash-wasm';

/** Computes a file's SHA-256 away from the screen's thread: in comes `{ key, file }`, out goes `{ key, sha256 }`, null where the file cannot be read. */
self.onmessage = async ({ data }: MessageEvent<{ key: string; file: File }>) => {
  const { key, file } = data;
  try {
    const hasher = await createSHA256();
    hasher.init();
    const reader = file.stream().getReader();
    for (let part = await reader.read(); !part.done; part = await reader.read()) hasher.update(part.value);
    self.postMessage({ key, sha256: hasher.digest('hex') });
  } catch {
    self.postMessage({ key, sha256: null });
  }
};
