import { and, eq } from 'drizzle-orm';
import type { ReadablePaper } from '@/core/reading/contract';
import { askedAgain, isUnderWay, openedPriority, readingOf, type Reading } from '@/core/reading/stages';
import { shownForm } from '@/core/reading/form';
import { actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { reading, readingAttempt, readingForm, readingPosition, readingStage } from '../db/schema';
import { contentFor, currentOf } from '../documents/content';
import { resultsOf } from '../extraction/read';
import type { Actor } from '../gate/actor';
import { ownOf } from '../gate/visible';
import { queue } from '../jobs/queue';

/** For so long content that is opened again is not put first again. */
const againSeconds = 15;

/** What the reader is told of a paper before it fetches any of it. */
export const readingOfPaper = asks('paper.reading', async (actor, { documentId, version, attachment }) => {
  const content = await contentFor(actor, { documentId, version, attachment }, 'see');
  return readableOf(content, attachment === null ? await positionOf(actor, documentId) : 1);
});

/**
 * The same of content that the gate has let through. Content that is not read yet goes first in the queue: someone waits
 * for it. @param page where its reader last was
 */
export async function readableOf(
  content: Awaited<ReturnType<typeof contentFor>>,
  page: number,
): Promise<ReadablePaper> {
  const { sha256, mediaType, fileName, sizeBytes, mayTake } = content;
  const [state, forms, counted] = await Promise.all([
    stateOf(sha256),
    db()
      .select({ form: readingForm.form, pages: readingForm.pages })
      .from(readingForm)
      .where(eq(readingForm.sha256, sha256)),
    db().select({ pages: reading.pageCount }).from(reading).where(eq(reading.sha256, sha256)),
  ]);
  if (isUnderWay(state)) await putFirst(sha256);
  return {
    ...state,
    form: shownForm(mediaType),
    mediaType,
    fileName,
    sizeBytes,
    sha256,
    pages: forms.find(({ form }) => form === 'pages')?.pages ?? counted[0]?.pages ?? null,
    hasPages: forms.some(({ form }) => form === 'pages'),
    hasView: forms.some(({ form }) => form === 'view'),
    mayTake,
    page,
  };
}

async function stateOf(sha256: string): Promise<Reading> {
  const [results, begun] = await Promise.all([
    resultsOf(sha256),
    db().select({ stage: readingAttempt.stage }).from(readingAttempt).where(eq(readingAttempt.sha256, sha256)),
  ]);
  return readingOf(results, begun.length > 0);
}

async function putFirst(sha256: string): Promise<void> {
  const boss = await queue();
  // One in all for a while, however many people look.
  await boss.send(
    'read',
    { sha256 },
    { priority: openedPriority, singletonKey: sha256, singletonSeconds: againSeconds },
  );
}

async function positionOf(actor: Actor, documentId: string): Promise<number> {
  // Someone who looks as another is shown nothing of where that person was.
  const personId = ownOf(actor);
  if (personId === null) return 1;
  const [found] = await db()
    .select({ page: readingPosition.page })
    .from(readingPosition)
    .where(and(eq(readingPosition.personId, personId), eq(readingPosition.documentId, documentId)));
  return found?.page ?? 1;
}

/** Notes the page at which the caller is. Has no journal entry: what people read is private. */
export const rememberPage = actsInSteps('paper.remember', async (actor, { documentId, page }) => {
  await contentFor(actor, currentOf(documentId), 'see');
  const at = now();
  await writableDb()
    .insert(readingPosition)
    .values({ personId: actor.personId, documentId, page, at })
    .onConflictDoUpdate({ target: [readingPosition.personId, readingPosition.documentId], set: { page, at } });
  return null;
});

/** Reads a paper's current content anew, before all that waits. Has no journal entry: it changes nothing that is filed. */
export const readAgain = actsInSteps('paper.readAgain', async (actor, { documentId }) => {
  const { sha256 } = await contentFor(actor, currentOf(documentId), 'amend');
  await writableDb().delete(readingAttempt).where(eq(readingAttempt.sha256, sha256));
  // What was found stays until it is found anew.
  await writableDb().update(readingStage).set({ program: askedAgain }).where(eq(readingStage.sha256, sha256));
  await (await queue()).send('read', { sha256 }, { priority: openedPriority });
  return null;
});
