import type { CSSProperties, ReactNode } from 'react';
import { inWords, type Names } from '@/core/columns/format';
import type { Column, ColumnType } from '@/core/columns/model';
import type { PaperRow } from '@/core/documents/model';
import { builtInProperties, insideProperties, type InsideProperty, type ListedProperty } from '@/core/views/builtIns';
import { sizeInWords } from '@/core/text/measure';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { dayAt } from '@/core/calendar/period';
import { keptUntilInWords } from '@/core/retention/keeping';
import { paperSignatureWords } from '@/core/documents/signature';
import { keepingEndWords } from '@/core/retention/model';
import { DueBar } from '../kit/dueBar';
import { Stamp } from '../kit/stamp';

/** A column of the plain list. */
export interface LedgerColumn {
  /** One of the ledger's own sorts, or the id of a column of values. */
  readonly key: string;
  readonly heading: string;
  /** The narrowest it may be, in pixels, and the share of what room is left that it takes. */
  readonly width: number;
  readonly grows: number;
  /** How narrow it may get where there is no room for its width; left out: it keeps it. */
  readonly least?: number;
  readonly figures?: boolean;
  /** Its values do not say of what they are: beneath a title they have the heading with them. */
  readonly needsHeading?: boolean;
  /** Its texts differ at their ends: they are cut in front. */
  readonly cutInFront?: boolean;
  /** False for what has no order. */
  readonly sorts?: boolean;
  readonly cell: (
    row: PaperRow & { readonly homeName?: string },
    around: { readonly now: string; readonly timeZone: string; readonly names: Names },
  ) => ReactNode;
}

const moment = (at: string, { now, timeZone }: { now: string; timeZone: string }) => (
  <time dateTime={at} title={momentInWords(at, timeZone)}>
    {whenInWords(at, now, timeZone)}
  </time>
);

type Shown = Pick<LedgerColumn, 'width' | 'grows' | 'cell' | 'figures' | 'cutInFront' | 'needsHeading'>;

const dayNumberAt = (now: string, timeZone: string): number => dayAt(Date.parse(now), timeZone);

/** How the ledger draws the properties that every paper has. */
const shown: Readonly<Record<ListedProperty, Shown>> = {
  kind: { width: 64, grows: 0, cell: (row) => <Stamp word={row.stamp} /> },
  place: { width: 130, grows: 0.5, cutInFront: true, cell: (row) => row.homeName ?? '' },
  pages: { width: 52, grows: 0, figures: true, needsHeading: true, cell: (row) => row.pageCount ?? '' },
  words: {
    width: 64,
    grows: 0,
    figures: true,
    needsHeading: true,
    cell: (row) => row.wordCount?.toLocaleString('en-GB') ?? '',
  },
  size: { width: 68, grows: 0, figures: true, cell: (row) => sizeInWords(row.sizeBytes) },
  filedBy: { width: 90, grows: 0.45, needsHeading: true, cell: (row) => row.filedBy },
  filedAt: { width: 98, grows: 0, needsHeading: true, cell: (row, around) => moment(row.filedAt, around) },
  changedBy: { width: 90, grows: 0.45, needsHeading: true, cell: (row) => row.changedBy },
  changedAt: { width: 98, grows: 0, needsHeading: true, cell: (row, around) => moment(row.changedAt, around) },
  signature: {
    width: 92,
    grows: 0,
    needsHeading: true,
    cell: ({ signature }) => (signature === null ? '' : paperSignatureWords[signature]),
  },
  reviewOn: {
    width: 138,
    grows: 0,
    needsHeading: true,
    cell: ({ owed: { review } }, { now, timeZone }) =>
      review && <DueBar {...review} today={dayNumberAt(now, timeZone)} />,
  },
  reviewer: {
    width: 100,
    grows: 0.4,
    needsHeading: true,
    cell: ({ owed: { review } }) => review && (review.responsible === '' ? 'the keepers' : review.responsible),
  },
  keptUntil: {
    width: 106,
    grows: 0,
    needsHeading: true,
    cell: ({ owed: { keeping } }) => keeping && keptUntilInWords(keeping),
  },
  keptClass: { width: 130, grows: 0.4, needsHeading: true, cell: ({ owed }) => owed.keeping?.className ?? '' },
  keptEnd: {
    width: 110,
    grows: 0,
    needsHeading: true,
    cell: ({ owed }) => (owed.keeping ? keepingEndWords[owed.keeping.end] : ''),
  },
};

