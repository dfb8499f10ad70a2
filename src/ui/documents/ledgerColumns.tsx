import type { ReactNode } from 'react';
import type { LedgerSort, PaperRow } from '@/core/documents/model';
import { sizeInWords } from '@/core/text/measure';
import { momentInWords, whenInWords } from '@/core/text/moment';
import { Stamp } from '../kit/stamp';

export interface LedgerColumn {
  readonly sort: LedgerSort;
  readonly heading: string;
  /** A track of the grid, in CSS. */
  readonly width: string;
  readonly figures?: boolean;
  readonly cell: (row: PaperRow, around: { readonly now: string; readonly timeZone: string }) => ReactNode;
}

const moment = (at: string, { now, timeZone }: { now: string; timeZone: string }) => (
  <time dateTime={at} title={momentInWords(at, timeZone)}>
    {whenInWords(at, now, timeZone)}
  </time>
);

/** The ledger's columns after the title, in order. */
export const ledgerColumns: readonly LedgerColumn[] = [
  { sort: 'stamp', heading: 'Kind', width: '64px', cell: (row) => <Stamp word={row.stamp} /> },
  { sort: 'pages', heading: 'Pages', width: '52px', figures: true, cell: (row) => row.pageCount ?? '' },
  { sort: 'size', heading: 'Size', width: '68px', figures: true, cell: (row) => sizeInWords(row.sizeBytes) },
  { sort: 'filedBy', heading: 'Filed by', width: 'minmax(90px, 0.45fr)', cell: (row) => row.filedBy },
  { sort: 'filedAt', heading: 'Filed', width: '98px', cell: (row, around) => moment(row.filedAt, around) },
  { sort: 'changedAt', heading: 'Changed', width: '98px', cell: (row, around) => moment(row.changedAt, around) },
];

/** The grid of a ledger row: tick, title, then the columns. */
export const ledgerTracks = `36px minmax(150px, 1fr) ${ledgerColumns.map((column) => column.width).join(' ')} 8px`;
