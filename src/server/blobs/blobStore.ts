import { readingPool } from '../db/client';

/** The largest piece of content: 1 MiB was the fastest of 0.25, 1 and 4 MiB. */
export const chunkBytes = 1024 * 1024;

/**
 * Storage for content. A library has one store; this one is PostgreSQL, so that one backup has everything and one commit
 * covers a paper and its content.
 */
export interface BlobStore {
  /** Reads the bytes [from, to) of some content piece by piece, with at most two pieces in memory. */
  read(contentId: string, from: number, to: number): AsyncGenerator<Buffer, void, void>;
}

async function* readChunks(contentId: string, from: number, to: number): AsyncGenerator<Buffer, void, void> {
  let at = from;
  let coming = at < to ? chunkAt(contentId, at) : null;
  while (at < to && coming) {
    const chunk = await coming;
    const end = chunk.startByte + chunk.data.length;
    // Requested ahead, so that the database reads while the network writes.
    coming = end < to ? chunkAt(contentId, end) : null;
    coming?.catch(() => undefined);
    yield chunk.data.subarray(at - chunk.startByte, Math.min(chunk.data.length, to - chunk.startByte));
    at = end;
  }
}

interface Chunk {
  readonly startByte: number;
  readonly data: Buffer;
}

/** The piece that contains a byte. A prepared statement of the driver: one gigabyte takes a thousand calls. */
async function chunkAt(contentId: string, byte: number): Promise<Chunk> {
  const found = await readingPool().query<{ start_byte: string; data: Buffer }>({
    name: 'chunk-at',
    text: `select start_byte, data from blob_chunk
           where content_id = $1 and start_byte <= $2
           order by start_byte desc
           limit 1`,
    values: [contentId, byte],
  });
  const row = found.rows[0];
  if (!row || Number(row.start_byte) + row.data.length <= byte) {
    throw new Error(`Content ${contentId} has no byte ${byte}`);
  }
  return { startByte: Number(row.start_byte), data: row.data };
}

/** The store of content that this library uses. */
export const blobStore: BlobStore = { read: readChunks };
