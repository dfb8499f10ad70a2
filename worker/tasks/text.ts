import type { TaskResult } from '@/server/cage/tasks';
import { decodedText } from './decoded';
import { escapedMarkup as escaped } from '@/core/text/markup';
import { pageOf } from './markup';
import { contentFile, type Written } from './written';

/** The most of a text that is read, in bytes, and that is laid out on pages, in characters. */
const mostBytes = 8_000_000;
const mostLaidOut = 300_000;
/** A longer line without a blank is broken, or laying it out takes without end. */
const longestWord = 2000;

/** A plain text. */
export async function readText(written: Written): Promise<TaskResult<'text'>> {
  const { text, cut } = await decodedText(contentFile, mostBytes);
  const plain = text
    .replace(/^\ufeff/u, '')
    .replace(/\r\n?/gu, '\n')
    .replace(/\0/gu, '');
  await written.view({ form: 'text', text: plain, moreCharacters: 0 });
  const laidOut = plain
    .slice(0, mostLaidOut)
    .replace(new RegExp(`\\S{${longestWord}}`, 'gu'), '$& ')
    .replace(/\f/gu, '\n');
  if (laidOut.trim() !== '') await written.file('pages.html', pageOf(`<pre>${escaped(laidOut)}</pre>`));
  return { cut: cut || plain.length > mostLaidOut };
}
