import { createSHA256, type IHasher } from 'hash-wasm';
import { and, eq } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import type { Actor } from '../access/actor';
import { chunkBytes } from '../blobs/blobStore';
import { db, pool } from '../db/client';
import { upload } from '../db/schema';

/** An upload of this actor's; anyone else's does not exist. */
export async function ownUpload(actor: Actor, uploadId: string) {
  const [found] = await db()
    .select()
    .from(upload)
    .where(and(eq(upload.id, uploadId), eq(upload.personId, actor.personId)));
  return found ?? refuse('not-found');
}

/**
 * Takes bytes from a stream into an upload, from `offset` on, in pieces; memory stays at two pieces. Each
 * piece, the running hash and the new offset are one statement that only succeeds at the offset it
 * was made for: whatever is killed whenever, and whoever else sends at the same time, what is stored is
 * one unbroken beginning of the file. Returns the offset reached, also when the stream broke off.
 */
export async function receive(
  upload: {
    readonly id: string;
    readonly contentId: string;
    readonly sizeBytes: number;
    readonly hashState: Buffer | null;
  },
  offset: number,
  stream: AsyncIterable<Uint8Array>,
): Promise<number> {
  const hasher = await hasherAt(upload.hashState);
  let reached = offset;
  let pieces: Uint8Array[] = [];
  let gathered = 0;
  // The piece being stored while the next one is gathered.
  let storing: Promise<void> = Promise.resolve();

  const flush = async () => {
    if (gathered === 0) return;
    const data = Buffer.concat(pieces, gathered);
    pieces = [];
    gathered = 0;
    hasher.update(data);
    const state = Buffer.from(hasher.save());
    await storing;
    const from = reached;
    reached += data.length;
    storing = storePiece(upload, from, data, state);
    storing.catch(() => undefined);
  };

  try {
    for await (const bytes of stream) {
      let left = bytes;
      while (left.length > 0) {
        const part = left.subarray(0, chunkBytes - gathered);
        pieces.push(part);
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
    throw error;
  }
  await flush();
  await storing;
  return reached;
}

async function hasherAt(state: Buffer | null): Promise<IHasher> {
  const hasher = await createSHA256();
  hasher.init();
  return state ? hasher.load(state) : hasher;
}

/** The SHA-256 (hexadecimal) of all that a saved state has taken in; of nothing, where there is none. */
export async function digestOf(state: Buffer | null): Promise<string> {
  return (await hasherAt(state)).digest('hex');
}

/** Through the driver itself, prepared and with the bytes in binary; a megabyte in a logged query would be unwelcome too. */
async function storePiece(
  upload: { readonly id: string; readonly contentId: string },
  from: number,
  data: Buffer,
  state: Buffer,
): Promise<void> {
  const stored = await pool().query({
    name: 'store-piece',
    text: `with moved as (
             update upload
             set received_bytes = received_bytes + length($4::bytea), hash_state = $5, updated_at = now()
             where id = $1 and received_bytes = $3::bigint
             returning 1
           )
           insert into blob_chunk (content_id, start_byte, data)
           select $2::uuid, $3::bigint, $4::bytea from moved`,
    values: [upload.id, upload.contentId, from, data, state],
  });
  if (stored.rowCount !== 1) refuse('conflict', 'This file is being sent from somewhere else at the same time.');
}
