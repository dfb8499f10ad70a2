import { depthsOf } from '../outline/outline';
import type { EntryKind, LaidEntry } from './model';

/** So many lines of contents fit on a page, under the heading. */
export const contentsLines = 34;

/** A run of pages of a pack. */
export interface PackPart {
  readonly kind: 'cover' | 'contents' | 'sheet' | 'paper' | 'files';
  /** Of a section's sheet and a paper. */
  readonly entryId: string | null;
  /** Its first page in the pack, from 1. */
  readonly from: number;
  readonly pages: number;
}

/** A line of a pack's contents. */
export interface ContentsLine {
  readonly entryId: string | null;
  readonly kind: EntryKind;
  readonly title: string;
  /** 1 at the top. */
  readonly depth: number;
  /** The page on which it begins; null: it has no pages of its own. */
  readonly page: number | null;
}

/** How a pack is laid out, before a page of it is made. */
export interface PackPlan {
  readonly parts: readonly PackPart[];
  readonly lines: readonly ContentsLine[];
  /** How many pages the whole pack has. */
  readonly total: number;
}

/** What the list of files without pages is called. */
export const filesTitle = 'Files without pages';

/**
 * Lays a pack out: cover, contents, then sections with their papers in order, at the end a list of the files that cannot be
 * pages. A section begins where its sheet stands, or, without sheets, where its first pages do; one without pages in it has neither.
 * @param entries depth first
 * @param firstPage the number of its first page: 1, or where a supplement goes on
 */
export function layOut(
  entries: readonly LaidEntry[],
  { sheets, firstPage = 1 }: { readonly sheets: boolean; readonly firstPage?: number },
): PackPlan {
  const depths = depthsOf(entries);
  const hasFiles = entries.some(({ pages }) => pages === null);
  const contentsPages = Math.max(1, Math.ceil((entries.length + (hasFiles ? 1 : 0)) / contentsLines));
  const parts: PackPart[] = [
    { kind: 'cover', entryId: null, from: firstPage, pages: 1 },
    { kind: 'contents', entryId: null, from: firstPage + 1, pages: contentsPages },
  ];
  let next = firstPage + 1 + contentsPages;
  const begin = (kind: PackPart['kind'], entryId: string | null, pages: number) => {
    parts.push({ kind, entryId, from: next, pages });
    next += pages;
  };
  const isFull = entries.map((entry, at) =>
    entry.kind === 'section' ? hasPages(entries, depths, at) : (entry.pages ?? 0) > 0,
  );
  const firsts = entries.map(({ id, kind, pages }, at) => {
    const from = next;
    if (kind === 'section' && sheets && isFull[at] === true) begin('sheet', id, 1);
    else if (kind === 'paper' && pages !== null && pages > 0) begin('paper', id, pages);
    return from;
  });
  const lines = entries.map(({ id, title, kind }, at): ContentsLine => ({
    entryId: id,
    kind,
    title,
    depth: depths[at] ?? 1,
    page: isFull[at] === true ? (firsts[at] ?? null) : null,
  }));
  if (hasFiles) {
    lines.push({ entryId: null, kind: 'section', title: filesTitle, depth: 1, page: next });
    begin('files', null, 1);
  }
  return { parts, lines, total: next - firstPage };
}

/** Whether anything in a section has pages. */
function hasPages(entries: readonly LaidEntry[], depths: readonly number[], at: number): boolean {
  for (let inner = at + 1; (depths[inner] ?? 0) > (depths[at] ?? 1); inner += 1)
    if ((entries[inner]?.pages ?? 0) > 0) return true;
  return false;
}
