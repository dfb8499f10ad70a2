import { and, eq, inArray, isNull, max, or, type SQL } from 'drizzle-orm';
import { invalidField } from '@/core/errors/issue';
import { refuse, Refusal } from '@/core/errors/refusal';
import type { PageFault } from '@/core/packs/contract';
import { layOut } from '@/core/packs/layout';
import { issuedSoFar, letInLabels } from '@/core/packs/letIn';
import { mostPackPages } from '@/core/packs/model';
import { readPageChoice } from '@/core/packs/pageChoice';
import { laidEntries, newEntries, type IssuedEntry } from '@/core/packs/record';
import { acts } from '../acts/operation';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { packIssue } from '../db/schema';
import type { Actor } from '../gate/actor';
import { paperAllows, paperIsDisposed } from '../gate/visible';
import { librarySettings } from '../library/settings';
import { entriesOf, packFor, packToChange, papersOfEntries, readersOfEntries, type EntryRow } from './read';

/** What is said of papers that keep a pack from being issued, whatever is chosen. */
const standsInTheWay: Partial<Record<PageFault, string>> = {
  disposed: 'in the disposal tray: take them out, or put them back',
  notRead: 'still being read: try again in a moment',
};
/** And of those that can be listed as files instead. */
const canBeFiles: Partial<Record<PageFault, string>> = {
  noPages: 'of a kind that has no pages',
  protected: 'protected by a password',
  damaged: 'damaged',
};

/**
 * Has a pack issued as it stands: what it is made from is written down now, and the worker makes it. Papers that cannot be
 * pages are named, and go in as files once that is chosen.
 */
export const issuePack = acts('pack.issue', [], async (tx, actor, { packId, asFiles, as }) => {
  const { pack: found, place } = await packToChange(tx, actor, packId);
  const [open] = await tx
    .select({ id: packIssue.id })
    .from(packIssue)
    .where(and(eq(packIssue.packId, packId), inArray(packIssue.state, ['waiting', 'making'])));
  if (open) refuse('conflict', 'An issue of this pack is being made. Wait for it, or stop it.');
  const entries = await entriesOf(tx, packId);
  if (!entries.some(({ kind }) => kind === 'paper')) refuse('invalid', 'There are no papers in the pack yet.');
  const all = await issuedEntries(tx, actor, entries, asFiles);
  const whole = await lastWhole(tx, packId);
  if (as !== 'whole' && !whole) refuse('invalid', 'There is no issue yet that could be supplemented.');
  const base = as === 'whole' ? undefined : whole;
  const issued = base ? newEntries(all, base.issued) : all;
  if (issued.length === 0)
    refuse('invalid', `Nothing has come in since ${(base?.called ?? '').toLowerCase()}. Nothing was issued.`);
  const isLetIn = base !== undefined && as === 'letIn';
  const firstPage = base && !isLetIn ? base.lastPage + 1 : 1;
  // What is let in comes behind the sheet of its section.
  const sheets = found.sheets && !isLetIn;
  const plan = layOut(laidEntries(issued), { sheets, firstPage });
  const { total } = plan;
  if (total > mostPackPages)
    refuse(
      'too-large',
      `This pack has ${total} pages; ${mostPackPages} fit. Nothing was issued. Make two packs of it.`,
    );
  const [last] = await tx
    .select({ number: max(packIssue.number) })
    .from(packIssue)
    .where(eq(packIssue.packId, packId));
  const number = (last?.number ?? 0) + 1;
  const { name, description, preparedBy, forWhom, day, pictureId, stampPlace } = found;
  const { name: library } = await librarySettings();
  const called = base
    ? `Supplement ${base.supplements + 1} to ${base.called.toLowerCase()}`
    : `Issue ${(await wholeIssues(tx, packId)) + 1}`;
  const record = {
    ...{ name, description, preparedBy, forWhom, day, pictureId, stampPlace, sheets, library, firstPage },
    called: called === 'Issue 1' ? '' : called,
    ...(isLetIn ? { labels: letInLabels(plan, issuedSoFar(base.records, all)) } : {}),
    entries: issued,
  };
  const [made] = await tx
    .insert(packIssue)
    .values({
      packId,
      number,
      called,
      supplementTo: base?.id ?? null,
      record,
      issuedBy: actor.personId,
      askedAt: now(),
    })
    .returning({ id: packIssue.id });
  if (!made) throw new Error('The issue was not made');
  return {
    entry: { act: 'pack.issueAsked', subjects: [place.id], detail: { name, called } },
    result: { issueId: made.id },
  };
});

const wholeIssues = (tx: Tx, packId: string): Promise<number> =>
  tx.$count(packIssue, and(eq(packIssue.packId, packId), isNull(packIssue.supplementTo)));

