import canonicalize from 'canonicalize';
import type { JournalDetail } from './model';

/** The parts of an entry covered by its hash. `at` is an ISO 8601 time with milliseconds. */
export interface SealedEntry {
  readonly at: string;
  readonly personId: string | null;
  readonly act: string;
  readonly subjects: readonly string[];
  readonly detail: JournalDetail;
}

/** The hash before the first entry: 64 zeros. */
export const chainStart = '0'.repeat(64);

/**
 * The text whose SHA-256 is an entry's hash: the previous hash and the entry, in the canonical JSON of RFC 8785.
 */
export function sealedText(previousHash: string, entry: SealedEntry): string {
  const text = canonicalize({ previousHash, ...entry });
  if (text === undefined) throw new Error('A journal entry has no canonical form');
  return text;
}

/** Where a chain breaks: the id of the first entry whose hash does not match; null if it is whole. */
export function firstBreak(
  entries: Iterable<SealedEntry & { readonly id: number; readonly previousHash: string; readonly hash: string }>,
  sha256Hex: (text: string) => string,
  start = chainStart,
): number | null {
  let previousHash = start;
  for (const { id, previousHash: claimed, hash, ...sealed } of entries) {
    if (claimed !== previousHash || sha256Hex(sealedText(previousHash, sealed)) !== hash) return id;
    previousHash = hash;
  }
  return null;
}
