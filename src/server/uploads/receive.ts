import { and, eq, sql, type SQL } from 'drizzle-orm';
import { pieceBytes, type Fingerprint } from '@/core/content/model';
import type { FileKind } from '@/core/files/fileKind';
import { refuse } from '@/core/errors/refusal';
import type { Actor } from '../gate/actor';
import { ownOf } from '../gate/visible';
import { storeOf } from '../blobs/content';
import type { Incoming } from '../blobs/contentStore';
import { sniffBytes, sniffKind } from '../blobs/sniff';
import { fingerprintOf, runningFingerprint } from '../blobs/fingerprint';
import { db } from '../db/client';
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

/** Pieces that are stored and hashed while the next is gathered: enough that neither has to wait for the other. */
const mostPieces = 4;

/**
 * Stores bytes of a stream in an upload, from `offset` on, with at most `mostPieces` pieces in memory. Each is noted only
 * at the expected offset, so that after any crash, and with concurrent senders, what is stored is an unbroken beginning of
 * the file. Returns the offset reached, even if the stream was cut off. A file sent in one request is hashed on the way,
 * any other once it is complete (`arrivedAs`); so with its kind.
 */
export async function receive(
  upload: Incoming & { readonly fileName: string },
  offset: number,
  stream: AsyncIterable<Uint8Array>,
): Promise<number> {
  const receiver = await storeOf(upload.store).receive(upload, offset);
  const running = offset === 0 ? runningFingerprint(upload.sizeBytes) : null;
  const room = roomFor(upload.sizeBytes - offset);
  const busy: Promise<unknown>[] = room.map(() => Promise.resolve());
  let [reached, turn, gathered] = [offset, 0, 0];
  let writing: Promise<void> = Promise.resolve();
  let sniffed: Promise<FileKind | null> = Promise.resolve(null);

  const write = async (after: Promise<void>, data: Uint8Array, from: number) => {
    await after;
    const isLast = from + data.length === upload.sizeBytes;
    const known = running && isLast ? { ...(await running.finish()), kind: await sniffed } : null;
    await receiver.write(data, from, known);
  };
  const flush = async () => {
    if (gathered === 0) return;
    const data = (room[turn] as Buffer).subarray(0, gathered);
    const from = reached;
    [reached, gathered] = [reached + data.length, 0];
    const hashed = running?.update(data);
    if (from === 0) sniffed = sniffKind(data.subarray(0, sniffBytes), upload.fileName);
    writing = write(writing, data, from);
    busy[turn] = Promise.all([writing, hashed, sniffed]);
    busy[turn]?.catch(() => undefined);
    turn = (turn + 1) % room.length;
    await busy[turn];
  };

  try {
    for await (const bytes of stream) {
      let left = bytes;
      while (left.length > 0) {
        const into = room[turn] as Buffer;
        const part = left.subarray(0, into.length - gathered);
        into.set(part, gathered);
        gathered += part.length;
        left = left.subarray(part.length);
        if (reached + gathered > upload.sizeBytes) {
          gathered = 0;
          refuse('too-large', 'More arrived than was announced. Send the file again.');
        }
        if (gathered === into.length) await flush();
      }
    }
  } finally {
    // Cut-off connections are normal: what has arrived is kept, and the sender resumes from there.
    try {
      await flush();
      await Promise.all(busy);
    } finally {
      running?.end();
      await receiver.close();
    }
  }
  return reached;
}

/**
 * Room for pieces, or for all that is still to come if that is less; at least one byte, so that too much is noticed. In
 * shared memory, so that the hashing thread reads it without copying.
 */
function roomFor(toComeBytes: number): Buffer[] {
  const each = Math.max(1, Math.min(pieceBytes, toComeBytes));
  const pieces = Math.min(mostPieces, Math.max(1, Math.ceil(toComeBytes / each)));
  return Array.from({ length: pieces }, () => Buffer.from(new SharedArrayBuffer(each)));
}

/** The fingerprint of a complete upload: computed while receiving it, or else from what is stored. */
export async function arrivedAs(
  found: Incoming & { readonly sha256: string | null; readonly pieceSums: readonly number[] | null },
): Promise<Fingerprint> {
  const { sha256, pieceSums, store, contentId, sizeBytes } = found;
  if (sha256 !== null && pieceSums !== null) return { sha256, pieceSums };
  return fingerprintOf(storeOf(store).readIncoming(contentId, 0, sizeBytes));
}
