import { desc, eq, sql } from 'drizzle-orm';
import { Refusal, refuse } from '@/core/errors/refusal';
import { tidyFileName } from '@/core/files/title';
import type { JournalEvent } from '@/core/journal/events';
import { startNotes } from '@/core/notes/starts';
import { actsInSteps, asks } from '../acts/operation';
import { perform } from '../acts/act';
import { now } from '../base/clock';
import { storeBytes } from '../blobs/keep';
import { db, type Tx } from '../db/client';
import { document, note, noteChange } from '../db/schema';
import { contentFor, currentOf } from '../documents/content';
import { filePapers, fileVersion, type StoredContent } from '../documents/file';
import type { Actor } from '../gate/actor';
import { papersFor, placeFor } from '../gate/held';
import { paperAllows } from '../gate/visible';
import { receivingPlace } from '../uploads/settle';
import { begunFrom, begunWith, joined, type Begun, type Joined } from './text';

/** Notes of the library that are offered as starts: those of which the caller may have copies, as a new note is one. */
export const noteStarts = asks('notes.starts', (actor) =>
  db()
    .select({ documentId: document.id, title: document.title })
    .from(note)
    .innerJoin(document, eq(document.id, note.documentId))
    .where(sql`${note.isStart} and ${document.disposedAt} is null and ${paperAllows(actor, 'take')}`)
    .orderBy(document.title)
    .limit(200),
);

/** Refuses, before anything is worked out, where the caller could file a note and not go on writing it. */
export async function requireWriting(actor: Actor, placeId: string): Promise<void> {
  await placeFor(db(), actor, placeId, 'add');
  await placeFor(db(), actor, placeId, 'amend').catch((error: unknown) => {
    if (!(error instanceof Refusal) || error.issue.kind !== 'not-allowed') throw error;
    return refuse('not-allowed', 'Here you may add papers and not change them, so you could not go on writing a note.');
  });
}

/** Files a new note in a place. */
export const createNote = actsInSteps('note.create', async (actor, { placeId, title, start }) => {
  await requireWriting(actor, placeId);
  const begun =
    'ready' in start
      ? await begunWith(startNotes[start.ready].markup)
      : await begunFrom(await contentFor(actor, currentOf(start.documentId), 'take'));
  return fileNote(actor, placeId, title, begun);
});

/** What would be lost if a paper were opened as a note. */
export const foreseeNote = asks('note.foresee', async (actor, { documentId }) => {
  const { notKept } = await begunFrom(await contentFor(actor, currentOf(documentId), 'take'));
  return { notKept };
});

/** Turns a paper into a note: its next version, or a paper of its own in the same place. */
export const noteFromPaper = actsInSteps('note.fromPaper', async (actor, { documentId, as }) => {
  const [paper] = await papersFor(db(), actor, [documentId], as === 'version' ? 'amend' : 'take');
  if (!paper) refuse('not-found');
  const begun = await begunFrom(await contentFor(actor, currentOf(documentId), 'take'));
  if (as === 'paper') await requireWriting(actor, paper.homeId);
  if (as === 'paper') return fileNote(actor, paper.homeId, paper.title, begun);
  const text = await joined(paper.title, [begun.change]);
  return perform(actor, async (tx) => {
    // Made of a version that is no longer the newest, it would undo what came after.
    const [still] = await papersFor(tx, actor, [documentId], 'amend');
    if (still?.versionId !== paper.versionId) refuse('conflict');
    const { entry } = await fileVersion(tx, actor, documentId, await storedPage(tx, paper.title, text));
    await keepBeginning(tx, documentId, begun.change);
    return { entry, result: { documentId } };
  });
});

async function fileNote(actor: Actor, placeId: string, title: string, begun: Begun): Promise<{ documentId: string }> {
  const text = await joined(title, [begun.change]);
  return perform(actor, (tx) => filedNote(tx, actor, placeId, title, begun, text));
}

/**
 * Files a note, within a transaction.
 * @param text what `begun` is joined to, made before
 */
export async function filedNote(tx: Tx, actor: Actor, placeId: string, title: string, begun: Begun, text: Joined) {
  const target = await receivingPlace(tx, actor, placeId);
  const content = await storedPage(tx, title, text);
  const [filed] = await filePapers(tx, actor, [{ placeId: target.id, title, remark: '', content }]);
  if (!filed) throw new Error('The note was not filed');
  await keepBeginning(tx, filed.documentId, begun.change);
  const detail = { title: filed.title, sha256: content.sha256 };
  const entry: JournalEvent = { act: 'paper.filed', subjects: [filed.documentId, target.id], detail };
  return { entry, result: { documentId: filed.documentId } };
}

/** Stores a note's text as content that can be filed. */
export async function storedPage(tx: Tx, title: string, { page, sha256 }: Joined): Promise<StoredContent> {
  await storeBytes(tx, sha256, page);
  return {
    sha256,
    arrived: null,
    sizeBytes: page.length,
    fileName: tidyFileName(`${title}.html`),
    mediaType: 'text/html',
    stamp: 'TEXT',
  };
}

/** Begins a note's text anew, as the paper's current version has it. Changes to what it was before no longer count. */
export async function keepBeginning(tx: Tx, documentId: string, change: Buffer): Promise<void> {
  const [paper] = await tx.select({ versionId: document.versionId }).from(document).where(eq(document.id, documentId));
  if (!paper?.versionId) throw new Error('The paper has no version');
  const [before] = await tx.select({ round: note.round }).from(note).where(eq(note.documentId, documentId));
  const [last] = await tx
    .select({ number: noteChange.number })
    .from(noteChange)
    .where(eq(noteChange.documentId, documentId))
    .orderBy(desc(noteChange.number))
    .limit(1);
  const [round, number] = [(before?.round ?? 0) + 1, (last?.number ?? 0) + 1];
  const values = { versionId: paper.versionId, round, keptNumber: number };
  await tx
    .insert(note)
    .values({ documentId, ...values })
    .onConflictDoUpdate({ target: note.documentId, set: values });
  await tx.delete(noteChange).where(eq(noteChange.documentId, documentId));
  await tx.insert(noteChange).values({ documentId, number, round, change, personId: null, at: now() });
}
