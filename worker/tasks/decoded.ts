import { open } from 'node:fs/promises';
import iconv from 'iconv-lite';
import { decodeTable } from '@/core/interchange/block';

/** The beginning of a file as text, in any usual encoding, and whether there is more of it. */
export async function decodedText(file: string, mostBytes: number): Promise<{ text: string; cut: boolean }> {
  const handle = await open(file);
  try {
    const { size } = await handle.stat();
    const { buffer, bytesRead } = await handle.read(
      Buffer.alloc(Math.min(size, mostBytes)),
      0,
      Math.min(size, mostBytes),
      0,
    );
    const text = decodeTable(buffer.subarray(0, bytesRead), (bytes) =>
      iconv.decode(Buffer.from(bytes), 'windows-1252'),
    );
    return { text, cut: size > mostBytes };
  } finally {
    await handle.close();
  }
}
