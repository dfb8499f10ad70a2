import type { KeepingStanding } from '../retention/keeping';
import type { KeepingEnd } from '../retention/model';
import type { Reading } from '../reading/stages';
import type { Capability } from '../access/capability';
import type { Values } from '../columns/model';
import type { Stamp } from '../files/fileKind';
import type { PaperSignature } from './signature';

/** How another place lists a paper: for people who may see it anyway, or also giving access to that place's readers. */
export const filingKinds = ['pointer', 'opening'] as const;
export type FilingKind = (typeof filingKinds)[number];

/** A paper as lists show it. Times are ISO 8601. */
export interface PaperRow {
  readonly id: string;
  readonly title: string;
  readonly stamp: Stamp;
  readonly sizeBytes: number;
  /** Null while unknown, or for kinds that have no pages. */
  readonly pageCount: number | null;
  /** Null while unknown, or for kinds whose text is not read. */
  readonly wordCount: number | null;
  /** Of its current version; null where nobody was asked to sign that. */
  readonly signature: PaperSignature | null;
  readonly filedBy: string;
  readonly changedBy: string;
  readonly filedAt: string;
  readonly changedAt: string;
  readonly revision: number;
  /** Shown values by column: those its home fixes, and its own for the rest. */
  readonly values: Values;
  /** Columns fixed by its home. */
  readonly fixed: readonly string[];
  /** Ids of its labels that the caller may know of. */
  readonly labels: readonly string[];
  readonly inside: PaperInside;
  readonly owed: PaperOwed;
}

/** What a paper is owed, as lists show it: its next review, and how long it is kept. Days are ISO 8601. */
export interface PaperOwed {
  readonly review: null | {
    readonly due: string;
    /** The day from which the cycle runs, and so many days before it is due it is announced. */
    readonly since: string;
    readonly warnDays: number;
    /** Who reviews; '' for the keepers. */
    readonly responsible: string;
  };
  readonly keeping: null | {
    readonly className: string;
    /** Null: for good, or not known. */
    readonly until: string | null;
    readonly standing: KeepingStanding;
    readonly end: KeepingEnd;
  };
}

/** What reading found in a paper, as lists show it. */
export interface PaperInside {
  /** Its first telling sentence; '' if there is none. */
  readonly summary: string;
  readonly keyWords: readonly string[];
  /** ISO 639-1; null if it is not known. */
  readonly language: string | null;
}

/** One version of a paper. */
export interface PaperVersion {
  readonly number: number;
  readonly fileName: string;
  readonly mediaType: string;
  readonly sizeBytes: number;
  readonly sha256: string;
  readonly madeBy: string;
  readonly madeAt: string;
  /** The number of the version it restored; null if it is not a restored one. */
  readonly restoredFrom: number | null;
  /** What its maker said of it; '' for nothing. */
  readonly remark: string;
}

/** A place other than its home that lists a paper. */
export interface PaperFiling {
  readonly placeId: string;
  readonly kind: FilingKind;
  readonly path: readonly { readonly id: string; readonly name: string }[];
  /** Whether the caller may remove the paper from it. */
  readonly mayLeave: boolean;
}

/** What reading found in a paper as a whole. */
export interface PaperFacts {
  /** ISO 639-1; null if there is too little text to tell. */
  readonly language: string | null;
  /** Title and author that the file itself gives. */
  readonly title: string | null;
  readonly author: string | null;
  /** A few of its own sentences. */
  readonly summary: readonly string[];
  readonly keyWords: readonly string[];
  /** Days (ISO 8601) and references that its text names. */
  readonly days: readonly string[];
  readonly references: readonly string[];
}

/** Where a copy came from. */
export interface PaperOrigin {
  /** The original; null if it is no longer there, or is not open to the caller. */
  readonly original: { readonly id: string; readonly title: string } | null;
  /** Whether the original has a newer version than the one copied, of which the caller may take a copy. */
  readonly hasNewer: boolean;
  readonly at: string;
}

/** Everything the docket shows of a paper. */
export interface PaperDocket extends Omit<PaperRow, 'inside' | 'owed'> {
  readonly remark: string;
  readonly mediaType: string;
  readonly fileName: string;
  readonly sha256: string;
  /** Its home; or, for callers who may not know it, the place through which they see the paper. */
  readonly homeId: string;
  readonly isHome: boolean;
  readonly filings: readonly PaperFiling[];
  /** Names from the series to the home; empty for callers who may not know it. */
  readonly homePath: readonly { readonly id: string; readonly name: string }[];
  /** What the caller may do with it now. */
  readonly capabilities: readonly Capability[];
  /** Why nobody can change it: its own lock, or a locked or closed place; null if nothing prevents it. */
  readonly still: 'locked' | 'lockedPlace' | 'closedPlace' | null;
  readonly openTo: number | null;
  /** How far reading its content has come. */
  readonly reading: Reading;
  /** What was found in it as a whole. */
  readonly facts: PaperFacts;
  readonly disposedAt: string | null;
  readonly versions: readonly PaperVersion[];
  /** Where it was copied from; null for a paper that is no copy. */
  readonly origin: PaperOrigin | null;
  /** Whether there is a picture of it: a cover chosen for it, or its first page. */
  readonly hasPicture: boolean;
  readonly hasOwnCover: boolean;
  /** Whether it is written in the browser, and is offered as a start for others that are. */
  readonly isNote: boolean;
  readonly isStart: boolean;
}

/** One page of a list. `next` requests the following page; null at the end. */
export interface LedgerPage {
  readonly rows: readonly PaperRow[];
  readonly next: string | null;
  /** Names for ids in the rows' values, as far as the caller may know of them. */
  readonly names: Readonly<Record<string, string>>;
  /** Totals of the whole filtered list; null except on the first page. */
  readonly totals: { readonly papers: number; readonly sizeBytes: number; readonly pages: number } | null;
}
