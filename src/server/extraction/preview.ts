import { and, eq, isNull, sql } from 'drizzle-orm';
import type { ReadingFault } from '@/core/documents/reading';
import { contentColumns } from '../blobs/content';
import type { Content } from '../blobs/contentStore';
import { contentFile, inFolder } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { db, writableDb } from '../db/client';
import { blob, document, preview, readingAttempt, version } from '../db/schema';
import { apart } from '../db/transaction';
import { drawPage } from './pages';
import { wordsIn } from './words';

/** The longer side of a first page's picture, in pixels. */
const pictureSize = 560;
/** Larger content gets no picture. */
const greatestBytes = 200_000_000;
/** Attempts at reading content that stops or crashes its reader. */
const mostAttempts = 2;

interface Preview {
  readonly pageCount: number | null;
  readonly picture: Buffer | null;
  readonly wordCount: number | null;
  readonly fault: ReadingFault | null;
}

const nothing: Preview = { pageCount: null, picture: null, wordCount: null, fault: null };

/**
 * Makes the picture of some content and counts its pages and words, once, for all papers with that content. Attempts are
 * counted before they begin, so that content which crashes the process counts too; after the second the content is marked
 * and not read again.
 * @throws CagedFault if this attempt failed and another one is due
 */
export async function makePreview(sha256: string): Promise<void> {
  const [there] = await db().select({ sha256: preview.sha256 }).from(preview).where(eq(preview.sha256, sha256));
  if (there) return;
  const [found] = await db()
    .select({ ...contentColumns, mediaType: version.mediaType })
    .from(blob)
    .innerJoin(version, eq(version.sha256, blob.sha256))
    .where(eq(blob.sha256, sha256))
    .limit(1);
  if (!found) return;
  const attempt = await countAttempt(sha256);
  const made = attempt > mostAttempts ? { ...nothing, fault: 'brokeOff' as const } : await attempted(found, attempt);
  await apart(async (tx) => {
    await tx
      .insert(preview)
      .values({ sha256, ...made })
      .onConflictDoNothing();
    await tx.delete(readingAttempt).where(eq(readingAttempt.sha256, sha256));
    if (made.pageCount === null && made.wordCount === null) return;
    await tx
      .update(document)
      .set({ pageCount: made.pageCount, wordCount: made.wordCount })
      .where(
        and(
          isNull(document.pageCount),
          isNull(document.wordCount),
          sql`${document.versionId} in (select ${version.id} from ${version} where ${version.sha256} = ${sha256})`,
        ),
      );
  });
}

async function countAttempt(sha256: string): Promise<number> {
  const [row] = await writableDb()
    .insert(readingAttempt)
    .values({ sha256, attempts: 1 })
    .onConflictDoUpdate({ target: readingAttempt.sha256, set: { attempts: sql`${readingAttempt.attempts} + 1` } })
    .returning({ attempts: readingAttempt.attempts });
  return row?.attempts ?? 1;
}

const hasPages = (mediaType: string): boolean => mediaType === 'application/pdf' || mediaType.startsWith('image/');

interface Found extends Content {
  readonly mediaType: string;
}

async function attempted(found: Found, attempt: number): Promise<Preview> {
  if (found.sizeBytes > greatestBytes) return nothing;
  try {
    return await inFolder(async (folder) => {
      const file = await contentFile(folder, found);
      const { mediaType } = found;
      // Plain text has no pages of its own; it is laid out on pages only for people who may not take copies.
      const drawn = hasPages(mediaType)
        ? await drawPage(file, mediaType, 1, pictureSize)
        : { pageCount: null, picture: null };
      return { ...drawn, wordCount: await wordsIn(file, mediaType), fault: null };
    });
  } catch (error) {
    if (!(error instanceof CagedFault)) throw error;
    if (attempt < mostAttempts) throw error;
    return { ...nothing, fault: error.why };
  }
}
