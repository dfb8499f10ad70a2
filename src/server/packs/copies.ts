import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createWriteStream } from 'node:fs';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { copyRuns, leftOutOf, placeInCopy, type CopyRun } from '@/core/packs/copies';
import { layOut, type ContentsLine, type PackPlan } from '@/core/packs/layout';
import { mostAttempts } from '@/core/packs/model';
import { laidEntries, type PackRecord } from '@/core/packs/record';
import { readersOf } from '../access/readers';
import { now } from '../base/clock';
import { sha256Hex } from '../base/sha256';
import { contentColumns, readContent } from '../blobs/content';
import { storeBytes } from '../blobs/keep';
import { inFolder, madeBytes } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { db, writableDb, type Tx } from '../db/client';
import { blob, packCopy, packIssue, person, place, scopeEntry } from '../db/schema';
import { transaction } from '../db/transaction';
import { pageOf } from '../documents/pages';
import { logFault } from '../log/fault';
import { drawFront } from './front';
import { addBookmarks, joinPages, type Taken } from './join';
import { issuedPicture } from './picture';

/** After so long without a note of who makes a copy, another worker takes over. */
export const copySilentMs = 60_000;

/** The copies of which the same is left out are one. */
export const leftOutKey = (leftOut: readonly string[]): string => sha256Hex(Buffer.from([...leftOut].sort().join(' ')));

/** A pack as somebody reads it: what is left out, run by run, and the contents that are left. */
export function copyOf(record: PackRecord, leftOut: readonly string[]) {
  const plan = layOut(laidEntries(record.entries), record);
  const out = new Set(leftOut);
  const runs = copyRuns(plan, out);
  const lines = plan.lines.filter(({ entryId }) => entryId === null || !out.has(entryId));
  return { plan, runs, lines };
}

type Issue = Pick<typeof packIssue.$inferSelect, 'id' | 'record'>;

/** Asks for the copies of all who may see the place of a pack, so that they are there when they are opened. */
export async function askForCopies(tx: Tx, issue: Issue, placeId: string): Promise<void> {
  const people = await tx
    .select({ id: person.id, held: sql<number>`coalesce(${scopeEntry.capabilities}, 0)`, keeper: person.keeper })
    .from(person)
    .innerJoin(place, eq(place.id, placeId))
    .leftJoin(scopeEntry, and(eq(scopeEntry.scopeId, place.scopeId), eq(scopeEntry.personId, person.id)))
    .where(and(eq(person.active, true), sql`(${person.keeper} or ${scopeEntry.personId} is not null)`));
  const seenBy = new Map<string, Set<string>>();
  for (const { documentId } of issue.record.entries)
    if (documentId !== null && !seenBy.has(documentId))
      seenBy.set(documentId, new Set((await readersOf(tx, documentId)).map(({ id }) => id)));
  for (const { id, held, keeper } of people) {
    const leftOut = leftOutOf(guarded(issue.record), id, {
      knowsAll: keeper || has(held, 'amend'),
      maySee: (documentId) => seenBy.get(documentId)?.has(id) === true,
    });
    await tx
      .insert(packCopy)
      .values({ issueId: issue.id, leftOutKey: leftOutKey(leftOut), leftOut, askedAt: now() })
      .onConflictDoNothing();
  }
}

/** The entries of an issue with who may know of each. */
export const guarded = ({ entries }: PackRecord) =>
  entries.map(({ id, parentId, documentId, readers }) => ({
    id,
    parentId,
    documentId,
    readers: readers === null ? null : new Set(readers),
  }));

/** Makes the copy that has waited longest. Returns whether there was one. */
export async function makeNextCopy(): Promise<boolean> {
  const silent = new Date(now().getTime() - copySilentMs);
  const [waiting] = await writableDb()
    .update(packCopy)
    .set({ beatAt: now(), attempts: sql`${packCopy.attempts} + 1` })
    .where(
      sql`(${packCopy.issueId}, ${packCopy.leftOutKey}) = (
        select issue_id, left_out_key from ${packCopy} as next
        where next.sha256 is null and next.attempts < ${mostAttempts}
          and (next.beat_at is null or next.beat_at < ${silent.toISOString()}::timestamptz)
        order by next.asked_at for update skip locked limit 1)`,
    )
    .returning();
  if (!waiting) return false;
  try {
    const [issue] = await db()
      .select({ record: packIssue.record, ...contentColumns })
      .from(packIssue)
      .innerJoin(blob, eq(blob.sha256, packIssue.sha256))
      .where(and(eq(packIssue.id, waiting.issueId), eq(packIssue.state, 'done')));
    if (!issue) return true;
    const made = await copied(issue, waiting.leftOut);
    const sha256 = sha256Hex(made.bytes);
    await transaction([], async (tx) => {
      const [still] = await tx
        .select({ sha256: packCopy.sha256 })
        .from(packCopy)
        .where(and(eq(packCopy.issueId, waiting.issueId), eq(packCopy.leftOutKey, waiting.leftOutKey)))
        .for('update');
      if (still?.sha256 !== null) return;
      await storeBytes(tx, sha256, made.bytes);
      await tx
        .update(packCopy)
        .set({ sha256, pages: made.pages })
        .where(
          and(
            eq(packCopy.issueId, waiting.issueId),
            eq(packCopy.leftOutKey, waiting.leftOutKey),
            isNull(packCopy.sha256),
          ),
        );
    });
    await drawFirstPage(sha256);
  } catch (error) {
    logFault(error, { where: 'copy of a pack' });
  }
  return true;
}

