import { and, asc, eq, lte, sql } from 'drizzle-orm';
import { Refusal, refuse } from '@/core/errors/refusal';
import { acts, actsInSteps } from '../acts/operation';
import { perform } from '../acts/act';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { document, note, noteChange, noteWriter, person, version } from '../db/schema';
import { fileVersion } from '../documents/file';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { logFault } from '../log/fault';
import { storedPage } from './create';
import { joined } from './text';
import { standOf } from './write';

/** A note that nobody has changed for so long is kept as a version, though whoever wrote it never said that they left. */
const restMinutes = 10;

/** Keeps a note's text as its paper's next version. */
export const keepNote = actsInSteps('note.keep', (actor, { documentId }) => kept(actor, documentId));

/**
 * Two who leave at the same moment join the same changes; the second finds them kept. What is written while they are joined
 * waits for the next time.
 */
async function kept(actor: Actor, documentId: string): Promise<{ versionNumber: number | null }> {
  const [paper] = await papersFor(db(), actor, [documentId], 'amend');
  if (!paper) refuse('not-found');
  const stand = await standOf(db(), documentId);
  const changes = await db()
    .select({ number: noteChange.number, change: noteChange.change })
    .from(noteChange)
    .where(eq(noteChange.documentId, documentId))
    .orderBy(asc(noteChange.number));
  const last = changes.at(-1)?.number ?? 0;
  if (!stand.isCurrent || last <= stand.keptNumber) return { versionNumber: null };
  const text = await joined(
    paper.title,
    changes.map(({ change }) => change),
  );
  return perform(actor, async (tx) => {
    await papersFor(tx, actor, [documentId], 'amend');
    const again = await standOf(tx, documentId);
    if (!again.isCurrent || again.round !== stand.round || again.keptNumber >= last)
      return { entry: null, result: { versionNumber: null } };
    const [current] = await tx
      .select({ sha256: version.sha256 })
      .from(version)
      .innerJoin(document, eq(document.versionId, version.id))
      .where(eq(document.id, documentId));
    const filed =
      current?.sha256 === text.sha256
        ? null
        : await fileVersion(tx, actor, documentId, await storedPage(tx, paper.title, text));
    const [after] = await tx
      .select({ versionId: document.versionId })
      .from(document)
      .where(eq(document.id, documentId));
    if (!after?.versionId) throw new Error('The note has no version');
    await tx.update(note).set({ versionId: after.versionId, keptNumber: last }).where(eq(note.documentId, documentId));
    // All of them as one: a note that is written for years stays quick to open.
    await tx.delete(noteChange).where(and(eq(noteChange.documentId, documentId), lte(noteChange.number, last)));
    await tx
      .insert(noteChange)
      .values({ documentId, number: last, round: stand.round, change: text.change, personId: null, at: now() });
    return { entry: filed?.entry ?? null, result: { versionNumber: filed?.result.versionNumber ?? null } };
  });
}

/** Keeps notes that nobody has changed for a while, in the name of who changed them last and still may. */
export async function keepRestingNotes(): Promise<void> {
  const resting = await db()
    .select({ documentId: note.documentId })
    .from(note)
    .innerJoin(noteChange, eq(noteChange.documentId, note.documentId))
    .groupBy(note.documentId)
    .having(
      sql`max(${noteChange.number}) > ${note.keptNumber}
        and max(${noteChange.at}) < ${now()}::timestamptz - ${`${restMinutes} minutes`}::interval`,
    )
    .limit(100);
  for (const { documentId } of resting) await keepForSomeone(documentId);
  await writableDb()
    .delete(noteWriter)
    .where(sql`${noteWriter.at} < ${now()}::timestamptz - interval '1 hour'`);
}

async function keepForSomeone(documentId: string): Promise<void> {
  const writers = await db()
    .select({ personId: person.id, name: person.name, email: person.email, keeper: person.keeper })
    .from(noteChange)
    .innerJoin(person, and(eq(person.id, noteChange.personId), eq(person.active, true)))
    .where(eq(noteChange.documentId, documentId))
    .groupBy(person.id)
    .orderBy(sql`max(${noteChange.number}) desc`);
  for (const writer of writers) {
    try {
      await kept(writer, documentId);
      return;
    } catch (error) {
      // They may no longer change it, or it stands still: what was written waits.
      if (!(error instanceof Refusal)) logFault(error, { where: 'notes' });
    }
  }
}

/** Offers a note as a start for new ones, or no longer. */
export const setNoteStart = acts('note.setStart', [], async (tx, actor, { documentId, isStart }) => {
  if (!actor.keeper) refuse('not-allowed', 'Only keepers choose what is offered as a start.');
  const [paper] = await papersFor(tx, actor, [documentId], 'amend');
  if (!paper) refuse('not-found');
  await standOf(tx, documentId);
  await tx.update(note).set({ isStart }).where(eq(note.documentId, documentId));
  const act = isStart ? 'note.startSet' : 'note.startUnset';
  return { entry: { act, subjects: [documentId, paper.homeId], detail: { title: paper.title } }, result: null };
});