/** The last issue of the whole pack that stands, with what it and its supplements have, and where a further one goes on. */
async function lastWhole(tx: Tx, packId: string) {
  const rows = await tx
    .select()
    .from(packIssue)
    .where(and(eq(packIssue.packId, packId), eq(packIssue.state, 'done')))
    .orderBy(packIssue.number);
  const whole = rows.findLast(({ supplementTo }) => supplementTo === null);
  if (!whole) return undefined;
  const own = rows.filter(({ id, supplementTo }) => id === whole.id || supplementTo === whole.id);
  const records = own.map(({ record }) => record);
  return {
    id: whole.id,
    called: whole.called,
    supplements: own.length - 1,
    records,
    issued: records.flatMap(({ entries }) => entries),
    lastPage: Math.max(...own.map(({ record, pages }) => (record.labels ? 0 : record.firstPage + (pages ?? 0) - 1))),
  };
}

async function issuedEntries(
  tx: Tx,
  actor: Actor,
  entries: readonly EntryRow[],
  asFiles: boolean,
): Promise<IssuedEntry[]> {
  const papers = await papersOfEntries(tx, entries, or(paperAllows(actor, 'see'), paperIsDisposed(actor)) as SQL);
  const hidden = entries.filter(({ id, kind }) => kind === 'paper' && !papers.has(id)).length;
  if (hidden > 0)
    refuse(
      'conflict',
      `${hidden === 1 ? 'A paper is' : `${hidden} papers are`} not open to you any more, or destroyed. Nothing was issued. Take it out of the pack.`,
    );
  const named = (words: Partial<Record<PageFault, string>>): string[] =>
    Object.entries(words).flatMap(([fault, says]) => {
      const titles = [...papers.values()].filter((paper) => paper.fault === fault).map(({ title }) => `“${title}”`);
      return titles.length === 0 ? [] : [`${titles.join(', ')}: ${says}`];
    });
  const inTheWay = named(standsInTheWay);
  if (inTheWay.length > 0) refuse('conflict', `Nothing was issued. ${inTheWay.join('. ')}.`);
  const files = named(canBeFiles);
  if (files.length > 0 && !asFiles)
    throw new Refusal(
      invalidField('asFiles', `Nothing was issued. ${files.join('. ')}. They can be listed as files, or taken out.`),
    );
  const readers = await readersOfEntries(tx, entries);
  return entries.map((entry): IssuedEntry => {
    const paper = papers.get(entry.id);
    const choice = () => {
      const read = readPageChoice(entry.pages, paper?.pageCount ?? 0);
      if (!read.ok)
        refuse(
          'conflict',
          `“${entry.title}” has not the pages ${entry.pages} any more. Nothing was issued. Choose its pages again.`,
        );
      return read.value;
    };
    return {
      id: entry.id,
      parentId: entry.parentId,
      kind: entry.kind,
      title: entry.title,
      documentId: entry.documentId,
      versionId: paper?.versionId ?? null,
      fileName: paper?.fileName ?? '',
      pages: entry.kind === 'section' ? [] : paper?.fault === null ? choice() : null,
      readers: readers.get(entry.id)?.map(({ personId }) => personId) ?? null,
    };
  });
}

async function issueToChange(tx: Tx, actor: Actor, issueId: string) {
  const [found] = await tx.select({ packId: packIssue.packId }).from(packIssue).where(eq(packIssue.id, issueId));
  if (!found) refuse('not-found');
  const { pack, place } = await packFor(tx, actor, found.packId, 'amend');
  const [issue] = await tx.select().from(packIssue).where(eq(packIssue.id, issueId)).for('update');
  if (!issue) refuse('not-found');
  return { issue, place, detail: { name: pack.name, called: issue.called } };
}

/** Stops an issue that is not made yet. Nothing of it is left. */
export const stopIssue = acts('pack.stop', [], async (tx, actor, { issueId }) => {
  const { issue, place, detail } = await issueToChange(tx, actor, issueId);
  if (issue.state !== 'waiting' && issue.state !== 'making') refuse('conflict', 'It is not being made any more.');
  await tx.update(packIssue).set({ state: 'stopped' }).where(eq(packIssue.id, issueId));
  return { entry: { act: 'pack.stopped', subjects: [place.id], detail }, result: null };
});

/** Withdraws an issue: it says so from now on, and nobody is given its pages. */
export const withdrawIssue = acts('pack.withdraw', [], async (tx, actor, { issueId, reason }) => {
  const { issue, place, detail } = await issueToChange(tx, actor, issueId);
  if (issue.state !== 'done') refuse('conflict', 'Only what is issued can be withdrawn.');
  await tx.update(packIssue).set({ state: 'withdrawn', endReason: reason }).where(eq(packIssue.id, issueId));
  return { entry: { act: 'pack.withdrawn', subjects: [place.id], detail: { ...detail, reason } }, result: null };
});
