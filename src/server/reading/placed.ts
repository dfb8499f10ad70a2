import { Turns } from '@/core/collections/turns';
import type { PlacedWord } from '@/core/reading/find';
import { inFolder } from '../cage/file';
import { pageLimits } from '../cage/limits';
import { runProgram } from '../cage/program';
import { OpenContent, type ReadContent } from '../extraction/openContent';

const turns = new Turns(2);

/**
 * The words of some pages with their places, page by page; none of content that has no pages. The caller has passed the gate.
 * @param first from 1 @throws CagedFault where it takes too long, or too much room
 */
export function placedWords(content: ReadContent, first: number, last: number): Promise<PlacedWord[][]> {
  return turns.run(() =>
    inFolder(async (folder) => {
      const pages = await new OpenContent(content, folder, false).searchable();
      if (pages === null) return [];
      const asked = ['-bbox', '-f', String(first), '-l', String(last), pages, '-'];
      const end = await runProgram('pdftotext', asked, folder, pageLimits);
      return end.ok ? end.printed.split('<page ').slice(1).map(wordsOf) : [];
    }),
  );
}

const number = '([\\d.]+)';
const pageSize = new RegExp(`^width="${number}" height="${number}"`, 'u');
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
  const [, wide = '1', high = '1'] = pageSize.exec(printed) ?? [];
  const [width, height] = [Number(wide), Number(high)];
  return [...printed.matchAll(wordTag)].map(([, left, top, right, bottom, text = '']) => ({
    text: text.replace(/&(?:amp|lt|gt|quot|#39);/gu, (entity) => entities[entity] ?? entity),
    left: Number(left) / width,
    top: Number(top) / height,
    right: Number(right) / width,
    bottom: Number(bottom) / height,
  }));
}
