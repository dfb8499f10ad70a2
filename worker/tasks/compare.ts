import { readFile } from 'node:fs/promises';
import { z } from 'zod';
import { compareTexts as compared } from '@/core/reading/compare';
import type { TaskResult } from '@/server/cage/tasks';
import { contentFile } from './written';

const timeoutMs = 8000;
const both = z.object({ one: z.array(z.string()), other: z.array(z.string()) });

/** Two texts by page, word by word. */
export async function compareTexts(): Promise<TaskResult<'compare'>> {
  const { one, other } = both.parse(JSON.parse(await readFile(contentFile, 'utf8')));
  return compared(one, other, timeoutMs);
}
