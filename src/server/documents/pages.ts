import { and, eq, lt, sql } from 'drizzle-orm';
import { Turns } from '@/core/collections/turns';
import { refuse } from '@/core/errors/refusal';
import { contentFile, inFolder } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { now } from '../base/clock';
import { db } from '../db/client';
import { pagePicture } from '../db/schema';
import { drawPage, isDrawn } from '../extraction/pages';

/** The longer side of a page on the screen, in pixels: enough to read by, and no original. */
const pageSize = 1600;
/** Larger content is not written to disk to draw a page of it. */
const greatestBytes = 300_000_000;
/** So many pages are drawn at once in one process; whoever asks for more waits. */
const mostAtOnce = 2;
/** A page that nobody has looked at for so long is drawn anew the next time. */
const keptDays = 7;

interface Drawable {
  readonly sha256: string;
  readonly contentId: string;
  readonly sizeBytes: number;
  readonly mediaType: string;
}

const turns = new Turns(mostAtOnce);

async function kept(sha256: string, page: number): Promise<Buffer | null> {
  const [found] = await db()
    .update(pagePicture)
    .set({ usedAt: now() })
    .where(and(eq(pagePicture.sha256, sha256), eq(pagePicture.page, page)))
    .returning({ picture: pagePicture.picture });
  return found?.picture ?? null;
}

/**
 * A page of some content, from 1, as a JPEG: drawn once, in a caged process, and kept. The caller has passed the gate.
 * @throws Refusal `kind-refused` for kinds whose pages cannot be drawn, `invalid` for a page that there is not
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
  await db().insert(pagePicture).values({ sha256: content.sha256, page, picture }).onConflictDoNothing();
  return picture;
}

/** Lets go of pages that nobody has looked at for a week. */
export async function sweepPages(): Promise<void> {
  await db()
    .delete(pagePicture)
    .where(lt(pagePicture.usedAt, sql`${now()}::timestamptz - ${`${keptDays} days`}::interval`));
}
