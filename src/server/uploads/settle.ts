import { and, eq, sql } from 'drizzle-orm';
import type { Cells } from '@/core/archives/lists';
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
import { filePapers, fileVersion, type Filing, type StoredContent } from '../documents/file';
import { takeOver } from '../interchange/takeOver';
import { ensureFolders } from '../places/ensureFolders';
import { standName } from '../known/standing';
import { arrivedAs, ownUpload } from './receive';

/** An upload as it is stored. */
export type UploadRow = typeof upload.$inferSelect;

/** An upload that is filed in a place. */
export type SentTo = UploadRow & { readonly placeId: string };

/** What a complete upload turned out to be. */
export interface Arrived {
  readonly fingerprint: Fingerprint;
  readonly kind: FileKind;
}

/** A person's answers to questions about an upload. */
export interface Answers {
  readonly onSameName?: 'version' | 'both' | undefined;
  readonly onSameContent?: 'file' | 'leave' | undefined;
  /** Values that it gets if it becomes a paper of its own. */
  readonly cells?: Cells | undefined;
}

/**
 * Files a complete upload, or returns the question or reason that prevents it. Can be called again at any time from any
 * process: an upload is filed once. The only place where a file becomes a paper.
 */
export async function settleUpload(actor: Actor, uploadId: string, answers: Answers = {}): Promise<UploadOutcome> {
  const found = await ownUpload(actor, uploadId);
  const { placeId } = found;
  if (placeId === null) refuse('invalid', 'This file was sent to the intake.');
  if (found.outcome && hasEnded(found.outcome)) return found.outcome;
  if (found.receivedBytes < found.sizeBytes) return { state: 'receiving', receivedBytes: found.receivedBytes };
  const arrived = await examined(found, await acceptedFamilies());
  const store = storeOf(found.store);
  const outcome = await perform(actor, async (tx): Promise<Done<UploadOutcome>> => {
    const [row] = await tx.select().from(upload).where(eq(upload.id, found.id)).for('update');
    if (!row) refuse('not-found');
    if (row.outcome?.state === 'filed') return { entry: null, result: row.outcome };
    if ('refused' in arrived) {
      await store.forget(tx, row.contentId);
      return conclude(tx, row, { state: 'refused', issue: arrived.refused });
    }
    if (answers.onSameContent === 'leave') {
      await store.forget(tx, row.contentId);
      return conclude(tx, row, { state: 'left-out' });
    }
    return file(tx, actor, { ...row, placeId, metadata: merged(row, answers) }, arrived, answers.cells ?? {});
  });
  if (hasEnded(outcome)) await store.tidy(found.contentId);
  return outcome;
}

/** Whether nothing more can come of an upload. */
export const hasEnded = (outcome: UploadOutcome): boolean => ['filed', 'refused', 'left-out'].includes(outcome.state);

function merged(row: UploadRow, answers: Answers): UploadRow['metadata'] {
  return {
    ...row.metadata,
    ...(answers.onSameName ? { onSameName: answers.onSameName } : {}),
    ...(answers.onSameContent === 'file' ? { onSameContent: 'file' as const } : {}),
  };
}

/** The families of kinds that the library takes. */
export async function acceptedFamilies(): Promise<readonly string[]> {
  const [settings] = await db().select({ families: library.families }).from(library);
  return settings?.families ?? [];
}

/** What a complete upload is, or why it is refused for good: other bytes than were announced, or a kind that is not taken. */
export async function examined(
  found: UploadRow,
  families: readonly string[],
): Promise<Arrived | { readonly refused: Issue }> {
  const fingerprint = await arrivedAs(found);
  if (found.metadata.sha256 !== undefined && found.metadata.sha256 !== fingerprint.sha256)
    return { refused: issue('damaged') };
  const kind = found.kind ?? (await kindOf(found));
  const says = kindRefusal(found.fileName, kind, families);
  return kind && says === null ? { fingerprint, kind } : { refused: issue('kind-refused', says ?? undefined) };
}

async function kindOf(found: UploadRow): Promise<FileKind | null> {
  const pieces: Buffer[] = [];
  const end = Math.min(sniffBytes, found.sizeBytes);
  for await (const piece of storeOf(found.store).readIncoming(found.contentId, 0, end)) pieces.push(piece);
  return sniffKind(Buffer.concat(pieces), found.fileName);
}

