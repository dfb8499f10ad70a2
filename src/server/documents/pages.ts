import path from 'node:path';
import { and, eq, lt, sql } from 'drizzle-orm';
import { Turns } from '@/core/collections/turns';
import { refuse } from '@/core/errors/refusal';
import { shownForm } from '@/core/reading/form';
import { bytesFile, inFolder, madeBytes } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { readCaged } from '../cage/reader';
import { now } from '../base/clock';
import { writableDb } from '../db/client';
import { pagePicture } from '../db/schema';
import { OpenContent, type ReadContent } from '../extraction/openContent';
import { drawPage } from '../extraction/pages';

/** The longer side of a page picture, in pixels: enough for reading. */
const pageSize = 1600;
/** Pages of larger content are not drawn. */
const greatestBytes = 300_000_000;
/** How many pages are drawn at once per process; others wait. */
const mostAtOnce = 2;
/** Page pictures are kept this long after they were last shown. */
const keptDays = 7;

const turns = new Turns(mostAtOnce);

async function kept(sha256: string, page: number): Promise<Buffer | null> {
  const [found] = await writableDb()
    .update(pagePicture)
    .set({ usedAt: now() })
    .where(and(eq(pagePicture.sha256, sha256), eq(pagePicture.page, page)))
    .returning({ picture: pagePicture.picture });
  return found?.picture ?? null;
}

/**
 * A page of some content (from 1) as a JPEG, drawn once in a caged process and kept. The caller has passed the gate.
 * @throws Refusal `kind-refused` for content that has no pages (yet), `invalid` for a page that does not exist
 */
export async function pageOf(content: ReadContent, page: number): Promise<Buffer> {
  if (content.sizeBytes > greatestBytes) refuse('too-large', 'This paper is too large to draw its pages here.');
  return (
    (await kept(content.sha256, page)) ??
    turns.run(async () => (await kept(content.sha256, page)) ?? draw(content, page))
  );
}

async function draw(content: ReadContent, page: number): Promise<Buffer> {
  const picture = await inFolder(async (folder) => {
    const opened = new OpenContent(content, folder, false);
    if (shownForm(content.mediaType) === 'picture') return drawPage(await opened.file(), 'picture', page, pageSize);
    const pages = await opened.pages();
    if (pages === null)
      refuse('kind-refused', 'This paper has no pages to show, or they are not made yet. It takes a copy to read it.');
    return drawPage(pages, 'pages', page, pageSize);
  }).catch((error: unknown) => {
    if (!(error instanceof CagedFault)) throw error;
    return refuse('too-large', 'This page takes too long, or too much room, to be drawn.');
  });
  if (picture === null)
    refuse('invalid', 'There is no such page, or it cannot be read.', [
      { path: 'page', says: 'There is no such page, or it cannot be read.' },
    ]);
  await writableDb().insert(pagePicture).values({ sha256: content.sha256, page, picture }).onConflictDoNothing();
  return picture;
}

/**
 * The same for someone who may not have copies, with a light mark of who reads and when. The mark is made anew for each
 * reader; only the page itself is kept.
 */
export async function markedPageOf(content: ReadContent, page: number, words: string): Promise<Buffer> {
  const picture = await pageOf(content, page);
  const marked = await turns.run(() =>
    inFolder(async (folder) => {
      await readCaged('mark', await bytesFile(folder, picture), { words });
      return madeBytes(path.join(folder, 'picture'));
    }),
  );
  return marked ?? refuse('unavailable');
}

/** Deletes page pictures that were not shown for a week. */
export async function sweepPages(): Promise<void> {
  await writableDb()
    .delete(pagePicture)
    .where(lt(pagePicture.usedAt, sql`${now()}::timestamptz - ${`${keptDays} days`}::interval`));
}
