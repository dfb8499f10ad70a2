/** What one paper is owed, by the plainest way there is: every rule looked at for every paper. */
import { dayAt, dayNumber, isoDay } from '@/core/calendar/period';
import { keepingCalendar, keptBy } from '@/core/retention/keeping';
import { nextReview } from '@/core/reviews/cycle';
import type { ReviewCycle } from '@/core/reviews/model';
import type { Rule } from '@/core/rules/rules';
import type { ViewPaper, ViewPlace, ViewWorld } from '@/core/views/question';

export interface PlainlyOwed {
  readonly reviewOn: string | null;
  readonly reviewer: string | null;
  readonly keptUntil: string | null;
  readonly keptClass: string | null;
  readonly keptEnd: string | null;
}

export function plainlyOwed(
  { world }: { readonly world: ViewWorld },
  places: ReadonlyMap<string, ViewPlace>,
  paper: ViewPaper,
): PlainlyOwed {
  const { cycles, schedule, broader } = world.owing;
  const home = places.get(paper.homeId) as ViewPlace;
  const filed = dayAt(paper.filedAtMs, world.timeZone);
  const applies = ({ placeId, ofType }: Rule<unknown>): boolean => {
    if (!home.lineage.includes(placeId)) return false;
    if (ofType === null) return true;
    const value = paper.values[ofType.columnId];
    const terms = Array.isArray(value) ? [...(value as string[])] : [String(value)];
    // Every term brings the broader ones with it.
    for (const term of terms) {
      const wider = broader.get(term);
      if (wider !== undefined && !terms.includes(wider)) terms.push(wider);
    }
    return terms.includes(ofType.termId);
  };
  /** How far above the paper, and of one place those of a type first. */
  const distance = ({ placeId, ofType }: Rule<unknown>): number =>
    (home.lineage.length - home.lineage.indexOf(placeId)) * 2 + Number(ofType === null);
  const nearest = <R extends Rule<unknown>>(rules: readonly R[]): R[] =>
    rules.filter(applies).sort((a, b) => distance(a) - distance(b));

  const own = cycles.own.get(paper.id);
  const cycle: ReviewCycle | null =
    own === undefined ? (nearest([...cycles.rules.values()].flat())[0]?.says ?? null) : own;
  const review = cycle === null ? null : nextReview(cycle, filed, cycles.last.get(paper.id) ?? null);

  const closing =
    home.lineage.map((id) => places.get(id)).find((place) => place?.kind === 'dossier')?.closedAtMs ?? null;
  const facts = {
    filed,
    closed: closing === null ? null : dayAt(closing, world.timeZone),
    filingYear: home.filingYear,
    dayIn: (columnId: string) => {
      const value = paper.values[columnId];
      return typeof value === 'string' ? dayNumber(value) : null;
    },
  };
  const speaking = nearest([...schedule.values()].flat()).map(({ says }) =>
    keptBy(says, facts, keepingCalendar(world.yearStartMonth)),
  );
  const forGood = speaking.find(({ by }) => by.end === 'keep');
  const unknown = speaking.find(({ until }) => until === null);
  const last = speaking.reduce<(typeof speaking)[number] | undefined>(
    (best, each) => (best === undefined || (each.until ?? 0) > (best.until ?? 0) ? each : best),
    undefined,
  );
  const kept = forGood ?? unknown ?? last ?? null;
  const isHandedOver = speaking.some(({ by }) => by.end === 'handOver');
  return {
    reviewOn: review === null ? null : isoDay(review.due),
    reviewer: review === null ? null : (cycle?.responsibleId ?? null),
    keptUntil: kept === null || kept.until === null ? null : isoDay(kept.until),
    keptClass: kept?.by.id ?? null,
    keptEnd: kept === null ? null : kept !== forGood && isHandedOver ? 'handOver' : kept.by.end,
  };
}
