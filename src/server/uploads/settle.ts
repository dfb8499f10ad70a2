import { and, eq, sql } from 'drizzle-orm';
import { issue, type Issue } from '@/core/errors/issue';
import { Refusal, refuse } from '@/core/errors/refusal';
import { endingAgrees, kindFamilies, type FileKind, type KindFamily } from '@/core/files/fileKind';
import { endingOf, tidyTitle } from '@/core/files/title';
import { mayHoldPapers } from '@/core/tree/placeKind';
import { readName } from '@/core/text/name';
import { nameKey } from '@/core/text/fold';
import type { Fingerprint } from '@/core/content/model';
import type { UploadOutcome } from '@/core/uploads/model';
import { actsInSteps } from '../acts/operation';
import { perform, type Done } from '../acts/act';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { paperAllows } from '../gate/visible';
import { storeOf } from '../blobs/content';
import { ContentMissing } from '../blobs/contentStore';
import { sniffBytes, sniffKind } from '../blobs/sniff';
import { db, type Tx } from '../db/client';
import { document, library, place, upload, version } from '../db/schema';
import { fileContent, type StoredContent } from '../documents/file';
import { ensureFolders } from '../places/ensureFolders';
import { standName } from '../known/standing';
import { arrivedAs, ownUpload } from './receive';

type UploadRow = typeof upload.$inferSelect;

/** A person's answers to questions about an upload. */
export interface Answers {
  readonly onSameName?: 'version' | 'both' | undefined;
  readonly onSameContent?: 'file' | 'leave' | undefined;
}

/**
 * Files a complete upload, or returns the question or reason that prevents it. Can be called again at any time from any
 * process: an upload is filed once. The only place where a file becomes a paper.
 */
export async function settleUpload(actor: Actor, uploadId: string, answers: Answers = {}): Promise<UploadOutcome> {
  const found = await ownUpload(actor, uploadId);
  if (found.outcome && hasEnded(found.outcome)) return found.outcome;
  if (found.receivedBytes < found.sizeBytes) return { state: 'receiving', receivedBytes: found.receivedBytes };
  const fingerprint = await arrivedAs(found);
  const kind = await kindOf(found);
  const refused = await lastingRefusal(found, fingerprint.sha256, kind);
  const store = storeOf(found.store);
  const outcome = await perform(actor, async (tx): Promise<Done<UploadOutcome>> => {
    const [row] = await tx.select().from(upload).where(eq(upload.id, found.id)).for('update');
    if (!row) refuse('not-found');
    if (row.outcome?.state === 'filed') return { entry: null, result: row.outcome };
    if (refused || !kind) {
      await store.forget(tx, row.contentId);
      return conclude(tx, row, { state: 'refused', issue: refused ?? issue('kind-refused') });
    }
    if (answers.onSameContent === 'leave') {
      await store.forget(tx, row.contentId);
      return conclude(tx, row, { state: 'left-out' });
    }
    return file(tx, actor, { ...row, metadata: merged(row, answers) }, { fingerprint, kind });
  });
  if (hasEnded(outcome)) await store.tidy(found.contentId);
  return outcome;
}

const hasEnded = (outcome: UploadOutcome): boolean => ['filed', 'refused', 'left-out'].includes(outcome.state);

function merged(row: UploadRow, answers: Answers): UploadRow['metadata'] {
  return {
    ...row.metadata,
    ...(answers.onSameName ? { onSameName: answers.onSameName } : {}),
    ...(answers.onSameContent === 'file' ? { onSameContent: 'file' as const } : {}),
  };
}

async function kindOf(found: UploadRow): Promise<FileKind | null> {
  const pieces: Buffer[] = [];
  const end = Math.min(sniffBytes, found.sizeBytes);
  for await (const piece of storeOf(found.store).readIncoming(found.contentId, 0, end)) pieces.push(piece);
  return sniffKind(Buffer.concat(pieces), found.fileName);
}

