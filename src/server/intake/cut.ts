import { and, asc, eq, isNotNull } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { isMail } from '@/core/intake/model';
import { cutFault, mostCutPages, papersBetween, type CutPaper } from '@/core/intake/cut';
import { readingPriority } from '@/core/reading/stages';
import { acts } from '../acts/operation';
import { now } from '../base/clock';
import { sha256Hex } from '../base/sha256';
import { storeBytes } from '../blobs/keep';
import { CagedFault } from '../cage/limits';
import { inFolder } from '../cage/file';
import { db, writableDb } from '../db/client';
import { arrival, reading, wayIn } from '../db/schema';
import { transaction } from '../db/transaction';
import { enqueue } from '../jobs/queue';
import { logFault } from '../log/fault';
import { arrivalFor } from './access';
import { requireWaiting, settle, type Arrival } from './settle';
import { pagesIn } from './pagesIn';
import { madeOf, separatorsIn } from './stack';

const pagesOf = async (sha256: string): Promise<number> =>
  (await db().select({ pages: reading.pageCount }).from(reading).where(eq(reading.sha256, sha256)))[0]?.pages ?? 0;

/** Has a scan taken apart into papers, or its pages turned, ordered and left out. The worker does it; the scan itself is kept. */
export const cutArrival = acts('arrival.cut', [], async (tx, actor, { arrivalId, revision, papers }) => {
  const found = await arrivalFor(tx, actor, arrivalId);
  requireWaiting(found, revision);
  if (isMail(found.mediaType)) refuse('invalid', 'A mail is not taken apart: its attachments are filed one by one.');
  const says = cutFault(papers, await pagesOf(found.sha256));
  if (says !== null) refuse('invalid', says);
  const cut = papers.map(({ pages }) => ({ pages, reference: null }));
  await settle(tx, found, { state: 'unread', cut, leftBecause: null });
  const detail = { name: found.fileName, count: papers.length };
  return { entry: { act: 'arrival.cut', subjects: [], detail }, result: null };
});

/** The papers that separators make of a scan; null: there are none, or it is no stack. */
export async function papersOf(row: Arrival): Promise<readonly CutPaper[] | null> {
  const pages = await pagesOf(row.sha256);
  if (isMail(row.mediaType) || row.partOf !== null || row.cutOnce || pages < 2 || pages > mostCutPages) return null;
  const [way] =
    row.wayInId === null
      ? []
      : await db().select({ settings: wayIn.settings }).from(wayIn).where(eq(wayIn.id, row.wayInId));
  const atBlanks = way?.settings.kind === 'scans' && way.settings.atBlanks;
  return withPages(row, (file, folder) => separatorsIn(file, pages, folder, atBlanks))
    .then((separators) => papersBetween(pages, separators))
    .catch((error: unknown) => {
      if (!(error instanceof CagedFault)) throw error;
      return null;
    });
}

const withPages = <T>(row: Arrival, work: (file: string, folder: string) => Promise<T>): Promise<T> =>
  inFolder(async (folder) => work((await pagesIn(row, folder)).file, folder));

/** Takes the next scan apart for which that is wanted. Returns whether there was one. */
export async function cutNext(): Promise<boolean> {
  const [next] = await db()
    .select()
    .from(arrival)
    .where(and(eq(arrival.state, 'unread'), isNotNull(arrival.cut)))
    .orderBy(asc(arrival.arrivedAt), asc(arrival.id))
    .limit(1);
  if (!next?.cut) return false;
  await takeApart(next, next.cut).catch(async (error: unknown) => {
    const number = logFault(error, { where: 'taking a scan apart' });
    // As a whole it still waits for a person.
    await writableDb()
      .update(arrival)
      .set({
        ...{ cut: null, cutOnce: true, state: next.proposal === null ? 'unread' : 'waiting' },
        leftBecause: `It could not be taken apart. The number of the fault is ${number}.`,
      })
      .where(and(eq(arrival.id, next.id), eq(arrival.revision, next.revision)));
  });
  return true;
}

async function takeApart(row: Arrival, papers: readonly CutPaper[]): Promise<void> {
  const made = await withPages(row, async (file, folder) => {
    const all: { readonly bytes: Buffer; readonly reference: string | null }[] = [];
    for (const paper of papers) all.push({ bytes: await madeOf(file, paper, folder), reference: paper.reference });
    return all;
  });
  const stem = row.fileName.replace(/\.[^.]*$/u, '');
  await transaction([], async (tx) => {
    const [still] = await tx.select().from(arrival).where(eq(arrival.id, row.id)).for('update');
    // Another worker was quicker.
    if (still?.state !== 'unread' || still.revision !== row.revision) return;
    for (const [at, { bytes, reference }] of made.entries()) {
      const sha256 = sha256Hex(bytes);
      await storeBytes(tx, sha256, bytes);
      await tx.insert(arrival).values({
        ...{
          way: row.way,
          wayInId: row.wayInId,
          broughtBy: row.broughtBy,
          sha256,
          partOf: row.id,
          sheetReference: reference,
          sentTo: [],
        },
        fileName: made.length === 1 ? `${stem}.pdf` : `${stem} ${at + 1}.pdf`,
        mediaType: 'application/pdf',
        // In their order, and where the stack stood in the list.
        arrivedAt: new Date(row.arrivedAt.getTime() + at),
      });
      await enqueue(tx, 'read', [{ sha256 }], () => readingPriority(bytes.length));
    }
    await settle(tx, still, { state: 'cut', cut: null, cutOnce: true, doneAt: now() });
  });
}
