import { createHash } from 'node:crypto';
import { and, asc, eq, gt, or, sql } from 'drizzle-orm';
import { readPostings } from '@/core/search/postings';
import { termsOfPages } from '@/core/search/textTerms';
import type { Reader } from '../db/client';
import { readingPage, searchPost, searchText } from '../db/schema';
import type { Difference } from './difference';

/** Rows of the index that are read at a time. */
const atATime = 2000;

/**
 * Compares the index of words with the texts: each text's terms and positions, worked out anew, with all that the index has
 * under its number. What it still has of texts that are gone answers nothing, and is not looked at.
 */
export async function wordDifferences(reader: Reader): Promise<Difference[]> {
  const texts = await reader.select().from(searchText);
  const found = await sumsInIndex(reader, new Set(texts.map(({ number }) => number)));
  const differences: Difference[] = [];
  const differ = (about: string, says: string) => differences.push({ of: 'words', about, says });
  for (const { sha256, number, language, length } of texts) {
    const pages = await reader
      .select({ words: readingPage.words })
      .from(readingPage)
      .where(eq(readingPage.sha256, sha256))
      .orderBy(asc(readingPage.page));
    const expected = termsOfPages(
      pages.map(({ words }) => words),
      language,
    );
    if (expected.length !== length) differ(sha256, 'is a text of another length than the index says');
    const sums = new Sums();
    for (const [term, positions] of expected.terms) sums.add(term, positions);
    if (!sums.equals(found.get(number))) differ(sha256, 'is found by other words than stand in it');
  }
  const { rows } = await reader.execute<{ sha256: string }>(sql`
    select stage.sha256 from reading_stage as stage
    where stage.stage = 'terms' and stage.outcome = 'done'
      and exists (select from reading_page where reading_page.sha256 = stage.sha256)
      and not exists (select from search_text where search_text.sha256 = stage.sha256)`);
  for (const { sha256 } of rows) differ(sha256, 'is a text that was read, and is not in the index');
  return differences;
}

/** What the index has of some texts, by their numbers: read in parts, so that it need not fit into memory. */
async function sumsInIndex(reader: Reader, numbers: ReadonlySet<number>): Promise<ReadonlyMap<number, Sums>> {
  const found = new Map<number, Sums>();
  let last: { readonly term: string; readonly segment: number } | null = null;
  for (;;) {
    const rows: (typeof searchPost.$inferSelect)[] = await reader
      .select()
      .from(searchPost)
      .where(
        last
          ? or(
              gt(searchPost.term, last.term),
              and(eq(searchPost.term, last.term), gt(searchPost.segment, last.segment)),
            )
          : undefined,
      )
      .orderBy(asc(searchPost.term), asc(searchPost.segment))
      .limit(atATime);
    for (const { term, docs, pos } of rows) {
      const postings = readPostings(docs, pos);
      postings.numbers.forEach((number, at) => {
        if (!numbers.has(number)) return;
        const sums = found.get(number) ?? new Sums();
        sums.add(term, postings.positionsAt(at));
        found.set(number, sums);
      });
    }
    last = rows.at(-1) ?? null;
    if (rows.length < atATime) return found;
  }
}

/** What stands in a text, in whatever order it is told: how many terms, and a sum of a hash of each with its positions. */
class Sums {
  #terms = 0;
  #sum = 0n;

  add(term: string, positions: ArrayLike<number>): void {
    this.#terms += 1;
    const hash = createHash('sha256')
      .update(`${term} ${Array.from(positions).join()}`)
      .digest();
    this.#sum = (this.#sum + hash.readBigUInt64BE()) & 0xffff_ffff_ffff_ffffn;
  }

  equals(other: Sums | undefined): boolean {
    return this.#terms === (other ? other.#terms : 0) && this.#sum === (other ? other.#sum : 0n);
  }
}
