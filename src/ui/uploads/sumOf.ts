import { createSHA256 } from 'hash-wasm';

/** Content's SHA-256 in hexadecimal, read in parts. */
export async function sumOf(content: Blob): Promise<string> {
  const hasher = await createSHA256();
  hasher.init();
  const reader = content.stream().getReader();
  for (let part = await reader.read(); !part.done; part = await reader.read()) hasher.update(part.value);
  return hasher.digest('hex');
}
