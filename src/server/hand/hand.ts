import { and, asc, count, eq, inArray, isNull, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { mostInHand } from '@/core/hand/contract';
import { actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { idIn } from '../db/idIn';
import { document, inHand, place } from '../db/schema';
import { ownOf, paperAllows } from '../gate/visible';
import { standId, standName } from '../known/standing';

/**
 * The papers in hand that are still open to the caller, in the order in which they were picked up. What is no longer open, or
 * was disposed of, is not told; it is in hand again if it comes back.
 */
export const papersInHand = asks('hand.papers', async (actor) => {
  const personId = ownOf(actor);
  if (personId === null) return [];
  return db()
    .select({
      id: document.id,
      title: document.title,
      stamp: document.stamp,
      sizeBytes: document.sizeBytes,
      pageCount: document.pageCount,
      homeId: standId(actor),
      homeName: standName(actor),
    })
    .from(inHand)
    .innerJoin(document, eq(document.id, inHand.documentId))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(eq(inHand.personId, personId), isNull(document.disposedAt), paperAllows(actor, 'see')))
    .orderBy(asc(inHand.at), asc(document.title), asc(document.id))
    .limit(mostInHand);
});

/** Takes papers into the hand, as far as the caller may see them. Has no journal entry: what people collect is private. */
export const pickUp = actsInSteps('hand.pickUp', async (actor, { documentIds }) => {
  const known = await db()
    .select({ id: document.id })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(idIn(document.id, documentIds), paperAllows(actor, 'see')));
  if (known.length < new Set(documentIds).size) refuse('not-found');
  const [held] = await db().select({ papers: count() }).from(inHand).where(eq(inHand.personId, actor.personId));
  if ((held?.papers ?? 0) + known.length > mostInHand)
    refuse('invalid', 'At most 5,000 papers are in hand at once. Put some down first.');
  const at = now();
  await writableDb()
    .insert(inHand)
    .values(known.map(({ id }) => ({ personId: actor.personId, documentId: id, at })))
    .onConflictDoNothing();
  return null;
});

/** Puts papers down, or all of them. */
export const putDown = actsInSteps('hand.putDown', async ({ personId }, { documentIds }) => {
  await writableDb()
    .delete(inHand)
    .where(
      and(
        eq(inHand.personId, personId),
        documentIds === null ? sql`true` : inArray(inHand.documentId, [...documentIds]),
      ),
    );
  return null;
});
