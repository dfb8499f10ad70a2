import { rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { and, eq, sql } from 'drizzle-orm';
import { layOut } from '@/core/packs/layout';
import { stampInWords } from '@/core/packs/letIn';
import { mostAttempts, type IssueFault } from '@/core/packs/model';
import { asRanges } from '@/core/packs/pageChoice';
import { laidEntries, type IssuedEntry, type PackRecord } from '@/core/packs/record';
import { shownForm } from '@/core/reading/form';
import { appendToJournal } from '../acts/append';
import { now } from '../base/clock';
import { sha256Hex } from '../base/sha256';
import { contentColumns } from '../blobs/content';
import { storeBytes } from '../blobs/keep';
import { inFolder, madeBytes } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { db, writableDb } from '../db/client';
import { blob, document, pack, packIssue, version } from '../db/schema';
import { transaction } from '../db/transaction';
import { OpenContent } from '../extraction/openContent';
import { drawPage } from '../extraction/pages';
import { logFault } from '../log/fault';
import { drawSheets, drawStamps, picturePages } from './front';
import { joinPages, layOver, pageSizes, type Taken } from './join';
import { askForCopies } from './copies';

/** After so long without a note of who makes it, another worker takes over. */
const silentMs = 30_000;
const beatMs = 1000;
/** The longer side of a picture that becomes a page, in pixels: 200 to the inch of A4. */
const pictureSize = 2340;
/** A scan has so many pages at most. */
const mostPictures = 500;

/** The issue was stopped, or another worker has taken it over. */
class NoLongerMine extends Error {
  override readonly name = 'NoLongerMine';
}
/** A paper is not what it was when the pack was issued. */
class PaperInTheWay extends Error {
  override readonly name = 'PaperInTheWay';
}

type Issue = typeof packIssue.$inferSelect;

/** Makes the issue that has waited longest. Returns whether there was one. One whole pack comes of it, or none. */
export async function makeNextIssue(): Promise<boolean> {
  const issue = await claim();
  if (!issue) return false;
  try {
    await make(issue);
  } catch (error) {
    if (error instanceof NoLongerMine) return true;
    const fault = faultOf(error);
    if (fault === null) {
      logFault(error, { where: 'pack' });
      // Another attempt follows once nobody has been heard of it for a while.
      if (issue.attempts < mostAttempts) return true;
    }
    const faultWords = error instanceof PaperInTheWay ? error.message : '';
    await writableDb()
      .update(packIssue)
      .set({ state: 'failed', fault: fault ?? 'gaveUp', faultWords })
      .where(mine(issue));
  }
  return true;
}

/** One worker gets it: who reads at the same moment skips the row. */
async function claim(): Promise<Issue | undefined> {
  const silent = new Date(now().getTime() - silentMs);
  const [issue] = await writableDb()
    .update(packIssue)
    .set({ state: 'making', begunAt: now(), beatAt: now(), done: 0, attempts: sql`${packIssue.attempts} + 1` })
    .where(
      sql`${packIssue.id} = (
        select id from ${packIssue} as next
        where next.state = 'waiting' or (next.state = 'making' and next.beat_at < ${silent.toISOString()}::timestamptz)
        order by next.asked_at for update skip locked limit 1)`,
    )
    .returning();
  if (!issue || issue.attempts <= mostAttempts) return issue;
  await writableDb().update(packIssue).set({ state: 'failed', fault: 'gaveUp' }).where(mine(issue));
  return undefined;
}

const mine = ({ id, attempts }: Issue) =>
  and(eq(packIssue.id, id), eq(packIssue.attempts, attempts), eq(packIssue.state, 'making'));

/** Notes how far it is. @throws NoLongerMine */
async function note(issue: Issue, done: number): Promise<void> {
  const noted = await writableDb()
    .update(packIssue)
    .set({ done, beatAt: now() })
    .where(mine(issue))
    .returning({ id: packIssue.id });
  if (noted.length === 0) throw new NoLongerMine();
}

async function make(issue: Issue): Promise<void> {
  let done = 0;
  let lost: unknown = null;
  const beating = setInterval(() => {
    note(issue, done).catch((error: unknown) => {
      lost = error;
    });
  }, beatMs);
  try {
    const whole = await inFolder((folder) =>
      bodyOf(issue.record, folder, () => {
        if (lost !== null) throw lost;
        done += 1;
      }),
    );
    clearInterval(beating);
    await note(issue, done);
    await keep(issue, whole.bytes, whole.total);
  } finally {
    clearInterval(beating);
  }
}

/** Keeps what was made and says that it is issued, in one transaction. */
async function keep(issue: Issue, bytes: Buffer, total: number): Promise<void> {
  const sha256 = sha256Hex(bytes);
  await transaction([], async (tx) => {
    const [still] = await tx.select({ id: packIssue.id }).from(packIssue).where(mine(issue)).for('update');
    if (!still) throw new NoLongerMine();
    await storeBytes(tx, sha256, bytes);
    await tx
      .update(packIssue)
      .set({ state: 'done', issuedAt: now(), sha256, pages: total })
      .where(eq(packIssue.id, issue.id));
    const [found] = await tx
      .select({ placeId: pack.placeId, name: pack.name })
      .from(pack)
      .where(eq(pack.id, issue.packId));
    if (!found) throw new NoLongerMine();
    await askForCopies(tx, issue, found.placeId);
    const detail = { name: issue.record.name, called: issue.called, pages: total };
    await appendToJournal(tx, null, { act: 'pack.issued', subjects: [found.placeId], detail });
  });
}

/**
 * The pages of the whole pack behind its contents, stamped with their numbers: sheets and papers. Cover, contents and the list of
 * files are made for each copy.
 */
async function bodyOf(
  record: PackRecord,
  folder: string,
  onPaper: () => void,
): Promise<{ bytes: Buffer; total: number }> {
  const plan = layOut(laidEntries(record.entries), record);
  const byId = new Map(record.entries.map((entry) => [entry.id, entry]));
  const sheets = plan.parts.filter(({ kind }) => kind === 'sheet');
  const sheetFile = path.join(folder, 'sheets.pdf');
  await writeFile(sheetFile, await drawSheets(sheets.map(({ entryId }) => byId.get(entryId ?? '')?.title ?? '')));
  const taken: Taken[] = [];
  const papers: { readonly entry: IssuedEntry; readonly file: string }[] = [];
  let sheet = 0;
  for (const part of plan.parts) {
    if (part.kind === 'sheet') {
      sheet += 1;
      taken.push({ file: sheetFile, ranges: String(sheet) });
    } else if (part.kind === 'paper') {
      const entry = byId.get(part.entryId ?? '');
      if (!entry?.pages) throw new Error('A paper of the plan is not in the record');
      const file = path.join(folder, `${taken.length}.pdf`);
      await writePaper(entry, file);
      papers.push({ entry, file });
      taken.push({ file, ranges: asRanges(entry.pages) });
      onPaper();
    }
  }
  // A pack of files alone has no pages of its own, and a file at least one.
  if (taken.length === 0) taken.push({ file: sheetFile, ranges: '1' });
  const within = (name: string) => path.join(folder, name);
  try {
    await joinPages(taken, within('joined.pdf'), folder);
  } catch (error) {
    await requireWhole(papers, folder);
    throw error;
  }
  const sizes = await pageSizes(within('joined.pdf'), folder);
  const firstPage = plan.parts.find(({ kind }) => kind === 'sheet' || kind === 'paper')?.from ?? record.firstPage;
  const words = (at: number) => stampInWords(record, firstPage + at, plan.total);
  await writeFile(within('stamps.pdf'), await drawStamps(sizes, record.stampPlace, words));
  await layOver(within('joined.pdf'), within('stamps.pdf'), within('body.pdf'), folder);
  const bytes = await madeBytes(within('body.pdf'));
  if (bytes === null) throw new CagedFault('brokeOff');
  return { bytes, total: plan.total };
}

/** Finds the paper for which pages could not be joined. @throws PaperInTheWay */
async function requireWhole(
  papers: readonly { readonly entry: IssuedEntry; readonly file: string }[],
  folder: string,
): Promise<void> {
  for (const { entry, file } of papers) {
    const sizes = await pageSizes(file, folder).catch((error: unknown) => {
      if (!(error instanceof CagedFault)) throw error;
      throw new PaperInTheWay(`“${entry.title}” cannot be opened: it may be protected or damaged.`);
    });
    if (entry.pages?.some((page) => page > sizes.length))
      throw new PaperInTheWay(`“${entry.title}” has fewer pages than it had.`);
  }
}

/** Writes the pages of a paper as a PDF. @throws PaperInTheWay */
async function writePaper(entry: IssuedEntry, file: string): Promise<void> {
  const inTheWay = (says: string) => new PaperInTheWay(`“${entry.title}” ${says}`);
  const [found] = await db()
    .select({ mediaType: version.mediaType, disposedAt: document.disposedAt, ...contentColumns })
    .from(version)
    .innerJoin(document, eq(document.id, version.documentId))
    .innerJoin(blob, eq(blob.sha256, version.sha256))
    .where(eq(version.id, entry.versionId ?? entry.id));
  if (!found || found.disposedAt !== null) throw inTheWay('was disposed of meanwhile.');
  await inFolder(async (own) => {
    const opened = new OpenContent(found, own, false);
    if (shownForm(found.mediaType) === 'picture') {
      const pictures = await picturesOf(await opened.file(), Math.max(...(entry.pages ?? []), 1));
      await writeFile(file, await picturePages(pictures));
      return;
    }
    const pages = await opened.pages();
    if (pages === null) throw inTheWay('has no pages.');
    await rename(pages, file);
  });
}

async function picturesOf(file: string, pages: number): Promise<Buffer[]> {
  const pictures: Buffer[] = [];
  for (let page = 1; page <= Math.min(pages, mostPictures); page += 1) {
    const picture = await drawPage(file, 'picture', page, pictureSize);
    if (picture === null) break;
    pictures.push(picture);
  }
  return pictures;
}

/** What a person is told; null for what only the log understands. */
function faultOf(error: unknown): IssueFault | null {
  if (error instanceof PaperInTheWay) return 'papers';
  if (error instanceof CagedFault && error.why === 'tooLarge') return 'tooLarge';
  const code = typeof error === 'object' && error !== null && 'code' in error ? error.code : null;
  return code === 'ENOSPC' || code === 'EDQUOT' ? 'disk' : null;
}
