import { createWriteStream } from 'node:fs';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { readContent } from '../blobs/content';
import type { Content } from '../blobs/contentStore';

/** Runs work in a temporary folder that only this user can read, and removes it afterwards. */
export async function inFolder<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(path.join(/* turbopackIgnore: true */ tmpdir(), 'embrin-'));
  try {
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
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
