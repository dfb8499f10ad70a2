import { and, asc, eq } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import type { PackNote } from '@/core/packs/contract';
import { pageAtPlace, placeInCopy } from '@/core/packs/copies';
import { pageLabel } from '@/core/packs/letIn';
import { paperPages } from '@/core/packs/record';
import { actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { idIn } from '../db/idIn';
import { apart } from '../db/transaction';
import { pageNote } from '../db/schema';
import type { Actor } from '../gate/actor';
import { ownOf } from '../gate/visible';
import { copyOf } from './copies';
import { readingOf } from './reading';

/** So many notes somebody has on one page. */
const mostNotes = 50;

/** The caller's copy of an issue that can be read, with the pages of it that are pages of papers. */
async function pagesOfCopy(actor: Actor, issueId: string) {
  const { issue, leftOut } = await readingOf(actor, issueId);
  if (issue.state !== 'done') refuse('gone', 'This issue was withdrawn. Nothing of it is given out.');
  const { plan, runs } = copyOf(issue.record, leftOut);
  const out = new Set(leftOut);
  return {
    record: issue.record,
    runs,
    pages: paperPages(plan, issue.record.entries).filter(({ entry }) => !out.has(entry.id)),
  };
}

/**
 * The caller's own notes on the pages of an issue. They are kept by the page of a version: where a later issue has the same
 * version, they are in it too.
 */
export const packNotes = asks('pack.notes', async (actor, { issueId }): Promise<readonly PackNote[]> => {
  const personId = ownOf(actor);
  const { record, runs, pages } = await pagesOfCopy(actor, issueId);
  if (personId === null || pages.length === 0) return [];
  const notes = await db()
    .select()
    .from(pageNote)
    .where(
      and(
        eq(pageNote.personId, personId),
        idIn(pageNote.versionId, new Set(pages.map(({ entry }) => entry.versionId))),
      ),
    )
    .orderBy(asc(pageNote.at), asc(pageNote.id));
  return pages.flatMap(({ number, entry, page }) =>
    notes
      .filter((note) => note.versionId === entry.versionId && note.page === page)
      .map(({ id, text, revision }) => ({
        id,
        page: placeInCopy(runs, number) ?? 0,
        number: pageLabel(record, number),
        paper: entry.title,
        text,
        revision,
      })),
  );
});

const mine = (actor: Actor, noteId: string) => and(eq(pageNote.id, noteId), eq(pageNote.personId, actor.personId));

/** Writes a note on a page of the caller's copy. Has no journal entry, as none of these acts: notes are private. */
export const writeNoteOnPage = actsInSteps('pack.writeNote', async (actor, { issueId, noteId, page: place, text }) => {
  const { runs, pages } = await pagesOfCopy(actor, issueId);
  const number = pageAtPlace(runs, place);
  const found = pages.find((each) => each.number === number);
  if (!found) refuse('invalid', 'This page is of no paper: notes are kept with the pages of papers.');
  const { versionId } = found.entry;
  return apart(async (tx) => {
    const there = and(
      eq(pageNote.personId, actor.personId),
      eq(pageNote.versionId, versionId),
      eq(pageNote.page, found.page),
    );
    if ((await tx.$count(pageNote, there)) >= mostNotes) refuse('invalid', `A page takes ${mostNotes} notes at most.`);
    const kept = await tx
      .insert(pageNote)
      .values({ id: noteId, personId: actor.personId, versionId, page: found.page, text, at: now() })
      .onConflictDoNothing()
      .returning({ id: pageNote.id });
    // It is there already where the answer to it was lost; nobody learns of a note of somebody else.
    if (kept.length === 0 && (await tx.$count(pageNote, mine(actor, noteId))) === 0) refuse('not-found');
    return null;
  });
});

/** Changes one of the caller's notes. What another window changed meanwhile is not overwritten. */
export const changeNoteOnPage = actsInSteps('pack.changeNote', async (actor, { noteId, text, revision }) => {
  const changed = await writableDb()
    .update(pageNote)
    .set({ text, revision: revision + 1 })
    .where(and(mine(actor, noteId), eq(pageNote.revision, revision)))
    .returning({ id: pageNote.id });
  if (changed.length > 0) return null;
  const there = await db().select({ id: pageNote.id }).from(pageNote).where(mine(actor, noteId));
  return refuse(there.length === 0 ? 'not-found' : 'conflict');
});

/** Removes one of the caller's notes. */
export const removeNoteOnPage = actsInSteps('pack.removeNote', async (actor, { noteId }) => {
  const gone = await writableDb().delete(pageNote).where(mine(actor, noteId)).returning({ id: pageNote.id });
  if (gone.length === 0) refuse('not-found');
  return null;
});
