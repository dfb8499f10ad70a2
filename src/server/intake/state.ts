import { asc, eq, sql } from 'drizzle-orm';
import type { PlacedWord } from '@/core/reading/find';
import { mostPages } from '@/core/stated/model';
import { placedLines } from '@/core/stated/rows';
import { statedIn } from '@/core/stated/stated';
import type { Around, Stated } from '@/core/stated/model';
import { contentColumns } from '../blobs/content';
import { CagedFault } from '../cage/limits';
import { db } from '../db/client';
import { blob, reading, readingPage } from '../db/schema';
import { placedWords } from '../reading/placed';

/** So much of the text of a page is looked through. In characters. */
const mostText = 40_000;

/** What some content that has been read states. */
export async function statedBy(sha256: string, mediaType: string, around: Around): Promise<Stated[]> {
  const [content] = await db()
    .select({ ...contentColumns, pages: reading.pageCount })
    .from(blob)
    .leftJoin(reading, eq(reading.sha256, blob.sha256))
    .where(eq(blob.sha256, sha256));
  if (!content) return [];
  const pages = content.pages ?? 0;
  const placed = pages === 0 ? [] : await placedOn({ ...content, mediaType }, pages).catch(nothingIfCaged);
  if (placed.some((words) => words.length > 0)) return statedIn(placed, around);
  const rows = await db()
    .select({ words: sql<string>`left(${readingPage.words}, ${mostText})` })
    .from(readingPage)
    .where(eq(readingPage.sha256, sha256))
    .orderBy(asc(readingPage.page))
    .limit(mostPages);
  return statedIn(
    rows.map(({ words }) => placedLines(words)),
    around,
  );
}

/** The words of its first pages and of the last, each at its own number; between them nothing. */
async function placedOn(content: Parameters<typeof placedWords>[0], pages: number): Promise<PlacedWord[][]> {
  if (pages <= mostPages) return placedWords(content, 1, pages);
  const first = await placedWords(content, 1, mostPages - 1);
  const [last = []] = await placedWords(content, pages, pages);
  return [...first, ...Array.from({ length: pages - first.length - 1 }, () => []), last];
}

function nothingIfCaged(error: unknown): PlacedWord[][] {
  if (!(error instanceof CagedFault)) throw error;
  return [];
}
