import { and, desc, eq } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { isoDay } from '@/core/calendar/period';
import { refuse } from '@/core/errors/refusal';
import type { DoneReview, PaperReview } from '@/core/reviews/contract';
import { reviewOutcomeWords } from '@/core/reviews/model';
import { acts, asks } from '../acts/operation';
import { now } from '../base/clock';
import { db, type Reader } from '../db/client';
import { document, person, place, review, reviewRule, version } from '../db/schema';
import type { Actor } from '../gate/actor';
import { capabilitiesOn, papersFor } from '../gate/held';
import { placeIsKnown } from '../gate/visible';
import { namesOf } from '../known/names';
import { owedOf } from '../owed/papers';
import { namesOfTypes } from '../rules/ofType';
import { checkedCycle, howInWords, storedCycle } from './rules';

/** What is owed to one paper in reviews. */
async function owedTo(reader: Reader, documentId: string) {
  const { today, owes } = await owedOf(reader, [documentId]);
  const { cycle = null, review: next = null } = owes.get(documentId) ?? {};
  return { today, cycle, next };
}

/** Whoever answers for a paper's reviews, and whoever may change it, reviews it: also in closed and locked places. */
async function mayReview(
  reader: Reader,
  actor: Actor,
  documentId: string,
  responsibleId: string | null,
): Promise<boolean> {
  return responsibleId === actor.personId || has(await capabilitiesOn(reader, actor, documentId), 'amend');
}

/** All about the reviews of one paper. */
export const reviewOf = asks('review.of', async (actor, { documentId }): Promise<PaperReview> => {
  const [paper] = await papersFor(db(), actor, [documentId], 'see');
  if (!paper) refuse('not-found');
  const [{ today, cycle, next }, [own], done] = await Promise.all([
    owedTo(db(), documentId),
    db()
      .select({ never: reviewRule.never, revision: reviewRule.revision })
      .from(reviewRule)
      .where(eq(reviewRule.documentId, documentId)),
    doneReviews(actor, documentId),
  ]);
  const responsibleId = cycle?.cycle.responsibleId ?? null;
  const { [responsibleId ?? '']: responsible = '' } = await namesOf(db(), actor, {
    person: responsibleId === null ? [] : [responsibleId],
  });
  const maySet = has(await capabilitiesOn(db(), actor, documentId), 'amend');
  const said = own === undefined ? null : own.never ? ('never' as const) : ('own' as const);
  return {
    cycle: cycle?.cycle ?? null,
    from: said ?? (cycle === null ? null : 'given'),
    givenBy: cycle?.rule ? await givenBy(actor, cycle.rule) : null,
    next: next === null ? null : { due: isoDay(next.due), since: isoDay(next.since) },
    today: isoDay(today),
    responsible,
    revision: own?.revision ?? null,
    done,
    mayReview:
      actor.seenBy === null || actor.seenBy === undefined
        ? await mayReview(db(), actor, documentId, responsibleId)
        : false,
    maySet,
  };
});

async function givenBy(
  actor: Actor,
  {
    placeId,
    ofType,
  }: { readonly placeId: string; readonly ofType: { readonly columnId: string; readonly termId: string } | null },
): Promise<PaperReview['givenBy']> {
  const [found] = await db()
    .select({ name: place.name })
    .from(place)
    .where(and(eq(place.id, placeId), placeIsKnown(actor)));
  if (!found) return null;
  const typeName = ofType === null ? null : ((await namesOfTypes(db(), [ofType])).get(ofType.termId) ?? null);
  return { placeName: found.name, typeName };
}

async function doneReviews(actor: Actor, documentId: string): Promise<DoneReview[]> {
  const rows = await db()
    .select({
      id: review.id,
      day: review.day,
      by: person.name,
      doneBy: review.doneBy,
      outcome: review.outcome,
      note: review.note,
      versionNumber: version.number,
      replacedById: review.replacedById,
    })
    .from(review)
    .innerJoin(person, eq(person.id, review.doneBy))
    .innerJoin(version, eq(version.id, review.versionId))
    .where(eq(review.documentId, documentId))
    .orderBy(desc(review.day), desc(review.doneAt));
  const titles = await namesOf(db(), actor, { document: rows.flatMap(({ replacedById }) => replacedById ?? []) });
  const manages = has(await capabilitiesOn(db(), actor, documentId), 'manage');
  return rows.map(({ replacedById, doneBy, ...row }, at) => ({
    ...row,
    replacedBy:
      replacedById !== null && titles[replacedById] !== undefined
        ? { id: replacedById, title: titles[replacedById] }
        : null,
    mayTakeBack: at === 0 && (manages || doneBy === actor.personId),
  }));
}

