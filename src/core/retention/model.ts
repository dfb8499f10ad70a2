/** From when the time of a class is counted. */
export const keepingStarts = ['filed', 'column', 'closed', 'yearEnd'] as const;
export type KeepingStart = (typeof keepingStarts)[number];

/** The starts in words, as a choice. */
export const keepingStartWords: Readonly<Record<KeepingStart, string>> = {
  filed: 'from the day it was filed',
  column: 'from a date of the paper',
  closed: 'from the closing of its dossier',
  yearEnd: 'from the end of its filing year',
};

/** What becomes of papers when their time is over. */
export const keepingEnds = ['destroy', 'look', 'keep', 'handOver'] as const;
export type KeepingEnd = (typeof keepingEnds)[number];

/** Whether something is one of them. */
export const isKeepingEnd = (end: unknown): end is KeepingEnd => (keepingEnds as readonly unknown[]).includes(end);

/** The ends in words. */
export const keepingEndWords: Readonly<Record<KeepingEnd, string>> = {
  destroy: 'destroy',
  look: 'look again',
  keep: 'keep for good',
  handOver: 'hand over to an archive',
};

/** A retention class: how long papers are kept, by what authority, and what then. */
export interface RetentionClass {
  readonly id: string;
  readonly name: string;
  /** The law, rule or decision that says so, in words. */
  readonly authority: string;
  readonly start: KeepingStart;
  /** The column of dates from which it is counted; null for other starts. */
  readonly columnId: string | null;
  /** How many months; null only for what is kept for good. */
  readonly months: number | null;
  readonly end: KeepingEnd;
}

/** The longest time: a hundred and fifty years. */
export const mostKeptMonths = 1800;
