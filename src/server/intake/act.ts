import { and, eq } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { kindOfMediaType } from '@/core/files/fileKind';
import { dossierIn } from '@/core/tree/lineage';
import { acts } from '../acts/operation';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { arrival, attachment, blob } from '../db/schema';
import { typedValues } from '../columns/typed';
import { putInTray } from '../disposal/dispose';
import { filePapers, type Filing } from '../documents/file';
import { acceptedFamilies, receivingPlace } from '../uploads/settle';
import { arrivalFor } from './access';

type Arrival = typeof arrival.$inferSelect;

function requireWaiting({ state, revision }: Arrival, seen: number): void {
  if (state !== 'waiting') refuse('conflict', 'Somebody has seen to this meanwhile. Nothing was done twice.');
  if (revision !== seen) refuse('conflict', 'This was changed meanwhile. Load it again.');
}

/** Files parts of an arrival as papers of a place. Filed once, whoever else agrees at the same moment. */
export const fileArrival = acts('arrival.file', [], async (tx, actor, { arrivalId, revision, placeId, parts }) => {
  const found = await arrivalFor(tx, actor, arrivalId);
  requireWaiting(found, revision);
  if (new Set(parts.map((each) => each.attachment)).size < parts.length)
    refuse('invalid', 'A part of an arrival is filed once.');
  const target = await receivingPlace(tx, actor, placeId);
  const families = await acceptedFamilies();
  const filings: Filing[] = [];
  for (const [at, { attachment: number, title, values = {} }] of parts.entries()) {
    const content = await partOf(tx, found, number);
    const kind = kindOfMediaType(content.mediaType);
    if (!kind || !families.includes(kind.family))
      refuse(
        'kind-refused',
        `This library does not take files like “${content.fileName}”. Nothing was filed: leave it out.`,
      );
    const stored = { ...content, arrived: null, stamp: kind.stamp };
    const typed = await typedValues(tx, actor, target.lineage, values, (column) => `parts.${at}.values.${column}`);
    filings.push({ placeId: target.id, title, remark: '', content: stored, values: typed });
  }
  const filed = await filePapers(tx, actor, filings);
  const documentIds = filed.map(({ documentId }) => documentId);
  // The dossier in which it lies now: what it teaches, and who may see to it.
  const dossierId = dossierIn(target.lineage);
  await settle(tx, found, { state: 'filed', documentIds, dossierId, doneBy: actor.personId, doneAt: now() });
  return {
    entry: {
      act: 'arrival.filed',
      subjects: [...documentIds, target.id],
      detail: { count: filed, from: found.senderAddress, place: target },
    },
    result: { documentIds },
  };
});

async function partOf(tx: Tx, { sha256, fileName, mediaType }: Arrival, number: number | null) {
  const [found] =
    number === null
      ? await tx.select({ sha256: blob.sha256, sizeBytes: blob.sizeBytes }).from(blob).where(eq(blob.sha256, sha256))
      : await tx
          .select({
            sha256: blob.sha256,
            sizeBytes: blob.sizeBytes,
            fileName: attachment.name,
            mediaType: attachment.mediaType,
          })
          .from(attachment)
          .innerJoin(blob, eq(blob.sha256, attachment.sha256))
          .where(and(eq(attachment.mailSha256, sha256), eq(attachment.number, number)));
  if (!found) refuse('invalid', 'One of these parts is not in the arrival. Nothing was filed.');
  return { fileName, mediaType, ...found };
}

const settle = (tx: Tx, { id, revision }: Arrival, set: Partial<Arrival>) =>
  tx
    .update(arrival)
    .set({ ...set, revision: revision + 1 })
    .where(eq(arrival.id, id));

/** Sets an arrival aside as not ours. */
export const setArrivalAside = acts('arrival.setAside', [], async (tx, actor, { arrivalId, revision }) => {
  const found = await arrivalFor(tx, actor, arrivalId);
  requireWaiting(found, revision);
  await settle(tx, found, { state: 'notOurs', doneBy: actor.personId, doneAt: now() });
  return { entry: { act: 'arrival.setAside', subjects: [], detail: { from: found.senderAddress } }, result: null };
});

/** Has an arrival wait again, with all that was done undone: its papers go into the disposal tray. */
export const takeArrivalBack = acts('arrival.takeBack', [], async (tx, actor, { arrivalId }) => {
  const found = await arrivalFor(tx, actor, arrivalId);
  if (found.state === 'waiting') refuse('conflict', 'It waits to be checked already.');
  const papers = found.documentIds.length === 0 ? [] : await putInTray(tx, actor, found.documentIds);
  await settle(tx, found, { state: 'waiting', documentIds: [], doneBy: null, doneAt: null });
  const subjects = [...papers.map(({ id }) => id), ...new Set(papers.map(({ homeId }) => homeId))];
  return { entry: { act: 'arrival.takenBack', subjects, detail: { from: found.senderAddress } }, result: null };
});
