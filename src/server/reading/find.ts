import { setImmediate as turn } from 'node:timers/promises';
import { asc, eq } from 'drizzle-orm';
import { countOf, spotsOf, type PlacedWord } from '@/core/reading/find';
import { refuse } from '@/core/errors/refusal';
import { asks } from '../acts/operation';
import { inFolder } from '../cage/file';
import { CagedFault, pageLimits } from '../cage/limits';
import { runProgram } from '../cage/program';
import { db } from '../db/client';
import { readingPage } from '../db/schema';
import { contentFor } from '../documents/content';
import { OpenContent, type ReadContent } from '../extraction/openContent';
import { Turns } from '@/core/collections/turns';

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
  spotsOf(await placedWords(content, page), phrase);

const pagesAtATime = 50;
const turns = new Turns(2);

/** The words of a page with their places. */
async function placedWords(content: ReadContent, page: number): Promise<PlacedWord[]> {
  const [first, last] = [String(page), String(page)];
  const end = await turns
    .run(() =>
      inFolder(async (folder) => {
        const pages = await new OpenContent(content, folder, false).searchable();
        if (pages === null) return null;
        return runProgram('pdftotext', ['-bbox', '-f', first, '-l', last, pages, '-'], folder, pageLimits);
      }),
    )
    .catch((error: unknown) => {
      if (!(error instanceof CagedFault)) throw error;
      return refuse('too-large', 'This page takes too long, or too much room, to be searched.');
    });
  return end?.ok ? wordsOf(end.printed) : [];
}

const number = '([\\d.]+)';
const pageTag = new RegExp(`<page width="${number}" height="${number}"`, 'u');
const wordTag = new RegExp(
  `<word xMin="${number}" yMin="${number}" xMax="${number}" yMax="${number}">([^<]*)</word>`,
  'gu',
);
const entities: Readonly<Record<string, string>> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&quot;': '"',
  '&#39;': "'",
};

/** Reads what `pdftotext -bbox` prints of a page. */
function wordsOf(printed: string): PlacedWord[] {
  const [, wide = '1', high = '1'] = pageTag.exec(printed) ?? [];
  const [width, height] = [Number(wide), Number(high)];
  return [...printed.matchAll(wordTag)].map(([, left, top, right, bottom, text = '']) => ({
    text: text.replace(/&(?:amp|lt|gt|quot|#39);/gu, (entity) => entities[entity] ?? entity),
    left: Number(left) / width,
    top: Number(top) / height,
    right: Number(right) / width,
    bottom: Number(bottom) / height,
  }));
}
