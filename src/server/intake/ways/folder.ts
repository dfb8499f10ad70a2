import { constants, type Stats } from 'node:fs';
import { lstat, mkdir, open, readdir, rename, type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { mboxReader } from 'mbox-reader';
import { mostMailBytes } from '@/core/intake/model';
import { endBytes, looksWhole } from '@/core/intake/whole';
import { mostScanBytes } from '@/core/intake/wayIn';
import { config } from '../../base/config';
import { sha256Hex } from '../../base/sha256';
import { sniffBytes, sniffKind } from '../../blobs/sniff';
import { keepFetchedFile, keepFetchedMail } from '../keep';
import { leftInWords, mostAtOnce, notKept, type Look, type WayIn } from './model';

/** A file that has not come to its end for so long is told of. */
const longMs = 60 * 60 * 1000;
const takenName = 'Taken';

interface File {
  readonly name: string;
  readonly at: string;
  readonly stat: Stats;
}

/** The folder of a way in, made where it is not there yet. */
async function folderOf(name: string): Promise<string> {
  const folder = path.join(/* turbopackIgnore: true */ config().EMBRIN_ARRIVALS, name);
  await mkdir(folder, { recursive: true, mode: 0o770 });
  return folder;
}

/** The plain files of a folder, by name: no links, nothing hidden. */
async function filesIn(folder: string): Promise<File[]> {
  const entries = await readdir(folder, { withFileTypes: true });
  const names = entries.flatMap((each) => (each.isFile() && !each.name.startsWith('.') ? [each.name] : []));
  const files: File[] = [];
  for (const name of names.sort()) {
    const at = path.join(folder, name);
    const stat = await lstat(at).catch(() => null);
    if (stat?.isFile()) files.push({ name, at, stat });
  }
  return files;
}

/** Works on a file, never through a link that was put there meanwhile. */
async function withFile<T>(at: string, work: (handle: FileHandle) => Promise<T>): Promise<T> {
  const handle = await open(at, constants.O_RDONLY | constants.O_NOFOLLOW);
  try {
    return await work(handle);
  } finally {
    await handle.close();
  }
}

/** How each file was at the last look: what has changed since is still being written. */
const seenAs = new Map<string, string>();

/** Whether a file is as it was at the last look. */
function isStill({ at, stat: { size, mtimeMs, ino } }: File): boolean {
  const is = `${size} ${mtimeMs} ${ino}`;
  const was = seenAs.get(at);
  seenAs.set(at, is);
  return was === is;
}

const pieceOf = async (handle: FileHandle, from: number, length: number): Promise<Buffer> => {
  const bytes = Buffer.alloc(Math.max(0, length));
  const { bytesRead } = await handle.read(bytes, 0, bytes.length, Math.max(0, from));
  return bytes.subarray(0, bytesRead);
};

/** Takes what a scanner, or somebody, has put into a folder, and moves it into “Taken”: there it stays. */
export async function lookAtScans(way: WayIn<'scans' | 'maildir' | 'mbox'>): Promise<Look> {
  const folder = await folderOf(way.settings.folder);
  const files = await filesIn(folder);
  let taken = 0;
  const [large, broken]: [string[], string[]] = [[], []];
  for (const file of files) {
    if (taken >= mostAtOnce) break;
    if (!isStill(file)) continue;
    const end = file.stat.size > mostScanBytes ? 'tooLarge' : await takeScan(way.id, folder, file).catch(ifGone);
    if (end === 'tooLarge') large.push(file.name);
    else if (end === 'taken') taken += 1;
    else if (end === 'notWhole' && Date.now() - file.stat.mtimeMs > longMs) broken.push(file.name);
  }
  const left = [
    leftInWords(large, 'are larger than 256 MB each and are left where they are.'),
    leftInWords(broken, 'have had no end for an hour: they are left until they are whole.'),
  ].filter((each) => each !== null);
  return { taken, reached: null, left: left.join(' ') || null, hasMore: taken >= mostAtOnce };
}

/** Taken, or moved, by another meanwhile. */
function ifGone(error: unknown): null {
  if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
  throw error;
}

async function takeScan(wayInId: string, folder: string, file: File): Promise<'taken' | 'notWhole'> {
  const bytes = await withFile(file.at, async (handle) => {
    const { size } = await handle.stat();
    const head = await pieceOf(handle, 0, Math.min(size, 1024));
    const tail = await pieceOf(handle, size - endBytes, Math.min(size, endBytes));
    return looksWhole(head, tail, size) ? pieceOf(handle, 0, size) : null;
  });
  if (bytes === null) return 'notWhole';
  const kind = await sniffKind(bytes.subarray(0, sniffBytes), file.name);
  const named = {
    way: 'scan' as const,
    fileName: file.name,
    mediaType: kind?.mediaType ?? 'application/octet-stream',
  };
  // Scanners count from one again each day: the same name is the same file only if its content and its time are.
  await keepFetchedFile(bytes, named, {
    wayInId,
    origin: `${wayInId}/${sha256Hex(bytes)}/${Math.round(file.stat.mtimeMs)}`,
  });
  await putAway(folder, file);
  return 'taken';
}

/** Moves a file that is kept into “Taken”, beside others of its name. */
async function putAway(folder: string, { name, at }: File): Promise<void> {
  const taken = path.join(folder, takenName);
  await mkdir(taken, { recursive: true });
  const { name: stem, ext } = path.parse(name);
  for (let count = 1; ; count += 1) {
    const to = path.join(taken, count === 1 ? name : `${stem} (${count})${ext}`);
    if (await lstat(to).catch(() => null)) continue;
    await rename(at, to);
    seenAs.delete(at);
    return;
  }
}

/** Takes the mails of a maildir (its two folders of delivered mail; `tmp` is where they are still written). Nothing in it is changed. */
export async function lookAtMaildir(way: WayIn<'scans' | 'maildir' | 'mbox'>): Promise<Look> {
  const folder = await folderOf(way.settings.folder);
  const files: File[] = [];
  for (const part of ['new', 'cur']) {
    await mkdir(path.join(folder, part), { recursive: true });
    files.push(...(await filesIn(path.join(folder, part))));
  }
  // What follows the colon are flags, which change; what stands before it never does.
  const originOf = ({ name }: File) => `${way.id}/${(name.split(':')[0] ?? name).slice(0, 255)}`;
  const fresh = await notKept(files.map(originOf));
  const waiting = files.filter((file) => fresh.has(originOf(file)));
  const large = waiting.filter(({ stat }) => stat.size > mostMailBytes);
  const mails = waiting.filter(({ stat }) => stat.size <= mostMailBytes && stat.size > 0);
  let taken = 0;
  for (const file of mails.slice(0, mostAtOnce)) {
    // A mail program that shows it moves it: it is taken at the next look.
    const bytes = await withFile(file.at, (handle) => handle.readFile()).catch(ifGone);
    if (bytes && (await keepFetchedMail(bytes, { wayInId: way.id, origin: originOf(file) }))) taken += 1;
  }
  return {
    taken,
    reached: null,
    left: leftInWords(
      large.map(({ name }) => name),
      'are larger than 64 MB each and are left.',
    ),
    hasMore: mails.length > mostAtOnce,
  };
}

/** Takes the mails that were added to files of mails (mbox, RFC 4155) since the last look. */
export async function lookAtMbox(way: WayIn<'scans' | 'maildir' | 'mbox'>): Promise<Look> {
  const folder = await folderOf(way.settings.folder);
  const before = way.reached?.files ?? {};
  const reached: Record<string, { bytes: number; changedMs: number }> = {};
  let taken = 0;
  const large: string[] = [];
  for (const file of await filesIn(folder)) {
    const { size, mtimeMs } = file.stat;
    const known = before[file.name];
    if (known) reached[file.name] = known;
    if ((known?.bytes === size && known.changedMs === mtimeMs) || !isStill(file)) continue;
    try {
      taken += await takeMbox(way.id, file, known && known.bytes < size ? known.bytes : 0);
    } catch (error) {
      if (!(error instanceof TooLarge)) throw error;
      large.push(file.name);
    }
    reached[file.name] = { bytes: size, changedMs: mtimeMs };
  }
  return {
    taken,
    reached: { files: reached },
    left: leftInWords(large, 'has a mail of more than 64 MB: what comes after it is left.'),
    hasMore: false,
  };
}

/** A mail, or what is no file of mails at all, is larger than any that is taken. */
class TooLarge extends Error {}

async function takeMbox(wayInId: string, { at, stat: { size } }: File, from: number): Promise<number> {
  return withFile(at, async (handle) => {
    // What was added begins with a mail of its own; else the file is another one, and is read from its beginning.
    const begins = from > 0 && (await pieceOf(handle, from, 5)).toString('latin1') === 'From ';
    let sinceLast = 0;
    async function* bounded() {
      for await (const piece of handle.createReadStream({
        start: begins ? from : 0,
        end: size - 1,
        autoClose: false,
      })) {
        sinceLast += (piece as Buffer).length;
        if (sinceLast > mostMailBytes) throw new TooLarge();
        yield piece as Buffer;
      }
    }
    let taken = 0;
    for await (const { content } of mboxReader(Readable.from(bounded(), { objectMode: false }))) {
      sinceLast = 0;
      const isNew = await keepFetchedMail(content, { wayInId, origin: `${wayInId}/${sha256Hex(content)}` });
      if (isNew) taken += 1;
    }
    return taken;
  });
}