/** How it draws what was found in papers. */
const shownInside: Readonly<Record<InsideProperty, Pick<LedgerColumn, 'width' | 'grows' | 'needsHeading'>>> = {
  summary: { width: 260, grows: 1 },
  keyWords: { width: 170, grows: 0.6 },
  language: { width: 84, grows: 0, needsHeading: true },
};

/** The ledger's own columns after the title, in order. */
export const ownColumns: readonly LedgerColumn[] = [
  ...(Object.keys(shown) as ListedProperty[]).map((key) => ({
    key,
    heading: builtInProperties[key].name,
    ...shown[key],
  })),
  ...(Object.keys(shownInside) as InsideProperty[]).map((key) => ({
    key,
    heading: insideProperties[key].name,
    sorts: false,
    ...shownInside[key],
    cell: (row: PaperRow) => insideProperties[key].exported(row),
  })),
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
  needsHeading: ['number', 'date', 'yesNo', 'person'].includes(column.type),
  ...(column.type === 'longText' ? { sorts: false } : {}),
  cell: (row, { names }) => inWords(column, row.values[column.id], names),
});

const narrowestTitle = 220;
const tickWidth = 36;

/** A column drawn to a width of its own. */
export const drawn = (column: LedgerColumn, width: number | undefined): LedgerColumn =>
  width === undefined ? column : { ...column, width, grows: 0 };

/** Of text in the ledger's type, in pixels: measured, a little above the mean. */
const letterWidth = 6.9;
const headingLetterWidth = 7;
const cellPadding = 14;
/** A column gets wider than this only by hand. */
const widest = 230;
/** Where the window is tight a column may be cut to this share of its width. */
const tightestShare = 0.8;

/**
 * A column as wide as its heading and most of what is in it. Only text is measured; what is drawn otherwise (stamps, dates)
 * has a width of its own. Above the widest it takes a share of the room that is left.
 */
export function fitted(
  column: LedgerColumn,
  rows: readonly (PaperRow & { readonly homeName?: string })[],
  around: Parameters<LedgerColumn['cell']>[1],
): LedgerColumn {
  const heading = column.heading.length * headingLetterWidth + cellPadding + headingLetterWidth * 2;
  const lengths = rows
    .map((row) => column.cell(row, around))
    .flatMap((cell) => (typeof cell === 'string' || typeof cell === 'number' ? [String(cell).length] : []))
    .sort((one, other) => one - other);
  if (lengths.length < rows.length) return { ...column, width: Math.max(column.width, heading), grows: 0 };
  const most = (lengths[Math.floor(lengths.length * 0.95)] ?? 0) * letterWidth + cellPadding;
  const width = Math.round(Math.min(widest, Math.max(heading, most)));
  return {
    ...column,
    width,
    grows: most > widest ? 0.4 : 0,
    least: Math.max(heading, Math.round(width * tightestShare)),
  };
}

/** How wide the title is where columns beside it stay in sight: then it must not grow. */
const frozenTitle = 260;

/**
 * Where the cells of a row stay in sight while the ledger scrolls sideways: -2 is the tick, -1 the title, then the columns
 * in order. With nothing frozen nothing is.
 */
export function stickyFrom(
  columns: readonly LedgerColumn[],
  frozen: number,
): (at: number) => CSSProperties | undefined {
  if (frozen === 0) return () => undefined;
  return (at) => {
    if (at >= frozen) return undefined;
    const before = columns.slice(0, Math.max(0, at)).reduce((sum, column) => sum + column.width, 0);
    const left = at === -2 ? 0 : at === -1 ? tickWidth : tickWidth + frozenTitle + before;
    return { position: 'sticky', left, zIndex: 5 };
  };
}

/** The grid of a ledger row: tick, title, then the columns. */
export const tracksOf = (columns: readonly LedgerColumn[], frozen = 0): string => {
  const title = frozen > 0 ? `${frozenTitle}px` : `minmax(${narrowestTitle}px, 1fr)`;
  const rest = columns.map(({ width, grows, least = width }, at) => {
    if (at < frozen) return `${width}px`;
    return grows > 0 ? `minmax(${least}px, ${grows}fr)` : `minmax(${least}px, ${width}px)`;
  });
  return `${tickWidth}px ${title} ${rest.join(' ')} 8px`;
};

/** How wide the ledger is at least; where the room is narrower, it scrolls sideways. In pixels. */
export const leastWidth = (columns: readonly LedgerColumn[], frozen = 0): number =>
  columns.reduce(
    (sum, { width, least }, at) => sum + (at < frozen ? width : (least ?? width)),
    tickWidth + (frozen > 0 ? frozenTitle : narrowestTitle) + 8,
  );
