import { readFile } from 'node:fs/promises';
import { z } from 'zod';
import { tokensIn } from '@/core/search/analyse';
import type { TaskInput, TaskResult } from '@/server/cage/tasks';
import { contentFile, type Written } from './written';

const pagesSchema = z.array(z.string());

/** The terms of a text by page, with their positions: written as a JSON list of [term, positions] to `terms`. */
export async function termsOf({ language }: TaskInput<'terms'>, written: Written): Promise<TaskResult<'terms'>> {
  const pages = pagesSchema.parse(JSON.parse(await readFile(contentFile, 'utf8')));
  const terms = new Map<string, number[]>();
  let length = 0;
  for (const page of pages) {
    let last = -1;
    for (const { term, position } of tokensIn(page, language)) {
      const at = length + position;
      const positions = terms.get(term);
      // A compound of one word twice at one place says nothing more.
      if (!positions) terms.set(term, [at]);
      else if (positions.at(-1) !== at) positions.push(at);
      last = Math.max(last, position);
    }
    // No phrase goes from one page to the next.
    length += last + pageGap;
  }
  for (const positions of terms.values()) positions.sort((one, other) => one - other);
  await written.file('terms', JSON.stringify([...terms]));
  return { length };
}

const pageGap = 10;