/** Says of one paper how often it is reviewed, that it is not, or that what its places say counts. */
export const setOwnCycle = acts('review.setOwn', [], async (tx, actor, { documentId, cycle, revision }) => {
  const [paper] = await papersFor(tx, actor, [documentId], 'amend', 'evenClosed');
  if (!paper) refuse('not-found');
  const [own] = await tx
    .select({ id: reviewRule.id, revision: reviewRule.revision })
    .from(reviewRule)
    .where(eq(reviewRule.documentId, documentId));
  if ((own?.revision ?? null) !== revision) refuse('conflict');
  if (own) await tx.delete(reviewRule).where(eq(reviewRule.id, own.id));
  if (cycle !== null)
    await tx.insert(reviewRule).values({
      documentId,
      revision: (revision ?? -1) + 1,
      ...(cycle === 'never' ? { never: true } : storedCycle(await checkedCycle(tx, cycle))),
    });
  const how = cycle === null ? 'as its places say' : cycle === 'never' ? 'it is not reviewed' : howInWords(cycle);
  return {
    entry: { act: 'review.ownSet', subjects: [documentId], detail: { title: paper.title, how } },
    result: null,
  };
});

/** Notes a review of the version that was looked at. */
export const doReview = acts('review.done', [], async (tx, actor, input) => {
  const { documentId, versionNumber, outcome, note, replacedById } = input;
  const [paper] = await papersFor(tx, actor, [documentId], 'see');
  if (!paper) refuse('not-found');
  const { today, cycle, next } = await owedTo(tx, documentId);
  if (!(await mayReview(tx, actor, documentId, cycle?.cycle.responsibleId ?? null))) refuse('not-allowed');
  const [current] = await tx
    .select({ id: version.id, number: version.number })
    .from(version)
    .innerJoin(document, eq(document.versionId, version.id))
    .where(eq(document.id, documentId));
  if (current?.number !== versionNumber)
    refuse('conflict', 'A newer version was filed meanwhile. Nothing was noted. Look at it, and review that.');
  const [last] = await tx
    .select({ day: review.day, number: version.number })
    .from(review)
    .innerJoin(version, eq(version.id, review.versionId))
    .where(eq(review.documentId, documentId))
    .orderBy(desc(review.day), desc(review.doneAt))
    .limit(1);
  if (last && last.day >= isoDay(today) && last.number === current.number)
    refuse('conflict', 'Somebody reviewed this version today already. Nothing was noted. Load the page again.');
  if (outcome === 'changed' && current.number <= (last?.number ?? 1))
    refuse('invalid', 'File the new version first, then say that the paper was changed.');
  if ((outcome === 'replaced') !== (replacedById !== null))
    refuse('invalid', 'Say which paper replaces it.', [{ path: 'replacedById', says: 'Say which paper replaces it.' }]);
  if (replacedById === documentId) refuse('invalid', 'A paper does not replace itself.');
  if (replacedById !== null) await papersFor(tx, actor, [replacedById], 'see');
  const [done] = await tx
    .insert(review)
    .values({
      documentId,
      versionId: current.id,
      outcome,
      note,
      replacedById,
      // After a clock that ran ahead was set back, the later review is still the last.
      day: last && last.day > isoDay(today) ? last.day : isoDay(today),
      dueOn: next === null ? null : isoDay(next.due),
      doneBy: actor.personId,
      doneAt: now(),
    })
    .returning({ id: review.id });
  if (!done) throw new Error('The review was not kept');
  const detail = { title: paper.title, number: current.number, outcome: reviewOutcomeWords[outcome].toLowerCase() };
  return { entry: { act: 'review.done', subjects: [documentId], detail }, result: { reviewId: done.id } };
});

/** Takes back the last review of a paper: whoever noted it, or manages the paper. */
export const takeBackReview = acts('review.takeBack', [], async (tx, actor, { reviewId }) => {
  const [found] = await tx
    .select({ documentId: review.documentId, day: review.day, doneBy: review.doneBy })
    .from(review)
    .where(eq(review.id, reviewId));
  if (!found) refuse('not-found');
  const [paper] = await papersFor(tx, actor, [found.documentId], 'see');
  if (!paper) refuse('not-found');
  const manages = has(await capabilitiesOn(tx, actor, found.documentId), 'manage');
  if (found.doneBy !== actor.personId && !manages) refuse('not-allowed');
  const [last] = await tx
    .select({ id: review.id })
    .from(review)
    .where(eq(review.documentId, found.documentId))
    .orderBy(desc(review.day), desc(review.doneAt))
    .limit(1);
  if (last?.id !== reviewId) refuse('conflict', 'It was reviewed again since. Only the last review is taken back.');
  await tx.delete(review).where(eq(review.id, reviewId));
  return {
    entry: { act: 'review.takenBack', subjects: [found.documentId], detail: { title: paper.title, day: found.day } },
    result: null,
  };
});
