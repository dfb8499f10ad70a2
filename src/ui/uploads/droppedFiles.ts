import { fromEvent } from 'file-selector';
import { isClutter } from '@/core/archives/entries';

/** How many files are looked up at a time. */
const atATime = 64;

/**
 * The files of a drop, those in folders included, each with its path. By the entries of the drop (WICG File and Directory
 * Entries API): the newer handles silently leave out files whose names Chromium takes for unsafe. Anything but a drop of
 * folders goes the library's usual way.
 */
export async function droppedFiles(event: Parameters<typeof fromEvent>[0]): ReturnType<typeof fromEvent> {
  const entries = entriesOf(event);
  if (!entries.some((entry) => entry.isDirectory)) return fromEvent(event);
  const found: FileSystemFileEntry[] = [];
  for (const entry of entries) await walk(entry, found);
  const files: File[] = [];
  for (let at = 0; at < found.length; at += atATime)
    files.push(...(await Promise.all(found.slice(at, at + atATime).map(fileOf))));
  return files as Awaited<ReturnType<typeof fromEvent>>;
}

/** Taken at once: after the first pause the browser has forgotten them. */
function entriesOf(event: unknown): FileSystemEntry[] {
  if (!(event instanceof Object && 'dataTransfer' in event && 'type' in event && event.type === 'drop')) return [];
  const { items } = event.dataTransfer as DataTransfer;
  return [...items].flatMap((item) => item.webkitGetAsEntry() ?? []);
}

const isFolder = (entry: FileSystemEntry): entry is FileSystemDirectoryEntry => entry.isDirectory;
const isFile = (entry: FileSystemEntry): entry is FileSystemFileEntry => entry.isFile;

async function walk(entry: FileSystemEntry, found: FileSystemFileEntry[]): Promise<void> {
  if (isFile(entry) && !isClutter(entry.name)) found.push(entry);
  if (!isFolder(entry)) return;
  const reader = entry.createReader();
  // A folder gives its entries in parts; an empty part is the end.
  for (;;) {
    const part = await new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed));
    if (part.length === 0) return;
    for (const each of part) await walk(each, found);
  }
}

function fileOf(entry: FileSystemFileEntry): Promise<File> {
  return new Promise((done, failed) =>
    entry.file((file) => done(Object.defineProperty(file, 'path', { value: entry.fullPath })), failed),
  );
}
