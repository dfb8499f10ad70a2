import type { ReadingFault } from './reading';
import type { Capability } from '../access/capability';
import type { Values } from '../columns/model';
import type { Stamp } from '../files/fileKind';

/** How another place lists a paper: shown to those who may see it anyway, or letting that place's readers in. */
export const filingKinds = ['pointer', 'opening'] as const;
export type FilingKind = (typeof filingKinds)[number];

/** A paper as the ledger shows it. Instants are ISO 8601. */
export interface PaperRow {
  readonly id: string;
  readonly title: string;
  readonly stamp: Stamp;
  readonly sizeBytes: number;
  /** Null while unknown, or for kinds that have no pages. */
  readonly pageCount: number | null;
  /** Null while unknown, or for kinds whose text is not read. */
  readonly wordCount: number | null;
  readonly filedBy: string;
  readonly changedBy: string;
  readonly filedAt: string;
  readonly changedAt: string;
  readonly revision: number;
  /** What it shows by column: its own values, under what its home fixes. */
  readonly values: Values;
  /** Columns that its home fixes. */
  readonly fixed: readonly string[];
  /** Ids of the labels on it that the asker may know of. */
  readonly labels: readonly string[];
}

export interface PaperVersion {
  readonly number: number;
  readonly fileName: string;
  readonly mediaType: string;
  readonly sizeBytes: number;
  readonly sha256: string;
  readonly madeBy: string;
  readonly madeAt: string;
  /** The number of the version it brought back, where it is a restored one. */
  readonly restoredFrom: number | null;
}

/** A place besides its home that lists a paper. */
export interface PaperFiling {
  readonly placeId: string;
  readonly kind: FilingKind;
  readonly path: readonly { readonly id: string; readonly name: string }[];
  /** Whether the asker may take the paper out of it. */
  readonly mayLeave: boolean;
}

/** All that the docket shows of one paper. */
export interface PaperDocket extends PaperRow {
  readonly note: string;
  readonly mediaType: string;
  readonly fileName: string;
  readonly sha256: string;
  /** Its home; or, for those who may not know of that, the place by which they come to it. */
  readonly homeId: string;
  readonly isHome: boolean;
  readonly filings: readonly PaperFiling[];
  /** Names from the series down to the home; empty for those who may not know of it. */
  readonly homePath: readonly { readonly id: string; readonly name: string }[];
  /** What may be done with it at this moment. */
  readonly capabilities: readonly Capability[];
  /** What keeps it from being changed, whoever asks: its own lock, or a place that is closed or locked. */
  readonly still: 'locked' | 'lockedPlace' | 'closedPlace' | null;
  readonly openTo: number | null;
  /** Why it could not be read for its picture, pages and words; null where it was, or waits to be. */
  readonly unread: ReadingFault | null;
  readonly disposedAt: string | null;
  readonly versions: readonly PaperVersion[];
  /** Whether a picture of the first page is there to show. */
  readonly hasPicture: boolean;
}

export const ledgerSorts = [
  'title',
  'stamp',
  'size',
  'pages',
  'words',
  'filedBy',
  'filedAt',
  'changedBy',
  'changedAt',
] as const;
export type LedgerSort = (typeof ledgerSorts)[number];

/** One page of a ledger. `next` asks for the page after it; null at the end. */
export interface LedgerPage {
  readonly rows: readonly PaperRow[];
  readonly next: string | null;
  /** Names for the ids in the values of these rows, of what the asker may know of. */
  readonly names: Readonly<Record<string, string>>;
  /** Of the whole ledger under its filter; counted with the first page, null on later ones. */
  readonly totals: { readonly papers: number; readonly sizeBytes: number; readonly pages: number } | null;
}

/** A paper waiting in the disposal tray. */
export interface DisposedPaper extends PaperRow {
  readonly homeId: string;
  readonly homeName: string;
  readonly disposedAt: string;
  readonly disposedBy: string;
}
