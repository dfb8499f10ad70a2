import type { Fingerprint, StoreName } from '@/core/content/model';
import type { FileKind } from '@/core/files/fileKind';
import type { Tx } from '../db/client';

/** Content that is filed. It never changes. */
export interface Content {
  readonly sha256: string;
  readonly contentId: string;
  readonly sizeBytes: number;
  readonly store: StoreName;
  /** The checksum of each piece; null for content that was filed before they were recorded. */
  readonly pieceSums: readonly number[] | null;
}

/** An upload that receives bytes, and where they go. */
export interface Incoming {
  readonly id: string;
  readonly contentId: string;
  readonly sizeBytes: number;
  readonly store: StoreName;
}

/** Bytes in order, in parts of at most 1 MiB. Ending it early releases what it holds. */
export type Bytes = AsyncGenerator<Buffer, void, void>;

/** Bytes are not where they should be: the content is incomplete, or was taken to the other store meanwhile. */
export class ContentMissing extends Error {
  override readonly name = 'ContentMissing';
}

/** What is known of an upload once its last byte has come, if all came in one request. */
export interface Known extends Fingerprint {
  readonly kind: FileKind | null;
}

/** Receives one sender's bytes of an upload, in order. */
export interface Receiver {
  /**
   * Stores the next bytes, and notes in the upload's row how many there are now: at the latest with the last, together with
   * what is known of all. Their memory may be reused afterwards.
   * @throws Refusal `conflict` if another sender is sending the same upload.
   */
  write(data: Uint8Array, fromByte: number, known: Known | null): Promise<void>;
  /** Notes everything written. Called once, also after an error: what has arrived is kept. */
  close(): Promise<void>;
}

/**
 * A place for content. Bytes of uploads are stored under the `contentId` of the upload; when it is filed, `keep` makes them
 * lasting. Whatever dies in between leaves nothing behind that a row needs and nothing else that `sweep` does not remove.
 */
export interface ContentStore {
  /** The bytes [fromByte, toByte) of filed content. @throws ContentMissing */
  read(content: Content, fromByte: number, toByte: number): Bytes;
  /** The same of an upload under way. */
  readIncoming(contentId: string, fromByte: number, toByte: number): Bytes;
  /** Begins receiving at a byte, which is how many the upload has. */
  receive(upload: Incoming, fromByte: number): Promise<Receiver>;
  /** Stores whole content within a transaction: what `content:move` does with each. Lasting once that commits. */
  put(tx: Tx, content: Content, bytes: AsyncIterable<Buffer>): Promise<void>;
  /** Makes a complete upload lasting content, before the transaction commits that needs it. May be repeated. */
  keep(tx: Tx, contentId: string, sha256: string): Promise<void>;
  /** Gives up the bytes of an upload, with the transaction that ends it. */
  forget(tx: Tx, contentId: string): Promise<void>;
  /** Removes what an upload leaves behind once it has ended, after the commit. If it never runs, `sweep` does it. */
  tidy(contentId: string): Promise<void>;
}
