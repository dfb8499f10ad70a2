import { and, eq, lt, sql } from 'drizzle-orm';
import { Turns } from '@/core/collections/turns';
import { refuse } from '@/core/errors/refusal';
import type { Content } from '../blobs/contentStore';
import { contentFile, inFolder } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { now } from '../base/clock';
import { writableDb } from '../db/client';
import { pagePicture } from '../db/schema';
import { drawPage, isDrawn } from '../extraction/pages';

/** The longer side of a page picture, in pixels: enough for reading. */
const pageSize = 1600;
/** Pages of larger content are not drawn. */
const greatestBytes = 300_000_000;
/** How many pages are drawn at once per process; others wait. */
const mostAtOnce = 2;
/** Page pictures are kept this long after they were last shown. */
const keptDays = 7;

interface Drawable extends Content {
  readonly mediaType: string;
}

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
 * @throws Refusal `kind-refused` for kinds whose pages cannot be drawn, `invalid` for a page that does not exist
 */
export async function pageOf(content: Drawable, page: number): Promise<Buffer> {
  if (!isDrawn(content.mediaType))
    refuse('kind-refused', 'Pages of this kind of file cannot be drawn here yet. It takes a copy to read it.');
  if (content.sizeBytes > greatestBytes) refuse('too-large', 'This paper is too large to draw its pages here.');
  return (
    (await kept(content.sha256, page)) ??
    turns.run(async () => (await kept(content.sha256, page)) ?? draw(content, page))
  );
}

async function draw(content: Drawable, page: number): Promise<Buffer> {
  const { picture } = await inFolder(async (folder) =>
    drawPage(await contentFile(folder, content), content.mediaType, page, pageSize),
  ).catch((error: unknown) => {
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

/** Deletes page pictures that were not shown for a week. */
export async function sweepPages(): Promise<void> {
  await writableDb()
    .delete(pagePicture)
    .where(lt(pagePicture.usedAt, sql`${now()}::timestamptz - ${`${keptDays} days`}::interval`));
}
