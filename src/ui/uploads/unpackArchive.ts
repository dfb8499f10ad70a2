import { BlobReader, ZipReader, type FileEntry } from '@zip.js/zip.js';
import { isClutter, whyNotOpened, whyNotUnpacked, type ArchiveEntry } from '@/core/archives/entries';
import { listName, readList, readSums, sumsName, tidyPath, type Cells } from '@/core/archives/lists';
import { decodeTable, readCsv } from '@/core/interchange/block';
import { sumOf } from './sumOf';

/** A file that was in an archive: its content, or why there is none. */
export interface Unpacked {
  /** With `/` between its steps. */
  readonly path: string;
  readonly sizeBytes: number;
  /** Milliseconds since 1970. */
  readonly changedAt: number;
  readonly content: Blob | null;
  readonly refused: string | null;
  /** What the archive's list says of it; null where it says nothing. */
  readonly title: string | null;
  readonly cells: Cells | null;
}

/** What was in an archive. `sums`: how many files were compared with the sums in it. */
export interface UnpackedArchive {
  readonly files: readonly Unpacked[];
  readonly sums: number;
}

/** What is wrong with an archive as a whole, in words. */
export class NotUnpacked extends Error {}

/** Links by the mode of Unix, which stands in the upper half of an entry's attributes (APPNOTE 6.3, 4.4.15; from memory). */
const [modeMask, linkMode] = [0o170000, 0o120000];
const entryOf = (entry: FileEntry): ArchiveEntry => ({
  path: entry.filename,
  sizeBytes: entry.uncompressedSize,
  packedBytes: entry.compressedSize,
  isLocked: entry.encrypted,
  isLink: ((entry.externalFileAttributes >>> 16) & modeMask) === linkMode,
});

/**
 * Unpacks a ZIP archive, one file after the other. A file that cannot be taken is named with why; the list and the sums of
 * an archive that a library made are read and not given out. `tell` hears how many files are unpacked, of how many.
 * @throws NotUnpacked where it is no archive, or one that is not opened at all
 */
export async function unpackArchive(
  archive: Blob,
  tell: (done: number, of: number) => void = () => undefined,
): Promise<UnpackedArchive> {
  const reader = new ZipReader(new BlobReader(archive), {
    useWebWorkers: false,
    checkSignature: true,
    checkOverlappingEntry: true,
    filenameValidation: 'tolerant',
  });
  const all = await reader.getEntries().catch(() => {
    throw new NotUnpacked('It is no ZIP archive, or it is damaged.');
  });
  const entries = all.filter((entry): entry is FileEntry => !entry.directory && !isClutter(entry.filename));
  const why = whyNotOpened(entries.map(entryOf));
  if (why !== null) throw new NotUnpacked(why);
  const about = await tellingOf(entries);
  const taken = entries.filter((entry) => !about.files.has(entry));
  const files: Unpacked[] = [];
  for (const entry of taken) {
    tell(files.length, taken.length);
    files.push(await unpack(entry, about));
  }
  await reader.close();
  return { files, sums: files.filter(({ path }) => about.sums.has(tidyPath(path))).length };
}

interface Telling {
  readonly files: ReadonlySet<FileEntry>;
  readonly list: ReturnType<typeof readList>;
  readonly sums: ReturnType<typeof readSums>;
}

/** A list or sums larger than this are not read. */
const mostTold = 100_000_000;

/** What files at an archive's top tell of the others: a list with their values, and their sums. */
async function tellingOf(entries: readonly FileEntry[]): Promise<Telling> {
  const files = new Set<FileEntry>();
  const read = async <T>(name: string, as: (bytes: Uint8Array) => ReadonlyMap<string, T>) => {
    const found = entries.find(({ filename }) => filename.toLowerCase() === name.toLowerCase());
    if (!found || found.uncompressedSize > mostTold || whyNotUnpacked(entryOf(found)) !== null)
      return new Map<string, T>();
    const content = await contentOf(found).catch(() => null);
    const told = content ? as(new Uint8Array(await content.arrayBuffer())) : new Map<string, T>();
    // What has the name alone, and tells of nothing, is a file like any other.
    if (told.size > 0) files.add(found);
    return told;
  };
  const list = await read(listName, (bytes) => readList(readCsv(decodeTable(bytes))));
  const sums = await read(sumsName, (bytes) => readSums(new TextDecoder().decode(bytes)));
  return { files, list, sums };
}

async function unpack(entry: FileEntry, { list, sums }: Telling): Promise<Unpacked> {
  const path = entry.filename.replaceAll('\\', '/');
  const listed = list.get(tidyPath(path));
  const about = {
    path,
    sizeBytes: entry.uncompressedSize,
    changedAt: entry.lastModDate.getTime(),
    title: listed?.title || null,
    cells: listed?.cells ?? null,
  };
  const why = whyNotUnpacked(entryOf(entry));
  if (why !== null) return { ...about, content: null, refused: why };
  const sum = sums.get(tidyPath(path));
  const content = await contentOf(entry).catch(() => null);
  if (content === null)
    return { ...about, content, refused: 'It is damaged in the archive, or packed in an unusual way.' };
  if (sum !== undefined && sum !== (await sumOf(content)))
    return {
      ...about,
      content: null,
      refused: `It is not what it was when it was packed: its sum in ${sumsName} is another.`,
    };
  return { ...about, content, refused: null };
}

/** An entry's content; fails where there is more of it than was announced, or its sum is another. */
async function contentOf(entry: FileEntry): Promise<Blob> {
  let bytes = 0;
  const counted = new TransformStream<Uint8Array<ArrayBuffer>, Uint8Array<ArrayBuffer>>({
    transform(part, stream) {
      bytes += part.byteLength;
      if (bytes > entry.uncompressedSize) stream.error(new Error('There is more of it than was announced'));
      else stream.enqueue(part);
    },
  });
  const [content] = await Promise.all([new Response(counted.readable).blob(), entry.getData(counted.writable)]);
  return content;
}
