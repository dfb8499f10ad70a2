import { and, eq, or, sql } from 'drizzle-orm';
import { dayNumber, isoDay } from '@/core/calendar/period';
import { Refusal } from '@/core/errors/refusal';
import type { AwaitedReview } from '@/core/reviews/contract';
import { mostWarnDays } from '@/core/reviews/model';
import { writeWholeDays } from '@/core/calendar/wholeDays';
import type { Condition } from '@/core/views/conditions';
import { asks } from '../acts/operation';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { document, place, reviewRule } from '../db/schema';
import type { Actor } from '../gate/actor';
import { ownOf, paperAllows } from '../gate/visible';
import { standName } from '../known/standing';
import { owedOf } from '../owed/papers';
import { papersOfSlice } from '../views/open';

/** So many reviews are listed for one person. */
const mostListed = 200;

/** Whose reviews are looked for: the caller's own, or for a keeper those that nobody answers for. */
const whoses = (actor: Actor): readonly Condition[] => [
  { of: 'reviewer', who: ['me'] },
  ...(actor.keeper ? [{ of: 'reviewer', filled: false } as const] : []),
];

/** What waits for the caller, soonest first: what is due or past, and what is announced. */
export const reviewsOfMine = asks('reviews.mine', async (actor): Promise<readonly AwaitedReview[]> => {
  const all = await reviewsToCome(actor, { next: mostWarnDays, unit: 'day' });
  return all.filter(({ due, warnDays, today }) => (dayNumber(due) ?? 0) - warnDays <= (dayNumber(today) ?? 0));
});

/** The caller's reviews up to some days ahead. Nothing while the tally is being filled. */
async function reviewsToCome(
  actor: Actor,
  ahead: { readonly next: number; readonly unit: 'day' | 'year' },
): Promise<AwaitedReview[]> {
  const [root] = await db().select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  if (!root || ownOf(actor) === null) return [];
  const soon = {
    how: 'any',
    parts: [
      { of: 'reviewOn', span: { is: 'before-today' } },
      { of: 'reviewOn', span: ahead },
    ],
  } as const;
  const ids: string[] = [];
  for (const whose of whoses(actor)) {
    const slice = { placeId: root.id, below: true, filter: '', conditions: [whose, soon] };
    const found = await papersOfSlice(
      actor,
      { ...slice, sorts: [{ of: 'reviewOn', direction: 'up' }] },
      mostListed,
    ).catch((error: unknown) => {
      // The tally is being filled, or nothing is open to the caller.
      if (error instanceof Refusal) return { ids: [] };
      throw error;
    });
    ids.push(...found.ids);
  }
  return awaited(actor, ids);
}

/** Reviews of some papers, as far as the caller may see them. */
async function awaited(actor: Actor, ids: readonly string[]): Promise<AwaitedReview[]> {
  if (ids.length === 0) return [];
  const [{ today, owes }, rows] = await Promise.all([
    owedOf(db(), ids),
    db()
      .select({ id: document.id, title: document.title, placeName: standName(actor) })
      .from(document)
      .innerJoin(place, eq(place.id, document.homeId))
      .where(and(idIn(document.id, ids), paperAllows(actor, 'see'))),
  ]);
  return rows
    .flatMap(({ id, title, placeName }): AwaitedReview[] => {
      const { cycle, review } = owes.get(id) ?? {};
      if (!cycle || !review) return [];
      const { warnDays, responsibleId } = cycle.cycle;
      const isNobodys = responsibleId === null;
      return [{ documentId: id, title, placeName, due: isoDay(review.due), warnDays, today: isoDay(today), isNobodys }];
    })
    .sort((a, b) => (a.due < b.due ? -1 : a.due > b.due ? 1 : 0));
}

/** The caller's reviews of the coming years as an iCalendar file. */
export async function calendarOfReviews(actor: Actor): Promise<string> {
  const reviews = await reviewsToCome(actor, { next: 5, unit: 'year' });
  const days = reviews.map(({ documentId, title, placeName, due, warnDays }) => ({
    // The next review of the paper is an event of its own.
    id: `${documentId}-${due}`,
    day: due,
    title: `Review: ${title}`,
    where: placeName,
    address: `${config().EMBRIN_URL}/paper/${documentId}`,
    revision: 0,
    warnDays,
  }));
  return writeWholeDays('Reviews', 'Reviews', days, now());
}

/** A review that is announced, due or past, of whoever answers for it. Days are ISO 8601. */
export interface AnnouncedReview {
  readonly documentId: string;
  /** Null: the keepers. */
  readonly responsibleId: string | null;
  readonly announcedOn: string;
}

/**
 * Everybody's reviews that are announced, due or past, for the summaries by mail. By SQL alone, as the worker has no tally:
 * every paper of a place with a rule is looked at.
 */
export async function announcedReviews(): Promise<readonly AnnouncedReview[]> {
  const rows = await db()
    .select({ id: document.id })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        sql`${document.disposedAt} is null`,
        or(
          sql`${place.lineage} && array(select ${reviewRule.placeId} from ${reviewRule} where ${reviewRule.placeId} is not null)`,
          sql`${document.id} in (select ${reviewRule.documentId} from ${reviewRule})`,
        ),
      ),
    );
  const announced: AnnouncedReview[] = [];
  const atATime = 5000;
  for (let from = 0; from < rows.length; from += atATime) {
    const { today, owes } = await owedOf(
      db(),
      rows.slice(from, from + atATime).map(({ id }) => id),
    );
    for (const [documentId, { cycle, review }] of owes) {
      if (cycle === null || review === null) continue;
      const on = review.due - cycle.cycle.warnDays;
      if (on <= today)
        announced.push({ documentId, responsibleId: cycle.cycle.responsibleId, announcedOn: isoDay(on) });
    }
  }
  return announced;
}

/** Those among announced reviews that wait for somebody, as far as they may see the papers, soonest first. */
export async function reviewsFor(
  actor: Actor,
  announced: readonly AnnouncedReview[],
): Promise<readonly (AwaitedReview & Pick<AnnouncedReview, 'announcedOn'>)[]> {
  const theirs = announced.filter(
    ({ responsibleId }) => responsibleId === actor.personId || (responsibleId === null && actor.keeper),
  );
  const onDay = new Map(theirs.map(({ documentId, announcedOn }) => [documentId, announcedOn]));
  const reviews = await awaited(actor, [...onDay.keys()]);
  return reviews.map((review) => ({ ...review, announcedOn: onDay.get(review.documentId) ?? review.due }));
}
