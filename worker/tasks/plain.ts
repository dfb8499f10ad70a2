import type { TaskResult } from '@/server/cage/tasks';
import { contentFile, type Written } from './written';

/** More text than this is not kept. In characters. */
const mostText = 5_000_000;

/** The text of a Word document. */
export async function readPlain(written: Written): Promise<TaskResult<'plain'>> {
  const { default: mammoth } = await import('mammoth');
  const read = await mammoth.extractRawText({ path: contentFile }).catch(() => null);
  if (read === null) return null;
  await written.file('plain', read.value.slice(0, mostText));
  return { cut: read.value.length > mostText };
}
