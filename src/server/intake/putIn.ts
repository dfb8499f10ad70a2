import { randomUUID } from 'node:crypto';
import { and, eq, inArray } from 'drizzle-orm';
import { Refusal, refuse } from '@/core/errors/refusal';
import type { Turn } from '@/core/intake/cut';
import { shownForm } from '@/core/reading/form';
import { actsInSteps } from '../acts/operation';
import { perform } from '../acts/act';
import { now } from '../base/clock';
import { db, type Tx } from '../db/client';
import { arrival, upload } from '../db/schema';
import { enqueueReading, keepContents } from '../documents/file';
import type { Actor } from '../gate/actor';
import { requireMayPutIn } from '../uploads/forIntake';
import { ownUpload } from '../uploads/receive';
import { acceptedFamilies, examined, storedContent, type Arrived, type UploadRow } from '../uploads/settle';

/** What one upload is among the arrivals: the same however often it is put in. */
const originOf = (uploadId: string): string => `upload/${uploadId}`;

/**
 * Puts complete uploads into the intake, each as an arrival, or all of them as the pages of one. Can be called again: each is
 * put in once.
 */
export const putIn = actsInSteps('intake.putIn', async (actor, { files, together }) => {
  if (new Set(files.map(({ uploadId }) => uploadId)).size < files.length) refuse('invalid', 'A file is put in once.');
  const before = await keptBefore(actor, files);
  if (before) return before;
  try {
    return await putInNow(actor, files, together);
  } catch (error) {
    // The same request was sent twice, and the other was quicker.
    const meanwhile = await keptBefore(actor, files);
    if (meanwhile) return meanwhile;
    throw error;
  }
});

type Files = readonly { readonly uploadId: string; readonly turn: Turn }[];

async function putInNow(actor: Actor, files: Files, together: boolean): Promise<{ arrivalIds: string[] }> {
  await requireMayPutIn(actor);
  const families = await acceptedFamilies();
  const known = new Map<string, Arrived>();
  for (const { uploadId } of files) known.set(uploadId, await complete(actor, uploadId, families));
  return perform(actor, async (tx) => {
    const into = together ? randomUUID() : null;
    const made = files.map((file) => ({ ...file, id: randomUUID() }));
    const order = made.map(({ id: arrivalId, turn }) => ({ arrivalId, turn }));
    for (const [at, { id, uploadId }] of made.entries()) {
      const arrived = known.get(uploadId) ?? refuse('not-found');
      const row = await locked(tx, uploadId);
      const content = storedContent(row, arrived);
      await keepContents(tx, [content]);
      await tx.insert(arrival).values({
        ...{ id, way: 'hand', broughtBy: actor.personId, origin: originOf(uploadId), sentTo: [] },
        ...{ fileName: row.fileName, mediaType: content.mediaType, sha256: content.sha256 },
        // In their order.
        arrivedAt: new Date(now().getTime() + at),
        ...(into !== null && { joinedTo: into }),
        ...(into !== null && (at === 0 ? { joins: { into, order } } : { state: 'joined', doneAt: now() })),
      });
      // Pictures are read as the paper that they become.
      if (into === null || shownForm(content.mediaType) !== 'picture') await enqueueReading(tx, [content]);
      await tx.delete(upload).where(eq(upload.id, uploadId));
    }
    return {
      entry: { act: 'arrivals.putIn', subjects: [], detail: { count: files.length } },
      result: { arrivalIds: made.map(({ id }) => id) },
    };
  });
}

/** The arrivals that uploads of the caller were put in as before, all in one transaction; null: they were not. */
async function keptBefore(actor: Actor, files: Files): Promise<{ arrivalIds: string[] } | null> {
  const found = await db()
    .select({ id: arrival.id, origin: arrival.origin })
    .from(arrival)
    .where(
      and(
        inArray(
          arrival.origin,
          files.map(({ uploadId }) => originOf(uploadId)),
        ),
        eq(arrival.broughtBy, actor.personId),
      ),
    );
  const arrivalIds = files.flatMap(
    ({ uploadId }) => found.find(({ origin }) => origin === originOf(uploadId))?.id ?? [],
  );
  return arrivalIds.length === files.length ? { arrivalIds } : null;
}

async function complete(actor: Actor, uploadId: string, families: readonly string[]): Promise<Arrived> {
  const found = await ownUpload(actor, uploadId);
  if (found.placeId !== null) refuse('invalid', 'This file was sent to be filed in a place.');
  if (found.receivedBytes < found.sizeBytes) refuse('conflict', `“${found.fileName}” has not arrived as a whole yet.`);
  const arrived = await examined(found, families);
  if ('refused' in arrived) throw new Refusal(arrived.refused);
  return arrived;
}

async function locked(tx: Tx, uploadId: string): Promise<UploadRow> {
  const [row] = await tx.select().from(upload).where(eq(upload.id, uploadId)).for('update');
  // Put in by the same request, sent twice.
  return row ?? refuse('conflict', 'It was put in a moment ago.');
}
