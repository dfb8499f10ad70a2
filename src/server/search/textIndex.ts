import { gt, inArray, sql } from 'drizzle-orm';
import type { TextIndex } from '@/core/search/evaluate';
import { readPostings, type Postings } from '@/core/search/postings';
import type { SearchQuestion } from '@/core/search/question';
import { termsFor } from '@/core/search/terms';
import { db } from '../db/client';
import { searchPost, searchText } from '../db/schema';
import { indexTotals } from './keep';

const held = globalThis as typeof globalThis & { embrinLengths?: { lengths: Map<number, number>; last: number } };

/** How many words each text has, kept from one question to the next: numbers are never used again. */
async function lengths(): Promise<ReadonlyMap<number, number>> {
  const known = (held.embrinLengths ??= { lengths: new Map(), last: 0 });
  const rows = await db()
    .select({ number: searchText.number, length: searchText.length })
    .from(searchText)
    .where(gt(searchText.number, known.last));
  for (const { number, length } of rows) {
    known.lengths.set(number, length);
    known.last = Math.max(known.last, number);
  }
  return known.lengths;
}

/** The part of the index that a question needs. */
export async function indexFor(question: SearchQuestion): Promise<TextIndex> {
  const [{ languages, texts, meanLength }, known] = await Promise.all([indexTotals(), lengths()]);
  const { terms, beginnings } = termsFor(question, languages);
  const begun = new Map<string, string[]>();
  for (const start of beginnings) begun.set(start, await beginningWith(start));
  const all = [...new Set([...terms, ...[...begun.values()].flat()])];
  const rows =
    all.length === 0
      ? []
      : await db()
          .select({
            term: searchPost.term,
            docs: sql<Buffer>`string_agg(${searchPost.docs}, ''::bytea order by ${searchPost.segment})`,
            pos: sql<Buffer>`string_agg(${searchPost.pos}, ''::bytea order by ${searchPost.segment})`,
          })
          .from(searchPost)
          .where(inArray(searchPost.term, all))
          .groupBy(searchPost.term);
  const postings = new Map<string, Postings>(rows.map(({ term, docs, pos }) => [term, readPostings(docs, pos)]));
  return {
    languages,
    texts,
    meanLength,
    lengthOf: (number) => known.get(number) ?? 0,
    postings: (term) => postings.get(term) ?? null,
    beginningWith: (start) => begun.get(start) ?? [],
  };
}

/** The most frequent terms that begin so. */
async function beginningWith(start: string): Promise<string[]> {
  const rows = await db()
    .select({ term: searchPost.term })
    .from(searchPost)
    .where(sql`${searchPost.term} >= ${start} and ${searchPost.term} < ${`${start}\u{10ffff}`}`)
    .groupBy(searchPost.term)
    .orderBy(sql`sum(${searchPost.texts}) desc`, searchPost.term)
    .limit(64);
  return rows.map(({ term }) => term);
}
