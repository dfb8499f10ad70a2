import type { Column, Values } from '../columns/model';
import type { PlaceKind } from '../tree/placeKind';
import type { AskedFor, Conditions } from './conditions';
import type { DayNumber } from '../calendar/period';
import type { Owing } from '../owed/owing';
import type { OwnWay } from './own';
import type { Grouping, Sort } from './spec';

/** A paper in the form views take. Times are milliseconds since 1970. */
export interface ViewPaper {
  readonly id: string;
  readonly homeId: string;
  /** Its own scope; null if its access is that of its home and openings. */
  readonly scopeId: string | null;
  /** Cross-filings; an opening gives access to the place's readers, unless the paper has a scope of its own. */
  readonly filings: readonly ViewFiling[];
  readonly title: string;
  readonly kind: string;
  readonly sizeBytes: number;
  readonly pageCount: number | null;
  readonly wordCount: number | null;
  readonly filedBy: string;
  readonly filedAtMs: number;
  readonly changedBy: string;
  readonly changedAtMs: number;
  /** What came of signatures on its current version; null for none. */
  readonly signature: string | null;
  /** Its position in the order set by hand; null if none was set. */
  readonly order: number | null;
  readonly values: Values;
  readonly labels: readonly string[];
  /** The name of its current version's file. */
  readonly fileName: string;
  /** What people noted about it; '' for nothing. */
  readonly remark: string;
  /** Its texts that are indexed. */
  readonly texts: readonly ViewText[];
}

/** A text of a paper as the index knows it. */
export interface ViewText {
  readonly number: number;
  /** In words. */
  readonly length: number;
  /** In which its words were stemmed (ISO 639-1). */
  readonly language: string | null;
  /** Its own text, an attachment's, or an earlier version's. */
  readonly as: 'own' | 'attached' | 'older';
}

/** A place in which a paper is filed as well, as far as the caller may be told. */
export interface ViewFiling {
  readonly placeId: string;
  readonly opening: boolean;
}

/** A place in the form views take; `lineage` runs from the library to the place itself. */
export interface ViewPlace {
  readonly id: string;
  readonly lineage: readonly string[];
  readonly kind: PlaceKind;
  readonly name: string;
  readonly reference: string | null;
  readonly position: number;
  readonly scopeId: string | null;
  /** The first calendar year of its filing year. */
  readonly filingYear: number | null;
  /** The planned folder it was made for; null if a person made it. */
  readonly plannedKey: string | null;
  /** When it was closed; null while it is open. */
  readonly closedAtMs: number | null;
}

/** Columns, names and settings. */
export interface ViewWorld {
  readonly columns: readonly Column[];
  /** Names of people, terms and labels by id, and each term's position on its list. */
  readonly names: ReadonlyMap<string, string>;
  /** Other names of terms, by id. */
  readonly otherNames: ReadonlyMap<string, readonly string[]>;
  readonly termOrder: ReadonlyMap<string, number>;
  readonly timeZone: string;
  readonly yearStartMonth: number;
  /** What papers are owed, and by which rules. */
  readonly owing: Owing;
}

/** The caller, and the time of asking. */
export interface Asker {
  readonly personId: string;
  /** Sees all places. */
  readonly keeper: boolean;
  /** The scopes in which they may see. */
  readonly scopes: ReadonlySet<string>;
  /** Scopes of papers that are open only through a cross-filing: the papers' homes are not told. */
  readonly byOpening: ReadonlySet<string>;
  /** Everyone who shares a group with them, including themselves. */
  readonly groupMates: ReadonlySet<string>;
  /** Labels they may know of. */
  readonly labels: ReadonlySet<string>;
  readonly today: DayNumber;
  /** The time of their last visit to the place; null on the first. */
  readonly lookedAtMs: number | null;
  /** The scopes that they manage, for whose papers they are told who else may see them. */
  readonly managed: ReadonlySet<string>;
  /** By person, the scopes in which they may see; filled only for questions that need it. */
  readonly openTo: ReadonlyMap<string, ReadonlySet<string>>;
  /** Papers that are the caller's own, by way; filled only for questions that need it. */
  readonly own: ReadonlyMap<OwnWay, ReadonlySet<string>>;
  /** Papers whose long text meets a condition, by `longTextKey`; filled only for questions that need it. */
  readonly found: ReadonlyMap<string, ReadonlySet<string>>;
  /** Places where they have been lately. */
  readonly frequented: ReadonlySet<string>;
}

