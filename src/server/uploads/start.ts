import { actsInSteps, asks } from '../acts/operation';
import { isUnfinished } from '../db/unfinished';
import { and, eq, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { uploadMetadataSchema, type UploadMetadata } from '@/core/uploads/contract';
import { sizeInWords } from '@/core/text/measure';
import { mayHoldPapers } from '@/core/tree/placeKind';
import { tidyFileName } from '@/core/files/title';
import { requireOwnSight } from '../acts/act';
import type { Actor } from '../gate/actor';
import { papersFor, placeFor } from '../gate/held';
import { placeIsKnown } from '../gate/visible';
import { storeOf } from '../blobs/content';
import { db, writableDb } from '../db/client';
import { idIn } from '../db/idIn';
import { library, place, upload } from '../db/schema';
import { sqlState } from '../db/sqlState';
import { apart } from '../db/transaction';
import { requireMayPutIn } from './forIntake';
import { isOwnUpload, ownUpload } from './receive';
import type { UploadRow } from './settle';

/**
 * Starts an upload. Refuses, before any byte is sent, a file that is too large and a place the caller may not add to.
 * Returns its row; null if it was begun before, and goes on as it stands.
 */
export async function startUpload(
  actor: Actor,
  id: string,
  sizeBytes: number,
  rawMetadata: unknown,
): Promise<UploadRow | null> {
  const metadata = uploadMetadataSchema.parse(rawMetadata);
  if (sizeBytes === 0) refuse('invalid', 'The file is empty. Nothing was filed.');
  const [settings] = await db()
    .select({ maxFileBytes: library.maxFileBytes, store: library.contentStore })
    .from(library);
  if (!settings) refuse('not-found');
  if (sizeBytes > settings.maxFileBytes) refuse('too-large', tooLargeWords(sizeBytes, settings.maxFileBytes));
  requireOwnSight(actor);
  const placeId = await destination(actor, metadata);
  const { store } = settings;
  const fileName = tidyFileName(metadata.fileName);
  const contentId = crypto.randomUUID();
  try {
    const [made] = await writableDb()
      .insert(upload)
      .values({ id, personId: actor.personId, placeId, contentId, store, fileName, sizeBytes, metadata })
      .onConflictDoNothing()
      .returning();
    if (made) return made;
    await beginAgain(actor, id, sizeBytes);
    return null;
  } catch (error) {
    // foreign_key_violation: the place was removed meanwhile.
    if (sqlState(error) === '23503') refuse('not-found');
    throw error;
  }
}

/** Where an upload will be filed: the place named, or the home of the paper of which it is a version; null: it goes into the intake. */
async function destination(actor: Actor, { placeId, versionOf, filing }: UploadMetadata): Promise<string | null> {
  if (filing === 'intake') {
    await requireMayPutIn(actor);
    return null;
  }
  if (versionOf !== undefined) {
    const [paper] = await papersFor(db(), actor, [versionOf], 'amend');
    return paper?.homeId ?? refuse('not-found');
  }
  if (placeId === undefined) refuse('not-found');
  const found = await placeFor(db(), actor, placeId, 'add');
  if (!mayHoldPapers(found.kind)) refuse('invalid', 'Papers are filed in a series or below it.');
  return placeId;
}

/** The request that begins an upload has come before, and its answer was lost: what arrived in part is begun again. */
async function beginAgain(actor: Actor, id: string, sizeBytes: number): Promise<void> {
  const found = await ownUpload(actor, id);
  if (found.sizeBytes !== sizeBytes) refuse('conflict');
  if (found.receivedBytes === sizeBytes) return;
  await apart(async (tx) => {
    const [row] = await tx.select().from(upload).where(eq(upload.id, id)).for('update');
    if (!row || row.receivedBytes === sizeBytes) return;
    await storeOf(row.store).forget(tx, row.contentId);
    await tx
      .update(upload)
      .set({ contentId: crypto.randomUUID(), receivedBytes: 0, sha256: null, pieceSums: null, kind: null })
      .where(eq(upload.id, id));
  });
  await storeOf(found.store).tidy(found.contentId);
}

/** That a file is too large, in words. */
export const tooLargeWords = (sizeBytes: number, maxBytes: number): string =>
  `The file has ${sizeInWords(sizeBytes)}; this library takes files of up to ${sizeInWords(maxBytes)}. Nothing was sent.`;

/** The caller's uploads that are interrupted or waiting for an answer. */
export const unfinishedUploads = asks('uploads.unfinished', async (actor) => {
  const rows = await db()
    .select({
      id: upload.id,
      fileName: upload.fileName,
      sizeBytes: upload.sizeBytes,
      receivedBytes: upload.receivedBytes,
      placeId: place.id,
      placeName: place.name,
      outcome: upload.outcome,
    })
    .from(upload)
    .innerJoin(place, eq(place.id, upload.placeId))
    .where(and(isOwnUpload(actor), placeIsKnown(actor), isUnfinished))
    .orderBy(upload.createdAt);
  return rows.map(({ outcome, ...row }) => ({
    ...row,
    outcome: outcome ?? { state: 'receiving', receivedBytes: row.receivedBytes },
  }));
});

/** What there is of the caller's uploads among these. */
export const knownUploads = asks('uploads.known', (actor, { uploadIds }) =>
  db()
    .select({ uploadId: upload.id, receivedBytes: upload.receivedBytes, outcome: upload.outcome })
    .from(upload)
    .where(and(idIn(upload.id, uploadIds), isOwnUpload(actor))),
);

/** Redirects unfinished uploads to another place. Does not move papers already filed. */
export const redirectUploads = actsInSteps('upload.redirect', async (actor, input) => {
  const target = await placeFor(db(), actor, input.placeId, 'add');
  if (!mayHoldPapers(target.kind)) refuse('invalid', 'Papers are filed in a series or below it.');
  await writableDb()
    .update(upload)
    .set({ placeId: target.id })
    .where(and(idIn(upload.id, input.uploadIds), isOwnUpload(actor), isUnfinished));
  return null;
});

/** Cancels an upload and deletes what has arrived. A filed upload stays filed. */
export const cancelUpload = actsInSteps('upload.cancel', async (actor, { uploadId }) => {
  const found = await ownUpload(actor, uploadId);
  if (found.outcome?.state === 'filed') return null;
  await apart(async (tx) => {
    const [gone] = await tx
      .delete(upload)
      .where(and(eq(upload.id, found.id), sql`coalesce(${upload.outcome} ->> 'state', '') <> 'filed'`))
      .returning({ contentId: upload.contentId, store: upload.store });
    if (gone) await storeOf(gone.store).forget(tx, gone.contentId);
  });
  await storeOf(found.store).tidy(found.contentId);
  return null;
});
