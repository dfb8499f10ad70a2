import type { Pool } from 'pg';
import { to } from 'pg-copy-streams';
import { eq } from 'drizzle-orm';
import { pieceBytes } from '@/core/content/model';
import { refuse } from '@/core/errors/refusal';
import { readingPool, writingPool, type Tx } from '../db/client';
import { blobChunk } from '../db/schema';
import {
  ContentMissing,
  type Known,
  type Bytes,
  type Content,
  type ContentStore,
  type Incoming,
  type Receiver,
} from './contentStore';
import { rowsOfCopy } from './copyOut';

/**
 * How much one statement reads. From 4 MiB on a statement for each stretch is as fast as one for all, and no slow reader
 * holds a connection.
 */
const stretchBytes = 4 * pieceBytes;

/**
 * Reads by binary copy: the driver has other bytes as hexadecimal text, which is eight times as slow. One stretch is
 * fetched while the one before is handed out, so at most two are in memory.
 */
async function* readRows(contentId: string, fromByte: number, toByte: number): Bytes {
  let at = fromByte;
  let coming = at < toByte ? stretch(contentId, at, toByte) : null;
  while (coming) {
    const pieces = await coming;
    const last = pieces.at(-1);
    const end = last ? last.startByte + last.data.length : at;
    if (end <= at) throw new ContentMissing(`Content ${contentId} has no byte ${at}`);
    coming = end < toByte ? stretch(contentId, end, toByte) : null;
    coming?.catch(() => undefined);
    for (const { startByte, data } of pieces) {
      if (startByte > at) throw new ContentMissing(`Content ${contentId} has no byte ${at}`);
      const part = data.subarray(at - startByte, Math.min(data.length, toByte - startByte));
      at += part.length;
      if (part.length > 0) yield part;
    }
  }
}

interface Piece {
  readonly startByte: number;
  readonly data: Buffer;
}

/** The pieces that have the bytes from `at` on, for a stretch. */
async function stretch(contentId: string, at: number, toByte: number): Promise<Piece[]> {
  const until = Math.min(toByte, at + stretchBytes);
  // A copy takes no parameters. The id is a uuid and the rest are numbers; both are held to it here.
  const text = `copy (
    select start_byte, data from blob_chunk
    where content_id = '${uuidOf(contentId)}' and start_byte > ${numberOf(at - pieceBytes)} and start_byte < ${numberOf(until)}
    order by start_byte
  ) to stdout (format binary)`;
  const rows = await copiedOut(readingPool(), text);
  return rows
    .flatMap(([start, data]) => (start && data ? [{ startByte: Number(start.readBigInt64BE()), data }] : []))
    .filter((each) => each.startByte + each.data.length > at);
}

/** All rows of a binary copy; the connection is given up if it breaks off, for the rest of its rows may still come. */
async function copiedOut(pool: Pool, text: string): Promise<(Buffer | null)[][]> {
  const client = await pool.connect();
  try {
    const rows: (Buffer | null)[][] = [];
    for await (const row of rowsOfCopy(client.query(to(text)))) rows.push(row);
    client.release();
    return rows;
  } catch (error) {
    client.release(true);
    throw error;
  }
}

function uuidOf(id: string): string {
  if (!/^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/u.test(id)) throw new Error('Not the id of content');
  return id;
}

function numberOf(value: number): number {
  if (!Number.isSafeInteger(value)) throw new Error('Not a byte of content');
  return value;
}

/** Notes each piece and the new offset in one statement that succeeds only at the offset expected. */
function receiveRows(upload: Incoming): Receiver {
  return {
    write: (data, fromByte, known) => storePiece(upload, fromByte, data, known),
    close: () => Promise.resolve(),
  };
}

/**
 * A prepared statement of the driver, with the bytes in binary; it also keeps them out of logged queries. Commits
 * asynchronously: the act that files the upload waits for the disk, and with it for everything written before. If the
 * machine fails in between, the upload is a little shorter and its sender resumes from there.
 */
async function storePiece(upload: Incoming, fromByte: number, data: Uint8Array, known: Known | null): Promise<void> {
  const stored = await writingPool().query({
    name: 'store-piece',
    text: `with relaxed as (select set_config('synchronous_commit', 'off', true)),
           moved as (
             update upload
             set received_bytes = received_bytes + length($4::bytea), sha256 = $5, piece_sums = $6, kind = $7, updated_at = now()
             from relaxed
             where id = $1 and content_id = $2 and received_bytes = $3::bigint
             returning 1
           )
           insert into blob_chunk (content_id, start_byte, data)
           select $2::uuid, $3::bigint, $4::bytea from moved`,
    values: [upload.id, upload.contentId, fromByte, data, known?.sha256, known?.pieceSums, known?.kind],
  });
  if (stored.rowCount !== 1) refuse('conflict', 'This file is being sent from somewhere else at the same time.');
}

async function putRows(tx: Tx, { contentId }: Content, bytes: AsyncIterable<Buffer>): Promise<void> {
  let startByte = 0;
  for await (const data of bytes) {
    await tx.insert(blobChunk).values({ contentId, startByte, data });
    startByte += data.length;
  }
}

async function forgetRows(tx: Tx, contentId: string): Promise<void> {
  await tx.delete(blobChunk).where(eq(blobChunk.contentId, contentId));
}

/** Content in PostgreSQL, so that one backup has everything and one commit covers a paper and its content. */
export const rowStore: ContentStore = {
  read: ({ contentId }, fromByte, toByte) => readRows(contentId, fromByte, toByte),
  readIncoming: readRows,
  receive: (upload) => Promise.resolve(receiveRows(upload)),
  put: putRows,
  keep: () => Promise.resolve(),
  forget: forgetRows,
  tidy: () => Promise.resolve(),
};
