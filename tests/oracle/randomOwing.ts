/** Random rules of review and retention: a few, at any places, of all papers or of a type. */
import type { Chance } from '@/core/chance/chance';
import type { Column } from '@/core/columns/model';
import { isoDay } from '@/core/calendar/period';
import { grouped } from '@/core/collections/grouped';
import type { Owing } from '@/core/owed/owing';
import { keepingEnds, keepingStarts, type RetentionClass } from '@/core/retention/model';
import type { LastReview } from '@/core/reviews/cycle';
import type { ReviewCycle } from '@/core/reviews/model';
import type { OfType, Rule } from '@/core/rules/rules';
import type { ViewPlace } from '@/core/views/question';
import { id, kinds } from './awkward';

/** The names of the classes, by id. */
export const classNames = Array.from({ length: 5 }, (_, at) => [id(kinds.retention, at), `Class ${9 - at}`] as const);

interface Within {
  readonly columns: readonly Column[];
  readonly terms: readonly string[];
  readonly people: readonly string[];
  readonly places: readonly ViewPlace[];
  /** How many papers there will be. */
  readonly papers: number;
}

export function randomOwing(random: Chance, { columns, terms, people, places, papers }: Within): Owing {
  const chance = (share: number) => random.happens(share);
  const listed = columns.filter(({ type }) => type === 'choice' || type === 'choices');
  const dated = columns.filter(({ type }) => type === 'date');
  const ofType = (): OfType | null =>
    chance(0.6) ? { columnId: random.pick(listed).id, termId: random.pick(terms) } : null;
  const cycle = (): ReviewCycle => ({
    rhythm: chance(0.8)
      ? { everyMonths: random.whole(2, 30) }
      : { rule: random.pick(['FREQ=YEARLY;BYMONTH=4;BYDAY=1MO', 'FREQ=MONTHLY;INTERVAL=5;BYMONTHDAY=31']) },
    firstOn: chance(0.4) ? isoDay(20_000 + random.whole(0, 900)) : null,
    warnDays: random.whole(0, 50),
    responsibleId: chance(0.7) ? random.pick(people) : null,
  });
  const classes = classNames.map(([classId, name]): RetentionClass => {
    const start = random.pick(keepingStarts);
    const end = random.pick(keepingEnds);
    return {
      id: classId,
      name,
      authority: '',
      start,
      columnId: start === 'column' ? random.pick(dated).id : null,
      months: end === 'keep' ? null : random.whole(1, 40),
      end,
    };
  });
  let made = 0;
  // A place says one thing of each type.
  const rules = <T>(most: number, says: () => T): Rule<T>[] => {
    const some = Array.from({ length: random.whole(0, most) }, () => ({
      id: id(kinds.rule, (made += 1)),
      placeId: random.pick(places).id,
      ofType: ofType(),
      says: says(),
    }));
    const once = new Map(some.map((rule) => [`${rule.placeId} ${rule.ofType?.columnId} ${rule.ofType?.termId}`, rule]));
    // As they are read from where they are stored.
    return [...once.values()].sort((a, b) => (a.id < b.id ? -1 : 1));
  };
  const paperIds = Array.from({ length: papers }, (_, at) => id(kinds.paper, at + 1));
  const some = (share: number) => paperIds.filter(() => chance(share));
  return {
    cycles: {
      rules: grouped(rules(4, cycle), ({ placeId }) => placeId),
      own: new Map(some(0.1).map((paper) => [paper, chance(0.3) ? null : cycle()])),
      last: new Map(
        some(0.3).map((paper): [string, LastReview] => [
          paper,
          { day: 20_000 + random.whole(0, 900), ends: chance(0.1) },
        ]),
      ),
    },
    schedule: grouped(
      rules(6, () => random.pick(classes)),
      ({ placeId }) => placeId,
    ),
    broader: new Map(
      terms.flatMap((term, at) =>
        at > 0 && chance(0.4) ? [[term, terms[random.whole(0, at - 1)] as string] as const] : [],
      ),
    ),
  };
}
