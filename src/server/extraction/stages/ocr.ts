import type { ReadingFault } from '@/core/reading/fault';
import { CagedFault, type Limits } from '../../cage/limits';
import { runProgram } from '../../cage/program';
import { readCaged } from '../../cage/reader';
import { NeedsOcr, type OpenContent } from '../openContent';

/** More pages of a scan are not read: at up to ten seconds each, other papers would wait too long. */
const mostPages = 60;
/** What a page is drawn at for it, its longer side in pixels: about 200 dots to the inch for A4. */
const longestSide = 2400;
const limits: Limits = { timeMs: 60_000, cpuSeconds: 60, memoryBytes: 600_000_000, fileBytes: 50_000_000 };
/** A page that says less than this is taken for a picture in which nothing is written. In letters. */
const fewestLetters = 3;

/**
 * The text of a scan or a picture by page, by OCR (Tesseract). A page that cannot be read is left empty.
 * @throws NeedsOcr where this reading may not
 */
export async function ocrPages(
  opened: OpenContent,
  form: 'pages' | 'picture',
): Promise<{ pages: string[]; why: ReadingFault | null } | null> {
  if (!opened.mayOcr) throw new NeedsOcr();
  const count = await pageCount(opened, form);
  const pages: string[] = [];
  let why: ReadingFault | null = count > mostPages ? 'cut' : null;
  for (let page = 1; page <= Math.min(count, mostPages); page += 1) {
    const picture = await pictureOf(opened, form, page);
    const seen = picture === null ? null : await recognise(picture, opened.folder);
    if (seen === 'tooSlow' || seen === 'tooLarge' || seen === 'brokeOff') why = seen;
    pages.push(seen === null || typeof seen === 'string' ? '' : seen.text);
  }
  return pages.some((page) => (page.match(/\p{L}/gu)?.length ?? 0) >= fewestLetters) ? { pages, why } : null;
}

async function pageCount(opened: OpenContent, form: 'pages' | 'picture'): Promise<number> {
  if (form === 'picture') return (await readCaged('picture', await opened.file(), { page: 1, longestSide: 64 })).pages;
  const info = await opened.info();
  return info === null || typeof info === 'string' ? 0 : info.pages;
}

async function pictureOf(opened: OpenContent, form: 'pages' | 'picture', page: number): Promise<string | null> {
  if (form === 'picture') {
    const { drawn } = await readCaged('picture', await opened.file(), { page, longestSide });
    return drawn ? opened.within('picture') : null;
  }
  const into = opened.within(`ocr-${page}`);
  const [number, side] = [String(page), String(longestSide)];
  const words = ['-jpeg', '-gray', '-singlefile', '-f', number, '-l', number, '-scale-to', side];
  const end = await runProgram('pdftocairo', [...words, (await opened.pages()) ?? '', into], opened.folder, limits);
  return end.ok ? `${into}.jpg` : null;
}

async function recognise(picture: string, folder: string): Promise<{ text: string } | CagedFault['why'] | null> {
  const words = [picture, 'stdout', '-l', 'eng', '--dpi', '200'];
  const end = await runProgram('tesseract', words, folder, limits).catch((error: unknown) => {
    if (error instanceof CagedFault) return error.why;
    throw error;
  });
  if (typeof end === 'string') return end;
  return end.ok ? { text: end.printed } : null;
}
