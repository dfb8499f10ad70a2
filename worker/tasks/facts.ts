import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { comparableWords, sketchOf } from '@/core/likeness/sketch';
import { keyWordsOf } from '@/core/text/keyWords';
import { mentionsOf } from '@/core/text/mentions';
import { summaryOf } from '@/core/text/summary';
import type { TaskResult } from '@/server/cage/tasks';
import { stopWordsOf } from '@/core/text/stopWords';
import { contentFile } from './written';

/** A text says what it is about in its beginning, and in no more than this. In characters. */
const mostWeighed = 200_000;
/** Days and references are looked for in its beginning. */
const mostSearchedForDays = 40_000;
/** Shorter text is of no certain language. */
const fewestForLanguage = 40;

/** What is known of a text as a whole: its language, a few of its sentences, its key words. */
export async function factsOf(): Promise<TaskResult<'facts'>> {
  const text = (await readFile(contentFile, 'utf8')).slice(0, mostWeighed);
  const { eld } = await import('eld/small');
  const found = text.trim().length < fewestForLanguage ? null : eld.detect(text.slice(0, 20_000));
  const language = found && found.language !== '' && found.isReliable() ? found.language : null;
  const stopWords = stopWordsOf(language);
  const words = comparableWords(text);
  const textKey = words.length === 0 ? null : createHash('sha256').update(words.join(' ')).digest('hex');
  return {
    language,
    summary: summaryOf(text, stopWords),
    keyWords: keyWordsOf(text, stopWords),
    ...mentionsOf(text.slice(0, mostSearchedForDays)),
    textKey,
    sketch: sketchOf(words),
  };
}
