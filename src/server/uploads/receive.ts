import { createHash } from 'node:crypto';
import { and, eq, sql, type SQL } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import type { Actor } from '../gate/actor';
import { ownOf } from '../gate/visible';
import { blobStore, chunkBytes } from '../blobs/blobStore';
import { runningHash } from '../blobs/hashThread';
import { db, writingPool } from '../db/client';
import { upload } from '../db/schema';

/** One of the caller's uploads; refuses anyone else's as not found. */
export async function ownUpload(actor: Actor, uploadId: string) {
  const [found] = await db()
    .select()
    .from(upload)
    .where(and(eq(upload.id, uploadId), isOwnUpload(actor)));
  return found ?? refuse('not-found');
}

/** The caller's own uploads; none while impersonating. */
export const isOwnUpload = (actor: Actor): SQL => sql`${upload.personId} = ${ownOf(actor)}::uuid`;

/** The part of an upload that receiving it needs. */
export interface Incoming {
  readonly id: string;
  readonly contentId: string;
  readonly sizeBytes: number;
}

/**
 * Stores bytes of a stream in an upload, from `offset` on, with at most three pieces in memory. Each piece and the new
 * offset are one statement that succeeds only at the expected offset, so that after any crash, and with concurrent
 * senders, what is stored is an unbroken beginning of the file. Returns the offset reached, even if the stream was cut
 * off. A file sent in one request is hashed on the way, any other once it is complete (`digestOf`).
 */
export async function receive(upload: Incoming, offset: number, stream: AsyncIterable<Uint8Array>): Promise<number> {
  const hash = offset === 0 ? runningHash(upload.sizeBytes) : null;
  let reached = offset;
  // Two buffers in turn: one is filled while the other is stored and hashed. Allocated once, and in shared memory, so
  // that the hashing thread reads them without copying.
  const room = [pieceOfMemory(), pieceOfMemory()] as const;
  let turn: 0 | 1 = 0;
  let gathered = 0;
  let storing: Promise<unknown> = Promise.resolve();

  const flush = async () => {
    if (gathered === 0) return;
    const data = room[turn].subarray(0, gathered);
    gathered = 0;
    turn = turn === 0 ? 1 : 0;
    await storing;
    const from = reached;
    reached += data.length;
    const hashed = hash?.update(data);
    const sha256 = hash && reached === upload.sizeBytes ? await hash.digest() : null;
    storing = Promise.all([storePiece(upload, from, data, sha256), hashed]);
    storing.catch(() => undefined);
  };

  try {
    for await (const bytes of stream) {
      let left = bytes;
      while (left.length > 0) {
        const part = left.subarray(0, chunkBytes - gathered);
        room[turn].set(part, gathered);
        gathered += part.length;
        left = left.subarray(part.length);
        if (reached + gathered > upload.sizeBytes)
          refuse('too-large', 'More arrived than was announced. Send the file again.');
        if (gathered === chunkBytes) await flush();
      }
    }
  } catch (error) {
    // Cut-off connections are normal: keep what arrived, and let the sender resume from there.
    await flush();
    await storing;
    hash?.end();
    throw error;
  }
  try {
    await flush();
    await storing;
  } finally {
    hash?.end();
  }
  return reached;
}

const pieceOfMemory = (): Buffer => Buffer.from(new SharedArrayBuffer(chunkBytes));

/** The SHA-256 (hexadecimal) of an upload: computed while receiving it, or else from what is stored. */
export async function digestOf(found: {
  contentId: string;
  receivedBytes: number;
  sha256: string | null;
}): Promise<string> {
  if (found.sha256 !== null) return found.sha256;
  const hash = createHash('sha256');
  for await (const piece of blobStore.read(found.contentId, 0, found.receivedBytes)) hash.update(piece);
  return hash.digest('hex');
}

/**
 * A prepared statement of the driver, with the bytes in binary; it also keeps them out of logged queries. Commits
 * asynchronously: the act that files the upload waits for the disk, and with it for everything written before. If the
 * machine fails in between, the upload is a little shorter and its sender resumes from there.
 */
async function storePiece(upload: Incoming, from: number, data: Buffer, sha256: string | null): Promise<void> {
  const stored = await writingPool().query({
    name: 'store-piece',
    text: `with relaxed as (select set_config('synchronous_commit', 'off', true)),
           moved as (
             update upload
             set received_bytes = received_bytes + length($4::bytea), sha256 = $5, updated_at = now()
             from relaxed
             where id = $1 and received_bytes = $3::bigint
             returning 1
           )
           insert into blob_chunk (content_id, start_byte, data)
           select $2::uuid, $3::bigint, $4::bytea from moved`,
    values: [upload.id, upload.contentId, from, data, sha256],
  });
  if (stored.rowCount !== 1) refuse('conflict', 'This file is being sent from somewhere else at the same time.');
}
