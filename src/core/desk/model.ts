import type { Stamp } from '../files/fileKind';

/** The blocks of a desk, in the order in which a new one has them. */
export const blocks = [
  'needs',
  'passed',
  'followed',
  'lately',
  'news',
  'mine',
  'figures',
  'bookmarks',
  'library',
  'passedOn',
] as const;
export type Block = (typeof blocks)[number];

/** The narrow blocks, which stand in a column of their own. */
export const narrowBlocks: readonly Block[] = ['bookmarks', 'library', 'passedOn'];

/** How a person has their desk: the blocks in their order, and which are folded or left out. */
export interface Arrangement {
  readonly order: readonly Block[];
  readonly folded: readonly Block[];
  readonly leftOut: readonly Block[];
}

/** The kinds of thing that can be bookmarked. */
export const bookmarkKinds = ['paper', 'place', 'view', 'search'] as const;
export type BookmarkKind = (typeof bookmarkKinds)[number];

/** What a bookmark is on: an id, or the address of a search. */
export interface BookmarkOn {
  readonly kind: BookmarkKind;
  readonly ref: string;
}

/** A bookmark of the caller's, in their order. */
export interface Bookmark extends BookmarkOn {
  readonly name: string;
  /** Where it is, in words; '' for what is nowhere. */
  readonly where: string;
  readonly address: string;
  readonly stamp: Stamp | null;
}

/** A paper that the caller had open. */
export interface OpenedPaper {
  readonly id: string;
  readonly title: string;
  readonly stamp: Stamp;
  readonly where: string;
  /** The page at which they were. */
  readonly page: number;
  /** ISO 8601. */
  readonly at: string;
}

/** Papers that lack a value that is needed. */
export interface Lacking {
  readonly columnId: string;
  readonly name: string;
  readonly papers: number;
}

/** How many papers were filed in a month, by series. */
export interface FiledInMonth {
  /** `2026-07`, in the library's time zone. */
  readonly month: string;
  readonly seriesId: string;
  readonly papers: number;
}

/** The library in numbers, as far as the caller may see it. */
export interface Figures {
  readonly papers: number;
  readonly sizeBytes: number;
  readonly series: readonly { readonly id: string; readonly name: string }[];
  /** The last twelve months. */
  readonly filed: readonly FiledInMonth[];
  readonly kinds: readonly { readonly stamp: Stamp; readonly papers: number }[];
  /** How many papers there were at the end of each of the last twelve months. */
  readonly growth: readonly { readonly month: string; readonly papers: number }[];
}
