import { createReadStream, existsSync } from 'node:fs';
import { copyFile, link, mkdir, open, rename, rm, stat, type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import { and, eq, sql } from 'drizzle-orm';
import { pieceBytes } from '@/core/content/model';
import { refuse } from '@/core/errors/refusal';
import { logFault } from '../log/fault';
import { config } from '../base/config';
import { upload } from '../db/schema';
import { writableDb, type Tx } from '../db/client';
import {
  ContentMissing,
  type Known,
  type Bytes,
  type Content,
  type ContentStore,
  type Incoming,
  type Receiver,
} from './contentStore';

/** Only the user that runs the library may read, write and list. */
const folderMode = 0o700;
const fileMode = 0o600;

/** After so many bytes what is written is brought to the disk and noted. */
const noteEveryBytes = 16 * pieceBytes;

/** The folder of uploads under way. */
export const incomingFolder = (): string => path.join(/* turbopackIgnore: true */ config().EMBRIN_CONTENT, 'incoming');
/** The folder of filed content. */
export const keptFolder = (): string => path.join(/* turbopackIgnore: true */ config().EMBRIN_CONTENT, 'kept');

/** The file of some content: two levels of folders, so that none has more than a few thousand entries. */
export const keptFile = (sha256: string): string =>
  path.join(/* turbopackIgnore: true */ keptFolder(), sha256.slice(0, 2), sha256.slice(2, 4), sha256);

const incomingFile = (contentId: string): string => path.join(/* turbopackIgnore: true */ incomingFolder(), contentId);

/** Makes the directory. Only `content:move` does so: a directory that disappears later is not quietly begun anew. */
export async function makeDirectory(): Promise<void> {
  await mkdir(config().EMBRIN_CONTENT, { recursive: true, mode: folderMode });
  await mkdir(incomingFolder(), { recursive: true, mode: folderMode });
  await mkdir(keptFolder(), { recursive: true, mode: folderMode });
  await syncFolder(config().EMBRIN_CONTENT);
}

async function* readFile(file: string, fromByte: number, toByte: number): Bytes {
  if (fromByte >= toByte) return;
  const stream = createReadStream(file, { start: fromByte, end: toByte - 1, highWaterMark: pieceBytes });
  let left = toByte - fromByte;
  try {
    for await (const part of stream as AsyncIterable<Buffer>) {
      left -= part.length;
      yield part;
    }
  } catch (error) {
    // One file that is missing is damage; a directory that is missing is a disk that is not there.
    if (codeOf(error) === 'ENOENT' && existsSync(keptFolder()))
      throw new ContentMissing(`There is no file ${path.basename(file)}`);
    failed(error);
  } finally {
    stream.destroy();
  }
  if (left > 0) throw new ContentMissing(`The file ${path.basename(file)} ends ${left} bytes too early`);
}

/** What a file call answers where there is no such file: null. @throws any other error */
export function isMissing(error: unknown): null {
  if (codeOf(error) === 'ENOENT') return null;
  throw error;
}

const codeOf = (error: unknown): string | undefined =>
  typeof error === 'object' && error !== null && 'code' in error ? String(error.code) : undefined;

/**
 * Each sender writes a file of its own, named by the content id that the upload's row has from then on: a sender who was
 * overtaken can neither note its bytes nor mix them with the other's. Who goes on begins with a copy of what was there.
 */
async function receiveFile(incoming: Incoming, fromByte: number): Promise<Receiver> {
  const first = fromByte === 0 ? await open(incomingFile(incoming.contentId), 'wx', fileMode).catch(isThere) : null;
  if (first) return new FileReceiver(incoming, first, 0);
  const contentId = crypto.randomUUID();
  const file = incomingFile(contentId);
  if (fromByte > 0) await copyFile(incomingFile(incoming.contentId), file).catch(missing);
  const handle = await open(file, fromByte > 0 ? 'r+' : 'w', fileMode);
  try {
    await handle.truncate(fromByte);
    await handle.datasync();
    await overtake(incoming, contentId, fromByte);
    await rm(incomingFile(incoming.contentId), { force: true });
    return new FileReceiver({ ...incoming, contentId }, handle, fromByte);
  } catch (error) {
    await handle.close();
    await rm(file, { force: true });
    throw error;
  }
}

function isThere(error: unknown): null {
  if (codeOf(error) === 'EEXIST') return null;
  throw error;
}

function missing(error: unknown): never {
  if (codeOf(error) === 'ENOENT') refuse('gone', 'What had arrived of this file is no longer there. Send it again.');
  throw error;
}

async function overtake(incoming: Incoming, contentId: string, receivedBytes: number): Promise<void> {
  const moved = await writableDb()
    .update(upload)
    .set({ contentId })
    .where(
      and(
        eq(upload.id, incoming.id),
        eq(upload.contentId, incoming.contentId),
        eq(upload.receivedBytes, receivedBytes),
      ),
    )
    .returning({ id: upload.id });
  if (moved.length === 0) refuse('conflict', 'This file is being sent from somewhere else at the same time.');
}

/** Writes to a file, and notes what the disk has. Bytes arrive while what came before is brought to the disk. */
class FileReceiver implements Receiver {
  readonly #upload: Incoming;
  readonly #handle: FileHandle;
  #written: number;
  #noted: number;
  #noting: Promise<void> = Promise.resolve();
  #known: Known | null = null;

  constructor(incoming: Incoming, handle: FileHandle, fromByte: number) {
    this.#upload = incoming;
    this.#handle = handle;
    this.#written = fromByte;
    this.#noted = fromByte;
  }

  async write(data: Uint8Array, fromByte: number, known: Known | null): Promise<void> {
    if (fromByte !== this.#written) throw new Error('Bytes came out of order');
    this.#known = known;
    await writeAll(this.#handle, data, fromByte).catch(failed);
    this.#written += data.length;
    if (this.#written - this.#noted >= noteEveryBytes) {
      await this.#noting;
      this.#begin();
    }
    if (this.#written === this.#upload.sizeBytes) await this.#noteAll();
  }

  async close(): Promise<void> {
    try {
      await this.#noteAll();
    } finally {
      await this.#handle.close();
    }
  }

  async #noteAll(): Promise<void> {
    await this.#noting;
    if (this.#written > this.#noted) {
      this.#begin();
      await this.#noting;
    }
  }

  #begin(): void {
    const [from, to] = [this.#noted, this.#written];
    this.#noted = to;
    this.#noting = this.#note(from, to);
    this.#noting.catch(() => undefined);
  }

  async #note(from: number, to: number): Promise<void> {
    await this.#handle.datasync().catch(failed);
    const { id, contentId } = this.#upload;
    const noted = await writableDb()
      .update(upload)
      .set({ receivedBytes: to, updatedAt: sql`now()`, ...this.#known })
      .where(and(eq(upload.id, id), eq(upload.contentId, contentId), eq(upload.receivedBytes, from)))
      .returning({ id: upload.id });
    if (noted.length === 0) refuse('conflict', 'This file is being sent from somewhere else at the same time.');
  }
}

/** A write may store less than it was given, as where the disk is full: the next then says why. */
async function writeAll(handle: FileHandle, data: Uint8Array, fromByte: number): Promise<void> {
  for (let done = 0; done < data.length;)
    done += (await handle.write(data, done, data.length - done, fromByte + done)).bytesWritten;
}

async function putFile(tx: Tx, { contentId, sha256 }: Content, bytes: AsyncIterable<Buffer>): Promise<void> {
  const file = incomingFile(contentId);
  const handle = await open(file, 'w', fileMode);
  try {
    let at = 0;
    for await (const data of bytes) {
      await writeAll(handle, data, at);
      at += data.length;
    }
    await handle.datasync();
  } finally {
    await handle.close();
  }
  await keepFile(tx, contentId, sha256);
  await rm(file, { force: true });
}

/** The size of a file that should have some content; null if it is missing. */
export async function keptBytes(sha256: string): Promise<number | null> {
  return (await stat(keptFile(sha256)).catch(isMissing))?.size ?? null;
}

/** Removes the file of content that is kept elsewhere by now. Who is reading it reads on. */
export const removeKept = (sha256: string): Promise<void> => rm(keptFile(sha256), { force: true });

/**
 * Number of the advisory lock that keeps `sweepDirectory` from removing a file which a transaction is about to need. Shared
 * by those, until they commit; exclusive for the sweep. Taken after the locks of derived data.
 */
export const keepingLock = 7_301_020;

async function keepFile(tx: Tx, contentId: string, sha256: string): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock_shared(${keepingLock})`);
  await publish(incomingFile(contentId), sha256, contentId);
}

/**
 * Gives a synced file its lasting name. By a second link that is then renamed: so the upload keeps its file until its
 * transaction has committed, a repeat finds it, and whatever stood under that name is replaced as a whole.
 */
async function publish(file: string, sha256: string, contentId: string): Promise<void> {
  const target = keptFile(sha256);
  const folder = path.dirname(target);
  const [aside, above] = [`${target}.${contentId}`, path.dirname(folder)];
  if ((await mkdir(folder, { recursive: true, mode: folderMode })) !== undefined) {
    await syncFolder(above);
    await syncFolder(keptFolder());
  }
  await rm(aside, { force: true });
  await link(file, aside).catch(missing);
  await rename(aside, target);
  // A rename between two names of one file does nothing: that is, where this was done before.
  await rm(aside, { force: true });
  await syncFolder(folder);
}

async function syncFolder(folder: string): Promise<void> {
  const handle = await open(folder, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

const noRoom = 'The library has no room left on its disk. What was saved is safe. Tell a keeper.';
const noFolder =
  'The folder in which the library keeps its papers cannot be used. What was saved is safe. Tell a keeper.';

/** What errors of the file system mean to a person (errno(3)); others are faults of ours. */
const systemWords: Readonly<Record<string, string>> = {
  ENOSPC: noRoom,
  EDQUOT: noRoom,
  EROFS: noFolder,
  EACCES: noFolder,
  EPERM: noFolder,
  ENOENT: noFolder,
  ENOTDIR: noFolder,
  EIO: noFolder,
};

/** Refuses in words what the file system cannot do, with a number that the log has. */
function failed(error: unknown): never {
  const words = systemWords[codeOf(error) ?? ''];
  if (words === undefined) throw error;
  refuse('unavailable', `${words} Its number is ${logFault(error, { where: 'content directory' })}.`);
}

/** Content as files named by their SHA-256, in a directory that only the library's own user can open. */
export const directoryStore: ContentStore = {
  read: ({ sha256 }, fromByte, toByte) => readFile(keptFile(sha256), fromByte, toByte),
  readIncoming: (contentId, fromByte, toByte) => readFile(incomingFile(contentId), fromByte, toByte),
  receive: (incoming, fromByte) => receiveFile(incoming, fromByte).catch(failed),
  put: putFile,
  keep: (tx, contentId, sha256) => keepFile(tx, contentId, sha256).catch(failed),
  // Outside the transaction, which may not commit: `tidy` does it afterwards.
  forget: () => Promise.resolve(),
  tidy: (contentId) => rm(incomingFile(contentId), { force: true }),
};
