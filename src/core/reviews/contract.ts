import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { ofTypeSchema } from '../rules/schema';
import { mostMonths, mostWarnDays, reviewOutcomes, type ReviewCycle, type ReviewOutcome } from './model';

const id = z.uuid();
const revision = z.number().int().nonnegative();

const cycleSchema: z.ZodType<ReviewCycle, ReviewCycle> = z.object({
  rhythm: z.union([
    z.strictObject({
      everyMonths: z.number().int().min(1, 'At least one month.').max(mostMonths, 'At most 20 years.'),
    }),
    z.strictObject({ rule: z.string().trim().max(200) }),
  ]),
  firstOn: z.iso.date('That is no day: 2026-07-14 is the form.').nullable(),
  warnDays: z.number().int().min(0).max(mostWarnDays, 'A review is announced for at most 366 days.'),
  responsibleId: id.nullable(),
});

/** A rule as lists show it. */
export interface ReviewRuleRow {
  readonly id: string;
  readonly placeId: string;
  readonly placeName: string;
  /** Which papers: null for all. */
  readonly ofType: { readonly columnId: string; readonly termId: string; readonly name: string } | null;
  readonly cycle: ReviewCycle;
  /** Who reviews; '' for the keepers. */
  readonly responsible: string;
  readonly revision: number;
  readonly mayChange: boolean;
}

/** A review that was done. Days are ISO 8601. */
export interface DoneReview {
  readonly id: string;
  readonly day: string;
  readonly by: string;
  readonly outcome: ReviewOutcome;
  readonly note: string;
  readonly versionNumber: number;
  /** The paper that replaces it, if it is there and open to the caller. */
  readonly replacedBy: { readonly id: string; readonly title: string } | null;
  readonly mayTakeBack: boolean;
}

/** All about the reviews of one paper. */
export interface PaperReview {
  /** Null: it is not reviewed. */
  readonly cycle: ReviewCycle | null;
  /** `own`: said of this paper alone; `never`: said of it that it is not reviewed; `given`: by a place. */
  readonly from: 'own' | 'never' | 'given' | null;
  /** Which place gives the cycle, and to papers of which type; null where none does or it may not be told. */
  readonly givenBy: { readonly placeName: string; readonly typeName: string | null } | null;
  /** Null: none is to come. */
  readonly next: { readonly due: string; readonly since: string } | null;
  readonly today: string;
  readonly responsible: string;
  /** Of what is said of this paper alone; null where nothing is. */
  readonly revision: number | null;
  readonly done: readonly DoneReview[];
  readonly mayReview: boolean;
  readonly maySet: boolean;
}

/** A review that waits for the caller. */
export interface AwaitedReview {
  readonly documentId: string;
  readonly title: string;
  readonly placeName: string;
  readonly due: string;
  readonly warnDays: number;
  readonly today: string;
  /** Nobody is named for it, and the caller is a keeper. */
  readonly isNobodys: boolean;
}

/** Questions and acts about reviews. */
export const reviewsContract = {
  /** The rules that speak of papers in a place: its own, and those of places above that the caller may know of. */
  'reviews.rules': ask<readonly ReviewRuleRow[]>()(z.object({ placeId: id })),
  'reviews.setRule': act()(
    z.object({ placeId: id, ruleId: id.nullable(), ofType: ofTypeSchema.nullable(), cycle: cycleSchema, revision }),
  ),
  'reviews.removeRule': act()(z.object({ ruleId: id, revision })),
  'review.of': ask<PaperReview>()(z.object({ documentId: id })),
  /** `cycle`: of this paper alone; `never`: it is not reviewed; null: what its places say. `revision`: null where nothing was said of it alone. */
  'review.setOwn': act()(
    z.object({
      documentId: id,
      cycle: z.union([cycleSchema, z.literal('never')]).nullable(),
      revision: revision.nullable(),
    }),
  ),
  /** `versionNumber`: the version that was looked at. */
  'review.done': act<{ reviewId: string }>()(
    z.object({
      documentId: id,
      versionNumber: z.number().int().min(1),
      outcome: z.enum(reviewOutcomes),
      note: z.string().trim().max(2000, 'A note of at most 2,000 characters fits.'),
      replacedById: id.nullable(),
    }),
  ),
  'review.takeBack': act()(z.object({ reviewId: id })),
  /** What waits for the caller: due, past, or announced. */
  'reviews.mine': ask<readonly AwaitedReview[]>()(z.object({})),
};