/** The key of a condition on a long text. */
export const longTextKey = (of: string, text: 'contains' | 'starts', words: string): string =>
  JSON.stringify([of, text, words]);

/** What a view asks of the tally. */
export interface Question {
  readonly placeId: string;
  readonly below: boolean;
  readonly conditions: Conditions;
  readonly groupings: readonly Grouping[];
  readonly sorts: readonly Sort[];
  /** Properties whose values to count, each under all conditions except those on itself. */
  readonly counts: readonly string[];
  /** Columns of numbers, amounts and dates whose sum, mean, minimum and maximum to compute. */
  readonly measures: readonly string[];
  /** The range of lines, over all groups in order. */
  readonly start: number;
  readonly limit: number;
}

/** Statistics of one column over some papers; days are `DayNumber`s and have no sum. */
export interface Measure {
  readonly filled: number;
  readonly sum: number;
  readonly least: number | null;
  readonly most: number | null;
}

/** Counts over a set of papers. */
export interface Totals {
  readonly papers: number;
  readonly pages: number;
  readonly bytes: number;
  /** In the order of the question's `measures`. */
  readonly measures: readonly Measure[];
}

/** `none`: papers without a value; `hidden`: values hidden from the caller; `rest`: further values, not listed. */
export const groupKinds = ['value', 'none', 'hidden', 'rest'] as const;
export type GroupKind = (typeof groupKinds)[number];

/** A group with its subgroups; those of the last level contain papers. */
export interface Group {
  readonly kind: GroupKind;
  readonly key: AskedFor;
  readonly totals: Totals;
  readonly groups: readonly Group[];
  /** Lines of papers in it, which are more than its papers if some are in several subgroups. */
  readonly lines: number;
  /** The number of values in a `rest`; 1 for other kinds. */
  readonly values: number;
}

/** Counts of a property's values. */
export type PropertyCounts =
  | {
      readonly kind: 'values';
      /** Most papers first, at most `mostListed` of them. */
      readonly values: readonly { readonly value: AskedFor; readonly papers: number }[];
      /** How many further values there are. */
      readonly more: number;
    }
  | {
      readonly kind: 'range';
      readonly least: number | null;
      readonly most: number | null;
      readonly none: number;
      readonly filled: number;
    }
  | {
      readonly kind: 'months';
      /** Newest first. */
      readonly months: readonly { readonly value: string; readonly papers: number }[];
      readonly none: number;
    };
/** How many lines of a view are asked for at first: a screenful and a little more. */
export const firstLines = 60;
/** The most values counted for one condition. */
export const mostListed = 500;
/** The most groups listed per level, for one, two or three levels; the others form one `rest`. */
export const mostGroups: readonly (readonly number[])[] = [[], [1000], [200, 50], [60, 20, 12]];

/** A word that is in few of the papers that the caller may see, or in none, and a near one that is in many. */
export interface Meant {
  readonly typed: string;
  /** The near word, as it is folded or stemmed. */
  readonly word: string;
  /** A paper that the caller may see and in whose text a word with that stem stands; null for a word that is whole. */
  readonly standsIn: string | null;
}

/** What the tally answers. */
export interface Answer {
  readonly totals: Totals;
  readonly groups: readonly Group[];
  /** The number of lines. */
  readonly lines: number;
  /** The ids of the lines asked for. */
  readonly ids: readonly string[];
  readonly counts: Readonly<Record<string, PropertyCounts>>;
  /** What may have been meant by words that are in few papers or none; empty where nothing is near. */
  readonly meant: readonly Meant[];
}
