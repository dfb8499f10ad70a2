import { eq, sql } from 'drizzle-orm';
import type { FoundPaper } from '@/core/search/contract';
import type { TextIndex } from '@/core/search/evaluate';
import { passageOf } from '@/core/search/passage';
import type { SearchQuestion } from '@/core/search/question';
import { termsFor } from '@/core/search/terms';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { readingPage } from '../db/schema';

/** Pages of one text that are looked at for a passage, and how much of each. */
const [mostPages, mostOfPage] = [12, 60_000];
/** So many letters of a word are there in all its forms, nearly always. */
const stemLetters = 4;

/**
 * The passage of a text that answers a question best; null where none is found. The caller has passed the gate.
 * @param attachedAs the name of the attachment whose text it is
 */
export async function passageIn(
  sha256: string,
  attachedAs: string | null,
  question: SearchQuestion,
  index: TextIndex,
): Promise<FoundPaper['inside']> {
  const { terms, beginnings } = termsFor({ ...question, none: [] }, index.languages);
  const starts = question.all.flatMap(({ words }) => words.map((word) => word.slice(0, stemLetters)));
  const likely = sql.join(
    starts.map((start) => sql`${readingPage.words} ilike ${`%${escapeLike(start)}%`}`),
    sql` or `,
  );
  const pages = await db()
    .select({ page: readingPage.page, words: sql<string>`left(${readingPage.words}, ${mostOfPage}::integer)` })
    .from(readingPage)
    .where(eq(readingPage.sha256, sha256))
    .orderBy(sql`(${likely}) desc`, readingPage.page)
    .limit(mostPages);
  let best: { page: number; passage: NonNullable<ReturnType<typeof passageOf>> } | null = null;
  for (const { page, words } of pages) {
    const passage = passageOf(words, new Set(terms), beginnings, index.languages);
    if (passage && (!best || passage.terms > best.passage.terms)) best = { page, passage };
  }
  return best && { page: best.page, attachment: attachedAs, passage: best.passage.text, marks: best.passage.marks };
}
