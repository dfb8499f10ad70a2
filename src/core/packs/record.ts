import type { PackPlan } from './layout';
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
  /** The picture on the cover; null: none. Of issues that were made before there were any it is not said. */
  readonly pictureId?: string | null;
  readonly stampPlace: StampPlace;
  readonly sheets: boolean;
  /** The number of its first page: 1, or where a supplement goes on. */
  readonly firstPage: number;
  /** Of a supplement whose pages are let in: what is stamped on each of its pages, "40a". */
  readonly labels?: readonly string[];
  /** "Issue 2", "Supplement 1 to issue 2"; '' for the first issue. */
  readonly called: string;
  /** Depth first. */
  readonly entries: readonly IssuedEntry[];
}

/** The entries of an issue as they are laid out. */
export const laidEntries = (entries: readonly IssuedEntry[]): LaidEntry[] =>
  entries.map(({ id, parentId, kind, title, pages }) => ({ id, parentId, kind, title, pages: pages?.length ?? null }));

/**
 * The papers that were not issued yet, or not in this version, with the sections that they lie in: what a supplement has.
 * @param all depth first; so is the outcome
 */
export function newEntries(all: readonly IssuedEntry[], issued: readonly IssuedEntry[]): IssuedEntry[] {
  const versions = new Set(issued.map(({ versionId }) => versionId));
  const wanted = new Set(
    all.filter(({ kind, versionId }) => kind === 'paper' && !versions.has(versionId)).map(({ id }) => id),
  );
  const byId = new Map(all.map((entry) => [entry.id, entry]));
  for (const id of [...wanted])
    for (let above = byId.get(id)?.parentId ?? null; above !== null; above = byId.get(above)?.parentId ?? null)
      wanted.add(above);
  return all.filter(({ id }) => wanted.has(id));
}

/** A page of a pack that is a page of a paper. */
export interface PaperPage {
  /** Its number in the pack. */
  readonly number: number;
  readonly entry: IssuedEntry & { readonly versionId: string };
  /** Which page of the version it is, from 1. */
  readonly page: number;
}

/** The pages of a pack that are pages of papers, in order. Cover, contents, sheets and the list of files are none. */
export function paperPages({ parts }: PackPlan, entries: readonly IssuedEntry[]): PaperPage[] {
  const byId = new Map(entries.map((entry) => [entry.id, entry]));
  return parts.flatMap(({ entryId, from }) => {
    const entry = byId.get(entryId ?? '');
    const { versionId } = entry ?? {};
    if (!entry || entry.kind !== 'paper' || !versionId) return [];
    return (entry.pages ?? []).map((page, at) => ({ number: from + at, entry: { ...entry, versionId }, page }));
  });
}
