import { writeFile } from 'node:fs/promises';
import { asc, eq, sql } from 'drizzle-orm';
import { bandsOf } from '@/core/likeness/sketch';
import { storable } from '@/core/text/storable';
import { readCaged } from '../../cage/reader';
import { db } from '../../db/client';
import { likenessBand, reading, readingPage } from '../../db/schema';
import { done, nothing, type RunStage } from './stageEnd';

/** What a text is about stands in its beginning. In characters. */
const mostWeighed = 200_000;
/** Titles that programs give to whatever they print say nothing. */
const emptyTitle = /^(?:untitled|document\d*|slide \d+|powerpoint presentation|microsoft .*|.*\.\w{2,4})$/iu;

/** Finds what is known of a content as a whole: language, the file's own title and author, a summary, key words. */
export const runFacts: RunStage = async (opened) => {
  const { sha256 } = opened.content;
  const pages = await db()
    .select({ words: sql<string>`left(${readingPage.words}, ${mostWeighed})` })
    .from(readingPage)
    .where(eq(readingPage.sha256, sha256))
    .orderBy(asc(readingPage.page))
    .limit(100);
  const text = pages
    .map(({ words }) => words)
    .join('\n\n')
    .slice(0, mostWeighed);
  const file = opened.within('facts.txt');
  await writeFile(file, text);
  const told = text.trim() === '' ? nothingTold : await readCaged('facts', file, {});
  const info = opened.formFailed ? null : await opened.info();
  const { title, author } = info === null || typeof info === 'string' ? { title: null, author: null } : info;
  const facts = {
    language: told.language,
    summary: told.summary.map(storable),
    keyWords: told.keyWords.map(storable),
    title: title === null || emptyTitle.test(title) ? null : storable(title),
    author: author && storable(author),
    namedDays: told.dates,
    namedReferences: told.references.map(storable),
    textKey: told.textKey,
    sketch: told.sketch,
  };
  const bands = told.sketch === null ? [] : bandsOf(told.sketch);
  return {
    ...(text.trim() === '' ? nothing : done),
    write: async (tx) => {
      await tx.update(reading).set(facts).where(eq(reading.sha256, sha256));
      await tx.delete(likenessBand).where(eq(likenessBand.sha256, sha256));
      if (bands.length > 0) await tx.insert(likenessBand).values(bands.map((key, band) => ({ band, key, sha256 })));
    },
  };
};

const nothingTold = {
  language: null,
  summary: [],
  keyWords: [],
  dates: [],
  references: [],
  textKey: null,
  sketch: null,
};
