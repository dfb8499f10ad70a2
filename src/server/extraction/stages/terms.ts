import { writeFile } from 'node:fs/promises';
import { asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { madeBytes } from '../../cage/file';
import { CagedFault } from '../../cage/limits';
import { readCaged } from '../../cage/reader';
import { db } from '../../db/client';
import { reading, readingPage } from '../../db/schema';
import { forgetText, indexText } from '../../postings/keep';
import { done, nothing, type RunStage } from './stageEnd';

const written = z.array(z.tuple([z.string().min(1), z.array(z.number().int().nonnegative()).min(1)]));

/** In which the words of a text are stemmed that is too short to tell its language: questions are stemmed so too. */
const otherwise = 'en';

/** Puts the words of a text into the index by which papers are found. */
export const runTerms: RunStage = async (opened) => {
  const { sha256 } = opened.content;
  const pages = await db()
    .select({ words: readingPage.words })
    .from(readingPage)
    .where(eq(readingPage.sha256, sha256))
    .orderBy(asc(readingPage.page));
  if (pages.length === 0) return { ...nothing, write: (tx) => forgetText(tx, sha256) };
  const [found] = await db().select({ language: reading.language }).from(reading).where(eq(reading.sha256, sha256));
  const language = found?.language ?? otherwise;
  const file = opened.within('pages.json');
  await writeFile(file, JSON.stringify(pages.map(({ words }) => words)));
  const { length } = await readCaged('terms', file, { language });
  const told = await madeBytes(opened.within('terms'));
  const terms = written.safeParse(told ? JSON.parse(told.toString('utf8')) : null);
  if (!terms.success) throw new CagedFault('brokeOff');
  return { ...done, write: (tx) => indexText(tx, sha256, language, length, terms.data) };
};
