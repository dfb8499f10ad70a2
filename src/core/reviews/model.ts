/** When reviews come round: every so many months, or by a recurrence rule of RFC 5545 without its beginning. */
export type Rhythm = { readonly everyMonths: number } | { readonly rule: string };

/** How often papers are reviewed, and who answers for it. */
export interface ReviewCycle {
  readonly rhythm: Rhythm;
  /**
   * The day of the first review, from which the others are counted (ISO 8601); null: counted from when the paper was last
   * reviewed, or was filed.
   */
  readonly firstOn: string | null;
  /** So many days before, the review is announced. */
  readonly warnDays: number;
  /** Who reviews; null: the keepers. */
  readonly responsibleId: string | null;
}

/** The longest cycle: twenty years. */
export const mostMonths = 240;
/** The most days for which a review is announced. */
export const mostWarnDays = 366;
/** What a review came to. */
export const reviewOutcomes = ['kept', 'changed', 'replaced', 'notNeeded'] as const;
export type ReviewOutcome = (typeof reviewOutcomes)[number];

/** The outcomes in words. */
export const reviewOutcomeWords: Readonly<Record<ReviewOutcome, string>> = {
  kept: 'Kept as it is',
  changed: 'Changed',
  replaced: 'Replaced by another paper',
  notNeeded: 'No longer needed',
};

/** Whether the paper is reviewed no more after it. */
export const endsReviews = (outcome: ReviewOutcome): boolean => outcome === 'replaced' || outcome === 'notNeeded';
