import { asc, eq, sql } from 'drizzle-orm';
import type { ProposedPart } from '@/core/intake/model';
import { differingOnPage, statedByData } from '@/core/invoices/stated';
import type { PlacedWord } from '@/core/reading/find';
import { mostPages } from '@/core/stated/model';
import { placedLines } from '@/core/stated/rows';
import { statedIn } from '@/core/stated/stated';
import type { Around, Stated } from '@/core/stated/model';
import { contentColumns } from '../blobs/content';
import { CagedFault } from '../cage/limits';
import { db } from '../db/client';
import { blob, reading, readingPage } from '../db/schema';
import type { ReadContent } from '../extraction/openContent';
import { placedWords } from '../reading/placed';
import { billIn } from './bill';

/** So much of the text of a page is looked through. In characters. */
const mostText = 40_000;

/** What some content that has been read states: as data where it has any, else as it is read off its pages. */
export async function statedBy(
  sha256: string,
  mediaType: string,
  around: Around,
): Promise<Pick<ProposedPart, 'bill' | 'differs'> & { readonly stated: readonly Stated[] }> {
  const content = await contentOf(sha256);
  if (!content) return { stated: [] };
  const bill = await billIn({ ...content, mediaType });
  const onPage = statedIn(await wordsOf({ ...content, mediaType }), around);
  if (!bill) return { stated: onPage };
  const data = statedByData(bill);
  // The pages of what is data alone were made of it.
  const differs = mediaType === 'application/pdf' ? differingOnPage(data, onPage) : [];
  return { stated: withPlaces(data, onPage), bill, differs };
}

/** What the data says, at the places on the page where the same was read. */
const withPlaces = (data: readonly Stated[], onPage: readonly Stated[]): Stated[] =>
  data.map((each) => {
    const same = onPage.find(({ kind, value }) => kind === each.kind && value === each.value);
    return same ? { ...each, page: same.page, spot: same.spot } : each;
  });

/** The words of the first pages of some content that has been read, and of its last, with their places; between them nothing. */
export async function pagesOf({ sha256, mediaType }: Pick<Known, 'sha256' | 'mediaType'>): Promise<PlacedWord[][]> {
  const content = await contentOf(sha256);
  return content ? wordsOf({ ...content, mediaType }) : [];
}

async function contentOf(sha256: string) {
  const [content] = await db()
    .select({ ...contentColumns, pages: reading.pageCount })
    .from(blob)
    .leftJoin(reading, eq(reading.sha256, blob.sha256))
    .where(eq(blob.sha256, sha256));
  return content;
}

type Known = ReadContent & { readonly pages: number | null };

async function wordsOf(content: Known): Promise<PlacedWord[][]> {
  const { sha256 } = content;
  const pages = content.pages ?? 0;
  const placed = pages === 0 ? [] : await placedOn(content, pages).catch(nothingIfCaged);
  if (placed.some((words) => words.length > 0)) return placed;
  const rows = await db()
    .select({ words: sql<string>`left(${readingPage.words}, ${mostText})` })
    .from(readingPage)
    .where(eq(readingPage.sha256, sha256))
    .orderBy(asc(readingPage.page))
    .limit(mostPages);
  return rows.map(({ words }) => placedLines(words));
}

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
