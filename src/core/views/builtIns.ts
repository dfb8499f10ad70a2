import type { PlacedPaper } from '../documents/contract';
import type { PaperRow } from '../documents/model';
import { dayInWords } from '../calendar/moment';
import { languageName } from '../text/language';
import { keepingEndWords } from '../retention/model';
import { paperSignatureWords } from '../documents/signature';
import type { Sense } from './sense';

/** A property that every paper has, as all that name, filter, sort, list and export it know it. */
export interface BuiltInProperty {
  readonly name: string;
  /** Decides its conditions and groupings. */
  readonly sense: Sense;
  /** Whether papers can be sorted by it. */
  readonly sorts: boolean;
  /** As a column of a list; null for what lists show otherwise, or not at all. */
  readonly listed: null | {
    /** Its cell in a file: plain numbers, days in words. */
    readonly exported: (paper: PlacedPaper, timeZone: string) => string;
    /** Its heading in a file, where numbers need their unit. */
    readonly exportedAs?: string;
  };
}

const text = (exported: (paper: PlacedPaper) => string) => ({ exported });
const day = (at: (paper: PlacedPaper) => string) => ({
  exported: (paper: PlacedPaper, timeZone: string) => dayInWords(at(paper), timeZone),
});

/** The properties that every paper has, in the order in which they are offered. */
export const builtInProperties = {
  title: { name: 'Title', sense: 'text', sorts: true, listed: null },
  kind: { name: 'Kind', sense: 'picked', sorts: true, listed: text((paper) => paper.stamp) },
  size: {
    name: 'Size',
    sense: 'number',
    sorts: true,
    listed: { exportedAs: 'Size in bytes', exported: (paper) => String(paper.sizeBytes) },
  },
  pages: { name: 'Pages', sense: 'number', sorts: true, listed: text((paper) => String(paper.pageCount ?? '')) },
  words: { name: 'Words', sense: 'number', sorts: true, listed: text((paper) => String(paper.wordCount ?? '')) },
  filedBy: { name: 'Filed by', sense: 'person', sorts: true, listed: text((paper) => paper.filedBy) },
  filedAt: { name: 'Filed', sense: 'moment', sorts: true, listed: day((paper) => paper.filedAt) },
  changedBy: { name: 'Changed by', sense: 'person', sorts: true, listed: text((paper) => paper.changedBy) },
  changedAt: { name: 'Changed', sense: 'moment', sorts: true, listed: day((paper) => paper.changedAt) },
  label: { name: 'Label', sense: 'picked', sorts: true, listed: null },
  place: { name: 'Place', sense: 'place', sorts: true, listed: text((paper) => paper.homeName) },
  year: { name: 'Filing year', sense: 'picked', sorts: true, listed: null },
  reviewOn: {
    name: 'Next review',
    sense: 'day',
    sorts: true,
    listed: text(({ owed }) => owed.review?.due ?? ''),
  },
  reviewer: {
    name: 'Reviewer',
    sense: 'person',
    sorts: true,
    listed: text(({ owed }) => owed.review?.responsible ?? ''),
  },
  keptUntil: {
    name: 'Retention end',
    sense: 'day',
    sorts: true,
    listed: text(({ owed }) => owed.keeping?.until ?? ''),
  },
  keptClass: {
    name: 'Retention class',
    sense: 'picked',
    sorts: true,
    listed: text(({ owed }) => owed.keeping?.className ?? ''),
  },
  keptEnd: {
    name: 'Disposal action',
    sense: 'picked',
    sorts: true,
    listed: text(({ owed }) => (owed.keeping ? keepingEndWords[owed.keeping.end] : '')),
  },
  signature: {
    name: 'Signature',
    sense: 'picked',
    sorts: true,
    listed: text(({ signature }) => (signature === null ? '' : paperSignatureWords[signature])),
  },
  own: { name: 'Mine', sense: 'own', sorts: false, listed: null },
  openTo: { name: 'Open to', sense: 'openTo', sorts: false, listed: null },
  find: { name: 'Looked for', sense: 'find', sorts: false, listed: null },
} as const satisfies Readonly<Record<string, BuiltInProperty>>;

/** The key of a property that every paper has. */
export type BuiltIn = keyof typeof builtInProperties;

/** The keys of the properties that every paper has, in their order. */
export const builtIns = Object.keys(builtInProperties) as [BuiltIn, ...BuiltIn[]];

/** Whether a property is one that every paper has, and not a column. */
export const isBuiltIn = (of: string): of is BuiltIn => Object.hasOwn(builtInProperties, of);

/** One of them by its key. */
export const builtIn = (of: BuiltIn): BuiltInProperty => builtInProperties[of];

/** Those that follow from rules, which only the tally works out for all papers. */
export const owedProperties: readonly string[] = [
  'reviewOn',
  'reviewer',
  'keptUntil',
  'keptClass',
  'keptEnd',
] satisfies BuiltIn[];

/** Those that lists have a column for. */
export type ListedProperty = {
  [K in BuiltIn]: (typeof builtInProperties)[K]['listed'] extends null ? never : K;
}[BuiltIn];

/** What reading found in a paper, as a column of lists: without conditions and without an order. */
export const insideProperties = {
  summary: { name: 'Summary', exported: (paper) => paper.inside.summary },
  keyWords: { name: 'Key words', exported: (paper) => paper.inside.keyWords.join(', ') },
  language: {
    name: 'Language',
    exported: ({ inside }) => (inside.language === null ? '' : languageName(inside.language)),
  },
} as const satisfies Readonly<Record<string, { name: string; exported: (paper: PaperRow) => string }>>;

/** The key of a column of what was found in papers. */
export type InsideProperty = keyof typeof insideProperties;

/** Whether a column shows what was found in papers. */
export const isInside = (of: string): of is InsideProperty => Object.hasOwn(insideProperties, of);
