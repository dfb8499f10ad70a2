import type { EntryKind, LaidEntry, StampPlace } from './model';

/** An entry as it was issued. */
export interface IssuedEntry {
  readonly id: string;
  readonly parentId: string | null;
  readonly kind: EntryKind;
  readonly title: string;
  readonly documentId: string | null;
  readonly versionId: string | null;
  readonly fileName: string;
  /** Which pages of the version, from 1; null: it cannot be pages, and is listed as a file. */
  readonly pages: readonly number[] | null;
  /** Who may know of it; null: everybody who may read the pack. */
  readonly readers: readonly string[] | null;
}

/** All that an issue of a pack is made from: it can be made again from this alone. */
export interface PackRecord {
  readonly name: string;
  readonly description: string;
  readonly preparedBy: string;
  readonly forWhom: string;
  /** ISO 8601; null: none is said. */
  readonly day: string | null;
  readonly library: string;
  readonly stampPlace: StampPlace;
  readonly sheets: boolean;
  /** Depth first. */
  readonly entries: readonly IssuedEntry[];
}

/** The entries of an issue as they are laid out. */
export const laidEntries = (entries: readonly IssuedEntry[]): LaidEntry[] =>
  entries.map(({ id, parentId, kind, title, pages }) => ({ id, parentId, kind, title, pages: pages?.length ?? null }));
