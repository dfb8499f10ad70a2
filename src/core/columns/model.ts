/** The types a column can have. `choice` and `choices` take their values from a controlled list. */
export const columnTypes = [
  'choice',
  'choices',
  'text',
  'longText',
  'number',
  'amount',
  'date',
  'yesNo',
  'person',
  'dossier',
  'document',
] as const;
export type ColumnType = (typeof columnTypes)[number];

/** The types in words. */
export const columnTypeWords: Record<ColumnType, string> = {
  choice: 'Choice',
  choices: 'Several choices',
  text: 'Short text',
  longText: 'Long text',
  number: 'Number',
  amount: 'Amount of money',
  date: 'Date',
  yesNo: 'Yes or no',
  person: 'Person',
  dossier: 'Dossier',
  document: 'Document',
};

/**
 * A stored value: an id for choice (of a term), person, dossier and document; ids in list order for choices; text; a
 * number (amounts in their currency's main unit, 12.5 for £12.50); an ISO 8601 day for a date; true or false for yes or
 * no. No value is null, never an empty text or list.
 */
export type Value = string | number | boolean | readonly string[];
/** Values by the id of their column. */
export type Values = Readonly<Record<string, Value>>;

/** What a column of dates says of its paper: from when it is valid, until when, or nothing of that. */
export const columnMeanings = ['none', 'validFrom', 'validUntil'] as const;
export type ColumnMeaning = (typeof columnMeanings)[number];

/** The meanings in words, as a choice. */
export const columnMeaningWords: Readonly<Record<ColumnMeaning, string>> = {
  none: 'nothing of its validity',
  validFrom: 'the paper is valid from that day',
  validUntil: 'the paper is valid until that day',
};

/** A column, defined at a place for it and everything below. */
export interface Column {
  readonly id: string;
  /** The place it is defined at; the library's root for a column of the whole library. */
  readonly placeId: string;
  readonly name: string;
  readonly help: string;
  readonly type: ColumnType;
  /** The controlled list of a choice or several choices; null for every other type. */
  readonly listId: string | null;
  /** For choices: people who may change papers may add to the list. */
  readonly open: boolean;
  /** Written after a number: `m`, `berths`. */
  readonly unit: string;
  /** Decimal digits of a number, 0 to 6; null: as many as are typed. */
  readonly decimals: number | null;
  /** ISO 4217 code of an amount; empty for other types. */
  readonly currency: string;
  readonly required: boolean;
  /** Of a column of dates; `none` for other types. */
  readonly meaning: ColumnMeaning;
  /** The default for newly filed papers; null for none. */
  readonly defaultValue: Value | null;
  readonly position: number;
  /** Hidden and not offered; its values are kept. */
  readonly retired: boolean;
  readonly revision: number;
}

/** One permitted value of a controlled list, with the other names that lead to it. */
export interface Term {
  readonly id: string;
  readonly listId: string;
  /** The broader term; null at the top. */
  readonly parentId: string | null;
  readonly name: string;
  readonly otherNames: readonly string[];
  readonly position: number;
  /** Kept on papers that have it, no longer offered. */
  readonly retired: boolean;
}

/** A controlled list with its terms in their order. */
export interface ControlledList {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly terms: readonly Term[];
}

/** The most values a paper may have in one column of several choices. */
export const maxChoices = 100;
/** The most characters of a short text. */
export const shortTextLength = 400;
/** The most characters of a long text. */
export const longTextLength = 20_000;

/** Types whose values are ids of people, dossiers or papers, named only to those who may know of them. */
export const isReferring = (type: ColumnType): boolean =>
  type === 'person' || type === 'dossier' || type === 'document';
/** Whether values of this type come from a controlled list. */
export const isListed = (type: ColumnType): boolean => type === 'choice' || type === 'choices';

/** The same value, order of choices included. */
export function sameValue(a: Value | null | undefined, b: Value | null | undefined): boolean {
  const [one, other] = [a ?? null, b ?? null];
  if (Array.isArray(one) && Array.isArray(other))
    return one.length === other.length && one.every((each, index) => each === other[index]);
  return one === other;
}

/**
 * Replaces a value that refers to something hidden from the reader: the nil UUID (RFC 9562, section 5.9).
 */
export const hiddenReference = '00000000-0000-0000-0000-000000000000';
