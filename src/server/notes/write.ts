import { and, asc, eq, gt, ne, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import type { NoteState } from '@/core/notes/contract';
import { actsInSteps } from '../acts/operation';
import { perform } from '../acts/act';
import { now } from '../base/clock';
import { db, writableDb, type Reader, type Tx } from '../db/client';
import { snapshot } from '../db/transaction';
import { document, note, noteChange, noteWriter, person } from '../db/schema';
import { contentFor, currentOf } from '../documents/content';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { keepBeginning } from './create';
import { begunFrom } from './text';

/** Who was not heard of for so long has left. */
const hereSeconds = 12;
/** Presence is noted at most this often. */
const notedSeconds = 4;
/** The most that the changes of a note may come to between two of its versions. In bytes. */
const mostBytes = 20_000_000;

/**
 * Opens a note for writing. Where its newest version is not the one that its text was kept as (an older one was restored, a
 * file was dropped on it), the text is begun anew from that version.
 */
export const beginNote = actsInSteps('note.begin', async (actor, { documentId }) => {
  await papersFor(db(), actor, [documentId], 'amend');
  const stand = await standOf(db(), documentId);
  if (!stand.isCurrent) {
    const begun = await begunFrom(await contentFor(actor, currentOf(documentId), 'see'));
    await perform(actor, async (tx) => {
      const [paper] = await papersFor(tx, actor, [documentId], 'amend');
      const again = await standOf(tx, documentId);
      // Someone else has begun it meanwhile, or there is yet another version: what was read is of no use.
      if (!again.isCurrent && paper?.versionId === stand.currentId) await keepBeginning(tx, documentId, begun.change);
      return { entry: null, result: null };
    });
  }
  return stateFor(actor, documentId, 0);
});

/**
 * Takes changes and tells those of others. A change is kept in the order in which it came; Yjs joins them so that no word of
 * either is lost, whoever was first (Nicolaescu and others, "Near Real-Time Peer-to-Peer Shared Editing on Extensible Data
 * Types", 2016). A change that comes again is the same change. Has no journal entry: the version that it is kept as has.
 */
export const writeNote = actsInSteps('note.write', async (actor, { documentId, round, after, changes }) => {
  await papersFor(db(), actor, [documentId], 'amend');
  if (changes.length > 0)
    await perform(actor, async (tx) => {
      await papersFor(tx, actor, [documentId], 'amend');
      const stand = await standOf(tx, documentId);
      if (stand.isCurrent && stand.round === round) await addChanges(tx, actor, documentId, round, changes);
      return { entry: null, result: null };
    });
  return stateFor(actor, documentId, after);
});

async function addChanges(
  tx: Tx,
  actor: Actor,
  documentId: string,
  round: number,
  changes: readonly string[],
): Promise<void> {
  const [sums] = await tx
    .select({
      number: sql<number>`coalesce(max(${noteChange.number}), 0)::int`,
      bytes: sql<number>`coalesce(sum(octet_length(${noteChange.change})), 0)::int`,
    })
    .from(noteChange)
    .where(eq(noteChange.documentId, documentId));
  const { number = 0, bytes = 0 } = sums ?? {};
  const bodies = changes.map((each) => Buffer.from(each, 'base64'));
  if (bodies.reduce((sum, each) => sum + each.length, bytes) > mostBytes)
    refuse('too-large', 'This note has become too long. What was kept stays; go on in another one.');
  const at = now();
  await tx.insert(noteChange).values(
    bodies.map((change, index) => ({
      documentId,
      number: number + index + 1,
      round,
      change,
      personId: actor.personId,
      at,
    })),
  );
}

interface Stand {
  readonly round: number;
  readonly keptNumber: number;
  /** The paper's current version. */
  readonly currentId: string | null;
  /** Whether the text is that of the current version, with what was written since. */
  readonly isCurrent: boolean;
}

/** How a note stands. The caller has passed the gate. */
export async function standOf(reader: Reader, documentId: string): Promise<Stand> {
  const [found] = await reader
    .select({
      round: note.round,
      keptNumber: note.keptNumber,
      currentId: document.versionId,
      isCurrent: sql<boolean>`${note.versionId} = ${document.versionId}`,
    })
    .from(note)
    .innerJoin(document, eq(document.id, note.documentId))
    .where(eq(note.documentId, documentId));
  return found ?? refuse('not-found', 'This paper is not a note.');
}

async function stateFor(actor: Actor, documentId: string, after: number): Promise<NoteState> {
  await noteHere(actor, documentId);
  // Of one moment: changes of a new round must not be told as those of the one before.
  return snapshot((tx) => stateIn(tx, actor, documentId, after));
}

async function stateIn(tx: Tx, actor: Actor, documentId: string, after: number): Promise<NoteState> {
  const [stand, rows, others] = await Promise.all([
    standOf(tx, documentId),
    tx
      .select({ number: noteChange.number, change: noteChange.change })
      .from(noteChange)
      .where(and(eq(noteChange.documentId, documentId), gt(noteChange.number, after)))
      .orderBy(asc(noteChange.number)),
    tx
      .select({ name: person.name })
      .from(noteWriter)
      .innerJoin(person, eq(person.id, noteWriter.personId))
      .where(
        and(
          eq(noteWriter.documentId, documentId),
          ne(noteWriter.personId, actor.personId),
          sql`${noteWriter.at} > ${now()}::timestamptz - ${`${hereSeconds} seconds`}::interval`,
        ),
      )
      .orderBy(person.name),
  ]);
  return {
    // A text that waits to be begun anew is none that anybody may go on with.
    round: stand.isCurrent ? stand.round : stand.round + 1,
    changes: rows.map(({ number, change }) => ({ number, change: change.toString('base64') })),
    number: rows.at(-1)?.number ?? after,
    others: others.map(({ name }) => name),
  };
}

async function noteHere(actor: Actor, documentId: string): Promise<void> {
  const at = now();
  await writableDb()
    .insert(noteWriter)
    .values({ documentId, personId: actor.personId, at })
    .onConflictDoUpdate({
      target: [noteWriter.documentId, noteWriter.personId],
      set: { at },
      setWhere: sql`${noteWriter.at} < ${at}::timestamptz - ${`${notedSeconds} seconds`}::interval`,
    });
}