/** Has the first page drawn before anybody opens the copy: it is shown at once then. A copy is a copy without it. */
async function drawFirstPage(sha256: string): Promise<void> {
  const [copy] = await db().select(contentColumns).from(blob).where(eq(blob.sha256, sha256));
  if (copy) await pageOf({ ...copy, mediaType: 'application/pdf' }, 1);
}

type Whole = Parameters<typeof readContent>[0] & { readonly record: PackRecord };

/** Somebody's copy: their cover and contents, the pages that they may see, and a sheet for each run of those that they may not. */
function copied(issue: Whole, leftOut: readonly string[]): Promise<{ bytes: Buffer; pages: number }> {
  const { plan, runs, lines } = copyOf(issue.record, leftOut);
  return inFolder(async (folder) => {
    const within = (name: string) => path.join(folder, name);
    await pipeline(Readable.from(readContent(issue)), createWriteStream(within('body.pdf')));
    const out = new Set(leftOut);
    const listed = issue.record.entries.filter(({ id, pages }) => pages === null && !out.has(id));
    const picture = await issuedPicture(issue.record.pictureId ?? null);
    const front = await drawFront(issue.record, { picture, plan, lines, runs, listed });
    await writeFile(within('front.pdf'), front.pdf);
    const taken = takenFor(plan, issue.record.firstPage, runs, within);
    await joinPages(taken, within('copy.pdf'), folder);
    const links = front.links.flatMap(({ on, box, page }) => {
      const to = placeInCopy(runs, page);
      return to === null ? [] : [{ onPage: 2 + on, box, page: to }];
    });
    await addBookmarks(
      within('copy.pdf'),
      bookmarksOf(lines, runs),
      links,
      issue.record.name,
      within('named.pdf'),
      folder,
    );
    const bytes = await madeBytes(within('named.pdf'));
    if (bytes === null) throw new CagedFault('brokeOff');
    const pages = runs.reduce((sum, { kind, from, to }) => sum + (kind === 'pages' ? to - from + 1 : 1), 0);
    return { bytes, pages };
  });
}

/** The pages of a copy in order: of the front, which has cover, contents and sheets; and of the body behind those. */
function takenFor(
  { parts }: PackPlan,
  firstPage: number,
  runs: readonly CopyRun[],
  within: (name: string) => string,
): Taken[] {
  const frontPages = parts
    .filter(({ kind }) => kind === 'cover' || kind === 'contents')
    .reduce((sum, { pages }) => sum + pages, 0);
  const front = within('front.pdf');
  const body = within('body.pdf');
  /** The last page before the body. */
  const before = firstPage + frontPages - 1;
  const filesPage = parts.find(({ kind }) => kind === 'files')?.from ?? null;
  let sheet = frontPages;
  const taken: Taken[] = [{ file: front, ranges: `1-${frontPages}` }];
  for (const { kind, from, to } of runs) {
    if (kind === 'leftOut') {
      sheet += 1;
      taken.push({ file: front, ranges: String(sheet) });
      continue;
    }
    const last = to === filesPage ? to - 1 : to;
    if (last > before && last >= from)
      taken.push({ file: body, ranges: `${Math.max(1, from - before)}-${last - before}` });
  }
  // The list of files is the last page of every copy.
  return filesPage === null ? taken : [...taken, { file: front, ranges: String(sheet + 1) }];
}

function bookmarksOf(lines: readonly ContentsLine[], runs: readonly CopyRun[]) {
  return lines.flatMap(({ title, depth, page }) => {
    const to = page === null ? null : placeInCopy(runs, page);
    return to === null ? [] : [{ title, depth, page: to }];
  });
}
