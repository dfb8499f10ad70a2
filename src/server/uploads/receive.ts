import { createHash } from 'node:crypto';
import { and, eq, sql, type SQL } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import type { Actor } from '../gate/actor';
import { ownOf } from '../gate/visible';
import { blobStore, chunkBytes } from '../blobs/blobStore';
import { runningHash } from '../blobs/hashThread';
import { db, pool } from '../db/client';
import { upload } from '../db/schema';

/** An upload of this actor's; anyone else's does not exist. */
export async function ownUpload(actor: Actor, uploadId: string) {
  const [found] = await db()
    .select()
    .from(upload)
    .where(and(eq(upload.id, uploadId), isOwnUpload(actor)));
  return found ?? refuse('not-found');
}

/** Uploads are private: who looks at the library as another would has none of theirs. */
export const isOwnUpload = (actor: Actor): SQL => sql`${upload.personId} = ${ownOf(actor)}::uuid`;

/** What of an upload taking it in needs. */
export interface Incoming {
  readonly id: string;
  readonly contentId: string;
  readonly sizeBytes: number;
}

/**
 * Takes bytes from a stream into an upload, from `offset` on, in pieces; memory stays at three pieces. Each piece and
 * the new offset are one statement that only succeeds at the offset it was made for: whatever is killed whenever, and
 * whoever else sends at the same time, what is stored is one unbroken beginning of the file. Returns the offset
 * reached, also when the stream broke off. A file that comes in one go is hashed on the way; one that was broken off is
 * hashed when it is whole (`digestOf`).
 */
export async function receive(upload: Incoming, offset: number, stream: AsyncIterable<Uint8Array>): Promise<number> {
  const hash = offset === 0 ? runningHash(upload.sizeBytes) : null;
  let reached = offset;
  // Two pieces in turn: one is gathered while the other is stored and hashed. Made once, so that a long file leaves
  // nothing to clear up, and in shared memory, so that the hashing thread reads them where they are.
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
    // A connection that breaks off is nothing unusual: keep what came, and let the sender go on from there.
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

/** The SHA-256 (hexadecimal) of all that has arrived: as it was hashed on the way, else read again from what is stored. */
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
 * Through the driver itself, prepared and with the bytes in binary; a megabyte in a logged query would be unwelcome too.
 * A piece does not wait for the disk: the act that files the whole does, and with it all that was written before. Should
 * the database's own machine fail in between, the upload is a little shorter, and its sender goes on from there.
 */
async function storePiece(upload: Incoming, from: number, data: Buffer, sha256: string | null): Promise<void> {
  const stored = await pool().query({
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
