import type { Names } from '@/core/columns/format';
import type { PlacedPaper } from '@/core/documents/contract';
import type { Label } from '@/core/labels/model';
import type { PlaceRow } from '@/core/places/model';
import type { Display, HeadingLine } from '@/core/views/display';
import type { Sort } from '@/core/views/spec';
import type { LedgerColumn } from './ledgerColumns';

/** What a ledger shows and does; covers take a part of it. */
export interface LedgerProps {
  readonly label: string;
  readonly places: readonly PlaceRow[];
  readonly display: Display;
  /** How many papers there are, each counted once. */
  readonly papers: number;
  readonly paperAt: (line: number) => PlacedPaper | undefined;
  /** Told which lines of papers are in sight. */
  readonly onSight: (first: number, last: number) => void;
  /** Names the order of the lines: a new one begins at the top. */
  readonly orderKey: string;
  readonly columns: readonly LedgerColumn[];
  readonly frozen: number;
  readonly onWidth: (key: string, width: number) => void;
  readonly names: Names;
  readonly labels: ReadonlyMap<string, Label>;
  readonly sorts: readonly Sort[];
  /** `more` adds a key to those there are. */
  readonly onSort: (of: string, more: boolean) => void;
  /** The id of the place or paper that the docket shows and the keys speak to. */
  readonly cursor: string | null;
  readonly onCursor: (id: string) => void;
  readonly ticked: ReadonlySet<string>;
  readonly onTick: (papers: readonly PlacedPaper[], tick: boolean) => void;
  /** Picks up some lines of papers, also those that are not at hand. */
  readonly onTickLines: (start: number, count: number) => void;
  readonly onFold: (path: string) => void;
  readonly onTakeValue: (
    heading: HeadingLine,
    papers: readonly { readonly id: string; readonly title: string }[],
  ) => void;
  readonly measureWords: (heading: HeadingLine) => { readonly short: string; readonly long: string };
  /** Puts papers before one of this place; left out where the order is another. */
  readonly onPutBefore: ((beforeId: string, papers: readonly { readonly id: string }[]) => void) | undefined;
  readonly onOpenPaper: (id: string) => void;
  readonly onOpenPlace: (id: string) => void;
  readonly renaming: string | null;
  readonly onRename: (id: string | null) => void;
  readonly onDispose: (ids: readonly string[]) => void;
  readonly mayAmend: boolean;
}