/** Final refusals: bytes that differ from those announced, or a kind of file that is not accepted. */
async function lastingRefusal(found: UploadRow, sha256: string, kind: FileKind | null): Promise<Issue | null> {
  if (found.metadata.sha256 !== undefined && found.metadata.sha256 !== sha256) return issue('damaged');
  const [settings] = await db().select({ families: library.families }).from(library);
  if (!kind)
    return issue('kind-refused', 'By its content this is a kind of file the library does not know. Nothing was filed.');
  if (!endingAgrees(found.fileName, kind))
    return issue(
      'kind-refused',
      `The name ends in “.${endingOf(found.fileName)}”, and by its content the file is something else. Nothing was filed. Give it the ending it should have, and file it again.`,
    );
  if (settings?.families.includes(kind.family)) return null;
  const family: KindFamily = kind.family;
  return issue(
    'kind-refused',
    `By its content this is of the kind “${kindFamilies[family]}”, which this library does not take. Nothing was filed.`,
  );
}

async function conclude(tx: Tx, row: UploadRow, outcome: UploadOutcome): Promise<Done<UploadOutcome>> {
  await tx.update(upload).set({ outcome, metadata: row.metadata }).where(eq(upload.id, row.id));
  return { entry: null, result: outcome };
}

async function file(
  tx: Tx,
  actor: Actor,
  row: UploadRow,
  { fingerprint, kind }: { fingerprint: Fingerprint; kind: FileKind },
): Promise<Done<UploadOutcome>> {
  const target = await placeFor(tx, actor, row.placeId, 'add');
  if (!mayHoldPapers(target.kind)) refuse('invalid', 'Papers are filed in a series or below it.');
  if (row.metadata.onSameContent !== 'file') {
    const places = await sameContent(tx, actor, fingerprint.sha256);
    if (places.length > 0) return conclude(tx, row, { state: 'same-content', places });
  }
  const placeId = await ensureFolders(tx, actor, target, row.metadata.relativePath ?? '');
  const title = titleOf(row);
  const [same] = await tx
    .select({ id: document.id })
    .from(document)
    .where(and(eq(document.homeId, placeId), eq(document.titleKey, nameKey(title)), paperAllows(actor, 'see')))
    .limit(1);
  if (same && row.metadata.onSameName === undefined) return conclude(tx, row, { state: 'same-name', title });
  const content: StoredContent = {
    ...fingerprint,
    contentId: row.contentId,
    store: row.store,
    sizeBytes: row.sizeBytes,
    fileName: row.fileName,
    mediaType: kind.mediaType,
    stamp: kind.stamp,
  };
  const asVersionOf = same && row.metadata.onSameName === 'version' ? same.id : null;
  const note = row.metadata.note?.trim() ?? '';
  const filed = await fileContent(tx, actor, { placeId, title, note, content, asVersionOf });
  const outcome: UploadOutcome = { state: 'filed', placeId, ...filed.result };
  await conclude(tx, row, outcome);
  return { entry: filed.entry, result: outcome };
}

/** The title given, or one made from the file name. */
function titleOf(row: UploadRow): string {
  const asked = readName(row.metadata.title ?? '', 'title');
  return asked.ok ? asked.value : tidyTitle(row.fileName);
}

/** Up to five papers that the caller may see and whose current version has the same content, newest first. */
async function sameContent(tx: Tx, actor: Actor, sha256: string) {
  return tx
    .select({ documentId: document.id, title: document.title, placeName: standName(actor) })
    .from(version)
    .innerJoin(document, eq(document.versionId, version.id))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(eq(version.sha256, sha256), paperAllows(actor, 'see')))
    .orderBy(sql`${document.filedAt} desc`)
    .limit(5);
}

/** Settles an upload; turns a refusal that another place or attempt could resolve into an outcome that is not final. */
export async function outcomeOf(actor: Actor, uploadId: string, answers: Answers = {}): Promise<UploadOutcome> {
  try {
    return await settleUpload(actor, uploadId, answers);
  } catch (error) {
    const found = await ownUpload(actor, uploadId);
    // Another call has ended it meanwhile, and what had arrived is no longer where this one looked.
    if (error instanceof ContentMissing && found.outcome && hasEnded(found.outcome)) return found.outcome;
    if (error instanceof Refusal) return found.outcome ?? { state: 'refused', issue: error.issue };
    throw error;
  }
}

/** Files a complete upload, or says what prevents it. */
export const uploadOutcome = actsInSteps('upload.outcome', (actor, { uploadId }) => outcomeOf(actor, uploadId));

/** Answers the question that an upload waits with. */
export const answerUpload = actsInSteps('upload.answer', (actor, { uploadId, ...answers }) =>
  outcomeOf(actor, uploadId, answers),
);
