import { open } from 'node:fs/promises';
import iconv from 'iconv-lite';
import { decodeTable } from '@/core/interchange/block';

/** An encoding that a page names in its own first words (HTML, section 13.2.3.2), if it is one. */
function encodingOf(bytes: Uint8Array, otherwise: 'windows-1252' | 'asNamed'): string {
  const named = /charset=["']?(?<name>[\w-]{2,30})/iu.exec(Buffer.from(bytes.subarray(0, 1024)).toString('latin1'));
  const name = named?.groups?.['name'];
  return otherwise === 'asNamed' && name !== undefined && iconv.encodingExists(name) ? name : 'windows-1252';
}

/** Where the last letter of UTF-8 that may be cut off begins. */
function lastLetter(bytes: Buffer, end: number): number {
  let at = end - 1;
  while (at > end - 4 && ((bytes[at] ?? 0) & 0xc0) === 0x80) at -= 1;
  return at;
}

/**
 * The beginning of a file as text: UTF-8, UTF-16 with a byte order mark, else Windows-1252, or (`asNamed`) what a web page
 * says that it is. Tells also whether there is more of it.
 */
export async function decodedText(
  file: string,
  mostBytes: number,
  otherwise: 'windows-1252' | 'asNamed' = 'windows-1252',
): Promise<{ text: string; cut: boolean }> {
  const handle = await open(file);
  try {
    const { size } = await handle.stat();
    const { buffer, bytesRead } = await handle.read(
      Buffer.alloc(Math.min(size, mostBytes)),
      0,
      Math.min(size, mostBytes),
      0,
    );
    // Where it is cut, a letter may be cut too: what is left of one would make all of it no UTF-8.
    const whole = size > mostBytes ? lastLetter(buffer, bytesRead) : bytesRead;
    const text = decodeTable(buffer.subarray(0, whole), (bytes) =>
      iconv.decode(Buffer.from(bytes), encodingOf(bytes, otherwise)),
    );
    return { text, cut: size > mostBytes };
  } finally {
    await handle.close();
  }
}
