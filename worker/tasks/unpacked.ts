import yauzl from 'yauzl';
import type { TaskResult } from '@/server/cage/tasks';
import { contentFile } from './written';

/** How many bytes an archive says it unpacks to, in all and of markup; null if it is none. */
export async function unpackedBytes(): Promise<TaskResult<'unpacked'>> {
  try {
    const archive = await yauzl.openPromise(contentFile, { lazyEntries: true, decodeStrings: false });
    let [all, markup] = [0, 0];
    for await (const { uncompressedSize, fileName } of archive.eachEntry()) {
      all += uncompressedSize;
      if (
        Buffer.from(fileName as unknown as Uint8Array)
          .toString('latin1')
          .endsWith('.xml')
      )
        markup += uncompressedSize;
    }
    return { all, markup };
  } catch {
    return null;
  }
}
