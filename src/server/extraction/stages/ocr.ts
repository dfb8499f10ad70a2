import type { ReadingFault } from '@/core/reading/fault';
import { CagedFault, type Limits } from '../../cage/limits';
import { runProgram } from '../../cage/program';
import { readCaged } from '../../cage/reader';
import { NeedsLooking, type Desk } from '../desk';
import { pdfInfo } from './pdf';

/** More pages of a scan are not looked at: at up to ten seconds each, other papers would wait too long. */
const mostPages = 60;
/** What a page is drawn at to be looked at, its longer side in pixels: about 200 dots to the inch for A4. */
const longestSide = 2400;
const limits: Limits = { timeMs: 60_000, cpuSeconds: 60, memoryBytes: 600_000_000, fileBytes: 50_000_000 };
/** A page that says less than this is taken for a picture in which nothing is written. In letters. */
const fewestLetters = 3;

/**
 * The text of a scan or a picture by page, by looking at it (Tesseract). What cannot be looked at is left empty.
 * @throws NeedsLooking where this reading may not
 */
export async function ocrPages(
  desk: Desk,
  form: 'pages' | 'picture',
): Promise<{ pages: string[]; why: ReadingFault | null } | null> {
  if (!desk.mayLook) throw new NeedsLooking();
  const count = await pageCount(desk, form);
  const pages: string[] = [];
  let why: ReadingFault | null = count > mostPages ? 'cut' : null;
  for (let page = 1; page <= Math.min(count, mostPages); page += 1) {
    const picture = await pictureOf(desk, form, page);
    const seen = picture === null ? null : await lookAt(picture, desk.folder);
    if (seen === 'tooSlow' || seen === 'tooLarge' || seen === 'brokeOff') why = seen;
    pages.push(seen === null || typeof seen === 'string' ? '' : seen.text);
  }
  return pages.some((page) => (page.match(/\p{L}/gu)?.length ?? 0) >= fewestLetters) ? { pages, why } : null;
}

async function pageCount(desk: Desk, form: 'pages' | 'picture'): Promise<number> {
  if (form === 'picture') return (await readCaged('picture', await desk.file(), { page: 1, longestSide: 64 })).pages;
  const info = await pdfInfo((await desk.pages()) ?? '', desk.folder);
  return typeof info === 'string' ? 0 : info.pages;
}

async function pictureOf(desk: Desk, form: 'pages' | 'picture', page: number): Promise<string | null> {
  if (form === 'picture') {
    const { drawn } = await readCaged('picture', await desk.file(), { page, longestSide });
    return drawn ? desk.within('picture') : null;
  }
  const into = desk.within(`look-${page}`);
  const [number, side] = [String(page), String(longestSide)];
  const words = ['-jpeg', '-gray', '-singlefile', '-f', number, '-l', number, '-scale-to', side];
  const end = await runProgram('pdftocairo', [...words, (await desk.pages()) ?? '', into], desk.folder, limits);
  return end.ok ? `${into}.jpg` : null;
}

async function lookAt(picture: string, folder: string): Promise<{ text: string } | CagedFault['why'] | null> {
  const words = [picture, 'stdout', '-l', 'eng', '--dpi', '200'];
  const end = await runProgram('tesseract', words, folder, limits).catch((error: unknown) => {
    if (error instanceof CagedFault) return error.why;
    throw error;
  });
  if (typeof end === 'string') return end;
  return end.ok ? { text: end.printed } : null;
}
