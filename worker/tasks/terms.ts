import { readFile } from 'node:fs/promises';
import { z } from 'zod';
import { termsOfPages } from '@/core/search/textTerms';
import type { TaskInput, TaskResult } from '@/server/cage/tasks';
import { contentFile, type Written } from './written';

const pagesSchema = z.array(z.string());

/** The terms of a text by page, with their positions: written as a JSON list of [term, positions] to `terms`. */
export async function termsOf({ language }: TaskInput<'terms'>, written: Written): Promise<TaskResult<'terms'>> {
  const pages = pagesSchema.parse(JSON.parse(await readFile(contentFile, 'utf8')));
  const { length, terms } = termsOfPages(pages, language);
  await written.file('terms', JSON.stringify([...terms]));
  return { length };
}
