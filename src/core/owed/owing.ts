import { z } from 'zod';
import { dayNumber } from '../calendar/period';
import { grouped } from '../collections/grouped';
import { keepingEnds, keepingStarts, type RetentionClass } from '../retention/model';
import type { Schedule } from '../retention/keepingFor';
import { noCycles, type Cycles } from '../reviews/cycleFor';
import { endsReviews, reviewOutcomes, type ReviewCycle } from '../reviews/model';
import type { Broader, OfType, Rule } from '../rules/rules';

/** All that says what papers are owed: when they are reviewed, and how long they are kept. */
export interface Owing {
  readonly cycles: Cycles;
  readonly schedule: Schedule;
  readonly broader: Broader;
}

/** Nothing is owed. */
export const owesNothing: Owing = { cycles: noCycles, schedule: new Map(), broader: new Map() };

const id = z.string();
const ofType = { columnId: id.nullable(), termId: id.nullable() };

/** The rules as they are stored; of reviews the last of each paper. */
export const storedOwing = z.object({
  reviewRules: z.array(
    z.object({
      ...ofType,
      id,
      placeId: id.nullable(),
      documentId: id.nullable(),
      never: z.boolean(),
      everyMonths: z.number().nullable(),
      rhythm: z.string().nullable(),
      firstOn: z.string().nullable(),
      warnDays: z.number(),
      responsibleId: id.nullable(),
    }),
  ),
  reviewed: z.array(z.tuple([id, z.string(), z.enum(reviewOutcomes)])),
  classes: z.array(
    z.object({
      id,
      name: z.string(),
      authority: z.string(),
      start: z.enum(keepingStarts),
      columnId: id.nullable(),
      months: z.number().nullable(),
      end: z.enum(keepingEnds),
    }),
  ),
  retentionRules: z.array(z.object({ ...ofType, id, placeId: id, classId: id })),
  broader: z.record(id, id),
});
export type StoredOwing = z.output<typeof storedOwing>;
type StoredCycle = StoredOwing['reviewRules'][number];

/** A stored rule's cycle. */
export const cycleOf = (
  rule: Omit<StoredCycle, 'id' | 'placeId' | 'documentId' | 'columnId' | 'termId' | 'never'>,
): ReviewCycle => ({
  rhythm: rule.rhythm === null ? { everyMonths: rule.everyMonths ?? 0 } : { rule: rule.rhythm },
  firstOn: rule.firstOn,
  warnDays: rule.warnDays,
  responsibleId: rule.responsibleId,
});

const typeOf = ({
  columnId,
  termId,
}: {
  readonly columnId: string | null;
  readonly termId: string | null;
}): OfType | null => (columnId === null || termId === null ? null : { columnId, termId });

/** The rules, ordered for looking them up. */
export function owingFrom(stored: StoredOwing): Owing {
  const onPlaces = stored.reviewRules.flatMap((rule): Rule<ReviewCycle>[] =>
    rule.placeId === null ? [] : [{ id: rule.id, placeId: rule.placeId, ofType: typeOf(rule), says: cycleOf(rule) }],
  );
  const classes = new Map<string, RetentionClass>(stored.classes.map((each) => [each.id, each]));
  const schedule = stored.retentionRules.flatMap((rule): Rule<RetentionClass>[] => {
    const says = classes.get(rule.classId);
    return says ? [{ id: rule.id, placeId: rule.placeId, ofType: typeOf(rule), says }] : [];
  });
  return {
    cycles: {
      rules: grouped(onPlaces, ({ placeId }) => placeId),
      own: new Map(
        stored.reviewRules.flatMap((rule) =>
          rule.documentId === null ? [] : [[rule.documentId, rule.never ? null : cycleOf(rule)] as const],
        ),
      ),
      last: new Map(
        stored.reviewed.map(([paperId, day, outcome]) => [
          paperId,
          { day: dayNumber(day) ?? 0, ends: endsReviews(outcome) },
        ]),
      ),
    },
    schedule: grouped(schedule, ({ placeId }) => placeId),
    broader: new Map(Object.entries(stored.broader)),
  };
}
