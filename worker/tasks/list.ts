import iconv from 'iconv-lite';
import yauzl from 'yauzl';
import type { TaskResult } from '@/server/cage/tasks';
import { contentFile, type Written } from './written';

const mostEntries = 20_000;

/** What an archive lists. Nothing in it is unpacked. */
export async function readList(written: Written): Promise<TaskResult<'list'>> {
  const entries: { path: string; sizeBytes: number; changedAt: string | null }[] = [];
  let more = 0;
  try {
    const archive = await yauzl.openPromise(contentFile, {
      lazyEntries: true,
      validateEntrySizes: false,
      decodeStrings: false,
    });
    for await (const entry of archive.eachEntry()) {
      if (entries.length >= mostEntries) more += 1;
      else entries.push({ path: nameOf(entry), sizeBytes: entry.uncompressedSize, changedAt: momentOf(entry) });
    }
  } catch {
    return null;
  }
  await written.view({ form: 'list', entries, more });
  return { cut: more > 0 };
}

/** A name that says so is UTF-8, any other in the first alphabet of such archives (APPNOTE 6.3.9, appendix D). */
function nameOf({ fileName, generalPurposeBitFlag }: yauzl.Entry): string {
  const bytes = Buffer.from(fileName as unknown as Uint8Array);
  return generalPurposeBitFlag & 0x800 ? bytes.toString('utf8') : iconv.decode(bytes, 'cp437');
}

function momentOf(entry: yauzl.Entry): string | null {
  const moment = entry.getLastModDate();
  return Number.isNaN(moment.getTime()) ? null : moment.toISOString();
}
