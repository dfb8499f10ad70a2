import { setImmediate as turn } from 'node:timers/promises';
import { asc, eq } from 'drizzle-orm';
import { countOf, spotsOf, type PlacedWord } from '@/core/reading/find';
import { refuse } from '@/core/errors/refusal';
import { asks } from '../acts/operation';
import { CagedFault } from '../cage/limits';
import { db } from '../db/client';
import { readingPage } from '../db/schema';
import { contentFor } from '../documents/content';
import type { ReadContent } from '../extraction/openContent';
import { placedWords } from './placed';

/**
 * Where a phrase stands in a paper. Needs only `see`: it tells pages and places on them, and no word of the text, so that
 * those may find who may not have copies.
 */
export const findInPaper = asks('paper.findIn', async (actor, { documentId, version, attachment, phrase }) => {
  const { sha256 } = await contentFor(actor, { documentId, version, attachment }, 'see');
  const pages = await db()
    .select({ page: readingPage.page, words: readingPage.words })
    .from(readingPage)
    .where(eq(readingPage.sha256, sha256))
    .orderBy(asc(readingPage.page));
  const found: { page: number; count: number }[] = [];
  for (const [index, { page, words }] of pages.entries()) {
    const count = countOf(words, phrase);
    if (count > 0) found.push({ page, count });
    // Thousands of pages take a while: others are answered in between.
    if (index % pagesAtATime === pagesAtATime - 1) await turn();
  }
  return { pages: found };
});

/** Where a phrase stands on one page, as the page is drawn. */
export const spotsInPaper = asks('paper.spots', async (actor, { documentId, version, attachment, phrase, page }) => {
  const content = await contentFor(actor, { documentId, version, attachment }, 'see');
  return { spots: await spotsOnPage(content, page, phrase) };
});

/** Where a phrase stands on one page of content. The caller has passed the gate. */
export const spotsOnPage = async (content: ReadContent, page: number, phrase: string) =>
  spotsOf((await wordsOf(content, page))[0] ?? [], phrase);

const wordsOf = (content: ReadContent, page: number): Promise<PlacedWord[][]> =>
  placedWords(content, page, page).catch((error: unknown) => {
    if (!(error instanceof CagedFault)) throw error;
    return refuse('too-large', 'This page takes too long, or too much room, to be searched.');
  });

const pagesAtATime = 50;
