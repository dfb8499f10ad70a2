import type { ReactNode } from 'react';
import { inWords, type Names } from '@/core/columns/format';
import type { Column, ColumnType } from '@/core/columns/model';
import type { PaperRow } from '@/core/documents/model';
import { sizeInWords } from '@/core/text/measure';
import { momentInWords, whenInWords } from '@/core/text/moment';
import { Stamp } from '../kit/stamp';

export interface LedgerColumn {
  /** One of the ledger's own sorts, or the id of a column of values. */
  readonly key: string;
  readonly heading: string;
  /** The narrowest it may be, in pixels, and the share of what room is left that it takes. */
  readonly width: number;
  readonly grows: number;
  readonly figures?: boolean;
  readonly cell: (
    row: PaperRow,
    around: { readonly now: string; readonly timeZone: string; readonly names: Names },
  ) => ReactNode;
}

const moment = (at: string, { now, timeZone }: { now: string; timeZone: string }) => (
  <time dateTime={at} title={momentInWords(at, timeZone)}>
    {whenInWords(at, now, timeZone)}
  </time>
);

/** The ledger's own columns after the title, in order. */
export const ownColumns: readonly LedgerColumn[] = [
  { key: 'stamp', heading: 'Kind', width: 64, grows: 0, cell: (row) => <Stamp word={row.stamp} /> },
  { key: 'pages', heading: 'Pages', width: 52, grows: 0, figures: true, cell: (row) => row.pageCount ?? '' },
  {
    key: 'words',
    heading: 'Words',
    width: 64,
    grows: 0,
    figures: true,
    cell: (row) => row.wordCount?.toLocaleString('en-GB') ?? '',
  },
  { key: 'size', heading: 'Size', width: 68, grows: 0, figures: true, cell: (row) => sizeInWords(row.sizeBytes) },
  { key: 'filedBy', heading: 'Filed by', width: 90, grows: 0.45, cell: (row) => row.filedBy },
  { key: 'filedAt', heading: 'Filed', width: 98, grows: 0, cell: (row, around) => moment(row.filedAt, around) },
  { key: 'changedBy', heading: 'Changed by', width: 90, grows: 0.45, cell: (row) => row.changedBy },
  { key: 'changedAt', heading: 'Changed', width: 98, grows: 0, cell: (row, around) => moment(row.changedAt, around) },
];

const widths: Record<ColumnType, number> = {
  choice: 96,
  choices: 120,
  text: 110,
  longText: 160,
  number: 72,
  amount: 88,
  date: 106,
  yesNo: 52,
  person: 110,
  dossier: 120,
  document: 130,
};

/** A column of values as the ledger shows it. */
export const valueColumn = (column: Column): LedgerColumn => ({
  key: column.id,
  heading: column.name,
  width: widths[column.type],
  grows: 0.4,
  figures: column.type === 'number' || column.type === 'amount',
  cell: (row, { names }) => inWords(column, row.values[column.id], names),
});

const narrowestTitle = 220;

/** The grid of a ledger row: tick, title, then the columns. */
export const tracksOf = (columns: readonly LedgerColumn[]): string =>
  `36px minmax(${narrowestTitle}px, 1fr) ${columns.map(({ width, grows }) => (grows > 0 ? `minmax(${width}px, ${grows}fr)` : `${width}px`)).join(' ')} 8px`;

/** How wide the ledger is at least; where the room is narrower, it scrolls sideways. In pixels. */
export const leastWidth = (columns: readonly LedgerColumn[]): number =>
  columns.reduce((sum, column) => sum + column.width, 36 + narrowestTitle + 8);
