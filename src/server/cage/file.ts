import { createWriteStream } from 'node:fs';
import { link, lstat, mkdtemp, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { readContent } from '../blobs/content';
import type { Content } from '../blobs/contentStore';
import { CagedFault } from './limits';

const newFolder = (): Promise<string> => mkdtemp(path.join(/* turbopackIgnore: true */ tmpdir(), 'embrin-'));

/** Runs work in a temporary folder that only this user can read, and removes it afterwards. */
export async function inFolder<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = await newFolder();
  try {
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** The folder of a process that stays warm. It holds only the file that is being read. */
export interface OwnFolder {
  readonly folder: string;
  /** Puts a file into it, without copying; returns its path there. */
  give(file: string, name: string): Promise<string>;
  /** Takes a file out of it, to a path outside. */
  take(name: string, into: string): Promise<void>;
  /** Removes whatever is in it. */
  empty(): Promise<void>;
  remove(): Promise<void>;
}

/** Makes a folder for a process that stays warm. Names that begin with a full stop are the process's own and stay. */
export async function ownFolder(): Promise<OwnFolder> {
  const folder = await newFolder();
  const within = (name: string) => path.join(/* turbopackIgnore: true */ folder, name);
  return {
    folder,
    give: async (file, name) => {
      await link(file, within(name));
      return within(name);
    },
    take: async (name, into) => {
      await rename(within(name), into);
      await requireMade(into);
    },
    empty: async () => {
      for (const name of await readdir(folder))
        if (!name.startsWith('.')) await rm(within(name), { recursive: true, force: true });
    },
    remove: () => rm(folder, { recursive: true, force: true }),
  };
}

/**
 * Refuses a file from a caged process that is not one: a link that it left behind would be followed outside the cage.
 * @throws CagedFault
 */
async function requireMade(file: string): Promise<void> {
  const made = await lstat(file).catch(() => null);
  if (!made?.isFile() || made.nlink !== 1) throw new CagedFault('brokeOff');
}

/** The bytes of a file that a caged process made; null where it made none. @throws CagedFault if it is not a plain file */
export async function madeBytes(file: string): Promise<Buffer | null> {
  if (!(await lstat(file).catch(() => null))) return null;
  await requireMade(file);
  return readFile(file);
}

/** Writes content into a file in a folder and returns its path. The file's name is not the paper's. */
export async function contentFile(folder: string, content: Content): Promise<string> {
  const file = path.join(folder, 'content');
  await pipeline(Readable.from(readContent(content)), createWriteStream(file));
  return file;
}

/** The same for bytes from a request. */
export async function bytesFile(folder: string, bytes: Uint8Array): Promise<string> {
  const file = path.join(folder, 'content');
  await writeFile(file, bytes);
  return file;
}
