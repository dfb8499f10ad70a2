import { asc, eq, inArray, sql } from 'drizzle-orm';
import { blockOf } from '@/core/search/postings';
import { db, type Tx } from '../db/client';
import { searchPost, searchSegment, searchText } from '../db/schema';
import { apart } from '../db/transaction';

/** Held from the moment a text gets its number until it is committed: numbers are committed in their order. */
const numbersLock = 7_230_018;
/** Rows that one statement writes. */
const rowsAtATime = 2000;

/** Puts a text into the index, in the place of what it had of the same content. */
export async function indexText(
  tx: Tx,
  sha256: string,
  language: string,
  length: number,
  terms: readonly (readonly [term: string, positions: readonly number[]])[],
): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(${numbersLock})`);
  await forgetText(tx, sha256);
  const [last] = await tx
    .select({ number: sql<number>`coalesce(max(${searchSegment.segment} + ${searchSegment.texts}), 1)::int` })
    .from(searchSegment);
  const number = last?.number ?? 1;
  await tx.insert(searchText).values({ sha256, number, language, length });
  await tx.insert(searchSegment).values({ segment: number, texts: 1 });
  const rows = terms.map(([term, positions]) => {
    const { docs, pos } = blockOf([{ number, positions }]);
    return { term, segment: number, texts: 1, docs: Buffer.from(docs), pos: Buffer.from(pos) };
  });
  for (let at = 0; at < rows.length; at += rowsAtATime)
    await tx.insert(searchPost).values(rows.slice(at, at + rowsAtATime));
}

/** Takes a text out of the index: nothing answers to its number any more. */
export async function forgetText(tx: Tx, sha256: string): Promise<void> {
  await tx.delete(searchText).where(eq(searchText.sha256, sha256));
}

/** Segments of about one size are merged when there are so many of them side by side. */
const mergedAtOnce = 24;

/**
 * Merges neighbouring segments of about one size, until there are few of each. Readers see the index as it was or as it is:
 * it is one transaction. Postings of texts that were taken out go along and answer nothing.
 * @returns how many merges there were
 */
export async function mergeSegments(): Promise<number> {
  let merges = 0;
  while (await apart(mergeOnce)) merges += 1;
  return merges;
}

async function mergeOnce(tx: Tx): Promise<boolean> {
  await tx.execute(sql`select pg_advisory_xact_lock(${numbersLock})`);
  const segments = await tx.select().from(searchSegment).orderBy(asc(searchSegment.segment));
  const run = runToMerge(segments);
  const [first] = run;
  if (!first) return false;
  const ids = run.map(({ segment }) => segment);
  await tx.execute(sql`
    with gone as (delete from ${searchPost} where ${inArray(searchPost.segment, ids)} returning *)
    insert into ${searchPost} (term, segment, texts, docs, pos)
    select term, ${first.segment}::integer, sum(texts), string_agg(docs, ''::bytea order by segment),
      string_agg(pos, ''::bytea order by segment)
    from gone group by term`);
  await tx.delete(searchSegment).where(inArray(searchSegment.segment, ids));
  const last = run.at(-1) ?? first;
  // As many numbers as it spans, so that the next text gets one behind it.
  await tx.insert(searchSegment).values({ segment: first.segment, texts: last.segment + last.texts - first.segment });
  return true;
}

/** The first run of neighbours of one size class that is long enough; empty if there is none. */
export function runToMerge<T extends { readonly texts: number }>(segments: readonly T[]): T[] {
  const classOf = ({ texts }: T): number => Math.floor(Math.log(texts) / Math.log(mergedAtOnce));
  let run: T[] = [];
  for (const segment of segments) {
    const [before] = run;
    if (before && classOf(before) !== classOf(segment)) run = [];
    run.push(segment);
    if (run.length === mergedAtOnce) return run;
  }
  return [];
}

/** The languages in which words are looked for: those of the texts, and English, since names say nothing of theirs. */
export async function indexLanguages(): Promise<string[]> {
  const rows = await db().selectDistinct({ language: searchText.language }).from(searchText);
  return [...new Set(['en', ...rows.map(({ language }) => language)])].sort();
}