/** Why a kind of file is not taken; null if it is. */
function kindRefusal(fileName: string, kind: FileKind | null, families: readonly string[]): string | null {
  if (!kind) return 'By its content this is a kind of file the library does not know. Nothing was filed.';
  if (!endingAgrees(fileName, kind))
    return `The name ends in “.${endingOf(fileName)}”, and by its content the file is something else. Nothing was filed. Give it the ending it should have, and file it again.`;
  if (families.includes(kind.family)) return null;
  const family: KindFamily = kind.family;
  return `By its content this is of the kind “${kindFamilies[family]}”, which this library does not take. Nothing was filed.`;
}

async function conclude(tx: Tx, row: UploadRow, outcome: UploadOutcome): Promise<Done<UploadOutcome>> {
  await tx.update(upload).set({ outcome, metadata: row.metadata }).where(eq(upload.id, row.id));
  return { entry: null, result: outcome };
}

async function file(
  tx: Tx,
  actor: Actor,
  row: SentTo,
  { fingerprint, kind }: Arrived,
  cells: Cells,
): Promise<Done<UploadOutcome>> {
  const { versionOf } = row.metadata;
  const target = versionOf === undefined ? await receivingPlace(tx, actor, row.placeId) : null;
  if (row.metadata.onSameContent !== 'file') {
    const places = await sameContent(tx, actor, fingerprint.sha256);
    if (places.length > 0) return conclude(tx, row, { state: 'same-content', places });
  }
  if (!target) return fileNext(tx, actor, row, versionOf ?? '', storedContent(row, { fingerprint, kind }));
  const placeId = await ensureFolders(tx, actor, target, row.metadata.relativePath ?? '');
  const title = titleOf(row);
  const [same] = await tx
    .select({ id: document.id })
    .from(document)
    .where(and(eq(document.homeId, placeId), eq(document.titleKey, nameKey(title)), paperAllows(actor, 'see')))
    .limit(1);
  if (same && row.metadata.onSameName === undefined) return conclude(tx, row, { state: 'same-name', title });
  const content = storedContent(row, { fingerprint, kind });
  if (same && row.metadata.onSameName === 'version') return fileNext(tx, actor, row, same.id, content, cells);
  const { entry, result } = await fileOne(tx, actor, { placeId, title, remark: remarkOf(row), content });
  const notSet = await takeOver(tx, actor, [{ documentId: result.documentId, cells }]);
  const outcome: UploadOutcome = { state: 'filed', placeId, ...result, ...notSet(result.documentId) };
  await conclude(tx, row, outcome);
  return { entry, result: outcome };
}

async function fileNext(
  tx: Tx,
  actor: Actor,
  row: SentTo,
  documentId: string,
  content: StoredContent,
  cells: Cells = {},
): Promise<Done<UploadOutcome>> {
  const { entry, result } = await fileVersion(tx, actor, documentId, content, remarkOf(row));
  const notSet =
    Object.keys(cells).length > 0 ? { notSet: ['The paper was there, and keeps the values that it has.'] } : {};
  const outcome: UploadOutcome = { state: 'filed', placeId: row.placeId, ...result, ...notSet };
  await conclude(tx, row, outcome);
  return { entry, result: outcome };
}

async function fileOne(tx: Tx, actor: Actor, filing: Filing) {
  const [result] = await filePapers(tx, actor, [filing]);
  if (!result) throw new Error('The paper was not made');
  const { documentId, title } = result;
  const detail = { title, sha256: filing.content.sha256 };
  return { entry: { act: 'paper.filed', subjects: [documentId, filing.placeId], detail } as const, result };
}

/** The place of an upload; refuses where no papers are filed. */
export async function receivingPlace(tx: Tx, actor: Actor, placeId: string) {
  const target = await placeFor(tx, actor, placeId, 'add');
  if (!mayHoldPapers(target.kind)) refuse('invalid', 'Papers are filed in a series or below it.');
  return target;
}

/** An upload's content as it is filed. */
export const storedContent = (row: UploadRow, { fingerprint, kind }: Arrived): StoredContent => ({
  sha256: fingerprint.sha256,
  arrived: { pieceSums: fingerprint.pieceSums, contentId: row.contentId, store: row.store },
  sizeBytes: row.sizeBytes,
  fileName: row.fileName,
  mediaType: kind.mediaType,
  stamp: kind.stamp,
});

/** The remark that an upload's paper gets. */
export const remarkOf = (row: UploadRow): string => row.metadata.remark?.trim() ?? '';

/** The title given, or one made from the file name. */
export function titleOf(row: UploadRow): string {
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
