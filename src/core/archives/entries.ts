import { counted } from '../text/measure';
import { visible } from '../files/title';

/** An entry of an archive, as the archive's own directory tells of it. */
export interface ArchiveEntry {
  /** With `/` between its steps; the directory may lie about it in any way. */
  readonly path: string;
  readonly sizeBytes: number;
  readonly packedBytes: number;
  readonly isLocked: boolean;
  readonly isLink: boolean;
}

/** So many files are taken out of one archive at most. */
export const mostEntries = 100_000;
/** So much is unpacked on somebody's computer at once; more is unpacked by its own means, and its folder chosen. */
export const mostUnpackedBytes = 8_000_000_000;
/** Content that swells to more than so many times its size is made to do harm. A small file of one letter may. */
const [mostSwelling, harmlessBytes] = [1000, 1_000_000];

/** What systems leave in archives and folders, and nobody means to file. (Common practice; from memory.) */
const clutter: ReadonlySet<string> = new Set(['.DS_Store', 'Thumbs.db', 'desktop.ini']);
const clutterFolder = '__MACOSX';

/** Whether a file is there by the habit of a system alone. */
export const isClutter = (path: string): boolean => {
  const steps = path.split('/');
  return steps[0] === clutterFolder || clutter.has(steps.at(-1) ?? '');
};

/** Why an entry is not unpacked; null where it is. */
export function whyNotUnpacked({ path, sizeBytes, packedBytes, isLocked, isLink }: ArchiveEntry): string | null {
  const steps = path.split(/[/\\]/u);
  if (steps.includes('..') || /^(?:[/\\]|[a-z]:)/iu.test(path)) return 'Its path leads out of the archive.';
  if (isLink) return 'It is a link to another file, and has no content of its own.';
  if (isLocked) return 'It is locked with a password. Unpack it on this computer, and choose the file.';
  if (visible(steps.at(-1) ?? '') === '') return 'It has no name.';
  if (sizeBytes > harmlessBytes && sizeBytes > packedBytes * mostSwelling)
    return `It would swell to more than ${mostSwelling.toLocaleString('en-GB')} times its size.`;
  return null;
}

/** Why an archive is not unpacked at all; null where it is. */
export function whyNotOpened(entries: readonly ArchiveEntry[]): string | null {
  if (entries.length === 0) return 'There is no file in it.';
  if (entries.length > mostEntries)
    return `It holds more than ${counted(mostEntries, 'file')}. Unpack it on this computer, and choose its folders one by one.`;
  const bytes = entries.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);
  return bytes > mostUnpackedBytes
    ? 'It is too large to be unpacked in a browser. Unpack it on this computer, and choose its folder.'
    : null;
}

/** The folders that hold all of some paths, from the top: `Committees/Finance`; '' for none. */
export function commonFolders(paths: readonly string[]): string {
  const [first = '', ...others] = paths.map((path) => path.split('/').slice(0, -1).join('/'));
  let steps = first === '' ? [] : first.split('/');
  for (const other of others) {
    const theirs = other.split('/');
    const end = steps.findIndex((step, at) => theirs[at] !== step);
    if (end !== -1) steps = steps.slice(0, end);
    if (steps.length === 0) break;
  }
  return steps.join('/');
}
