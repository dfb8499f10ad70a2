import type { Column, Values } from '../columns/model';
import type { PlaceKind } from '../tree/placeKind';
import type { AskedFor, Conditions } from './conditions';
import type { DayNumber } from '../calendar/period';
import type { Grouping, Sort } from './spec';

/** A paper as views take it. Instants are milliseconds since 1970. */
export interface ViewPaper {
  readonly id: string;
  readonly homeId: string;
  /** Its own scope, where it has one; null where it is open to whom its home and its openings are. */
  readonly scopeId: string | null;
  /** Other places that list it; an opening lets the place's readers in, unless the paper has a scope of its own. */
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
  /** Its place in the order that people dragged its folder into; null where nobody did. */
  readonly order: number | null;
  readonly values: Values;
  readonly labels: readonly string[];
}

export interface ViewFiling {
  readonly placeId: string;
  readonly opening: boolean;
}

/** A place as views take it; `lineage` runs from the library down to itself. */
export interface ViewPlace {
  readonly id: string;
  readonly lineage: readonly string[];
  readonly kind: PlaceKind;
  readonly name: string;
  readonly position: number;
  readonly scopeId: string | null;
  /** The first calendar year of the filing year that it stands in. */
  readonly filingYear: number | null;
  /** What of its series' plan it was made as; null where a person made it. */
  readonly plannedKey: string | null;
}

/** What the library knows besides papers and places. */
export interface ViewWorld {
  readonly columns: readonly Column[];
  /** Names of people, terms and labels by id, and where each term stands on its list. */
  readonly names: ReadonlyMap<string, string>;
  readonly termOrder: ReadonlyMap<string, number>;
  readonly timeZone: string;
  readonly yearStartMonth: number;
}

/** Who asks, and when. */
export interface Asker {
  readonly personId: string;
  /** Sees all places. */
  readonly keeper: boolean;
  /** The scopes in which they may see. */
  readonly scopes: ReadonlySet<string>;
  /** Those of them, all of papers, that are open only by a cross-filing's place: nothing is told of the papers' homes. */
  readonly byOpening: ReadonlySet<string>;
  /** Everyone in a group with them, themselves among them. */
  readonly groupMates: ReadonlySet<string>;
  /** Labels that exist for them. */
  readonly labels: ReadonlySet<string>;
  readonly today: DayNumber;
  /** The instant of their last look at the place; null where this is the first. */
  readonly lookedAtMs: number | null;
  /** The scopes that they manage: of the papers in these they are told who else may see them. */
  readonly managed: ReadonlySet<string>;
  /** For each person, the scopes in which that person may see; only filled where a question is about it. */
  readonly openTo: ReadonlyMap<string, ReadonlySet<string>>;
  /** Papers whose long text answers a condition, by `longTextKey`; filled where a question asks it. */
  readonly found: ReadonlyMap<string, ReadonlySet<string>>;
}

/** Names one question about a long text. */
export const longTextKey = (of: string, text: 'contains' | 'starts', words: string): string =>
  JSON.stringify([of, text, words]);

export interface Question {
  readonly placeId: string;
  readonly below: boolean;
  readonly conditions: Conditions;
  readonly groupings: readonly Grouping[];
  readonly sorts: readonly Sort[];
  /** Properties whose values are to be counted, each under all conditions but those on itself. */
  readonly counts: readonly string[];
  /** Columns of numbers, amounts and dates whose sum, mean, least and most are wanted. */
  readonly measures: readonly string[];
  /** Which of the lines of papers, over all groups in order, are wanted. */
  readonly start: number;
  readonly limit: number;
}

/** What some papers come to in one column; days are `DayNumber`s and have no sum. */
export interface Measure {
  readonly filled: number;
  readonly sum: number;
  readonly least: number | null;
  readonly most: number | null;
}

export interface Totals {
  readonly papers: number;
  readonly pages: number;
  readonly bytes: number;
  /** In the order of the question's `measures`. */
  readonly measures: readonly Measure[];
}

/** `none`: papers without a value; `hidden`: what is not open to the asker; `rest`: the values too many to list. */
export const groupKinds = ['value', 'none', 'hidden', 'rest'] as const;
export type GroupKind = (typeof groupKinds)[number];

/** A group with its groups; those of the last level hold papers, in all `lines` of them. */
export interface Group {
  readonly kind: GroupKind;
  readonly key: AskedFor;
  readonly totals: Totals;
  readonly groups: readonly Group[];
  /** Lines of papers in it and its groups: more than its papers where some stand in several groups. */
  readonly lines: number;
  /** How many values a `rest` gathers; 1 for every other kind. */
  readonly values: number;
}

/** What the values of one property come to. */
export type PropertyCounts =
  | {
      readonly kind: 'values';
      /** Most papers first, at most `mostListed` of them. */
      readonly values: readonly { readonly value: AskedFor; readonly papers: number }[];
      /** How many values more there are. */
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
export const mostListed = 500;
/** How many groups each level lists where there are one, two or three levels; the rest is gathered in one. */
export const mostGroups: readonly (readonly number[])[] = [[], [1000], [200, 50], [60, 20, 12]];

export interface Answer {
  readonly totals: Totals;
  readonly groups: readonly Group[];
  /** Lines of papers in all. */
  readonly lines: number;
  /** Ids of the lines asked for. */
  readonly ids: readonly string[];
  readonly counts: Readonly<Record<string, PropertyCounts>>;
}
