/** Where content is kept: in rows of the database, or as files of a directory. */
export const storeNames = ['rows', 'directory'] as const;
export type StoreName = (typeof storeNames)[number];

/** The grain of checks: each piece of this many bytes of some content has a checksum of its own, the last may be shorter. */
export const pieceBytes = 1024 * 1024;

/** What identifies some bytes, whatever they are called and wherever they are. */
export interface Fingerprint {
  /** SHA-256, 64 hexadecimal digits. */
  readonly sha256: string;
  /** CRC-32 (as in ISO 3309 and gzip) of each piece, as signed 32-bit numbers. */
  readonly pieceSums: readonly number[];
}
