import path from 'node:path';
import type { ReadingFault } from '@/core/reading/fault';
import { madeBytes } from '../../cage/file';
import { CagedFault, type Limits } from '../../cage/limits';
import { runProgram } from '../../cage/program';
import { readCaged } from '../../cage/reader';
import { db } from '../../db/client';
import { library } from '../../db/schema';
import { NeedsOcr, type OpenContent } from '../openContent';

/** More pages of a scan are not read: at up to ten seconds each, other papers would wait too long. */
const mostPages = 60;
/** What a page is drawn at for it, its longer side in pixels: about 200 dots to the inch for A4. */
const longestSide = 2400;
const dotsToTheInch = '200';
const limits: Limits = { timeMs: 60_000, cpuSeconds: 60, memoryBytes: 600_000_000, fileBytes: 100_000_000 };
/** A page that says less than this is taken for a picture in which nothing is written. In letters. */
const fewestLetters = 3;

/** What OCR found. */
export interface Recognised {
  readonly pages: readonly string[];
  readonly why: ReadingFault | null;
  /** The pages with their words laid over them unseen, as a PDF; null where that could not be made. */
  readonly searchable: { readonly data: Buffer; readonly count: number } | null;
}

/**
 * The text of a scan or a picture by page, by OCR (Tesseract). A page that cannot be read is left empty.
 * @throws NeedsOcr where this reading may not
 */
export async function ocrPages(opened: OpenContent, form: 'pages' | 'picture'): Promise<Recognised | null> {
  if (!opened.mayOcr) throw new NeedsOcr();
  const [settings] = await db().select({ languages: library.scanLanguages }).from(library);
  const languages = (settings?.languages ?? ['eng']).join('+');
  const count = await pageCount(opened, form);
  const read = Math.min(count, mostPages);
  const pages: string[] = [];
  let why: ReadingFault | null = count > mostPages ? 'cut' : null;
  for (let page = 1; page <= read; page += 1) {
    const picture = await pictureOf(opened, form, page);
    const seen = picture === null ? null : await recognise(picture, opened, page, form, languages);
    if (seen === 'tooSlow' || seen === 'tooLarge' || seen === 'brokeOff') why = seen;
    pages.push(seen === null || typeof seen === 'string' ? '' : seen.text);
  }
  if (!pages.some((page) => (page.match(/\p{L}/gu)?.length ?? 0) >= fewestLetters)) return null;
  return { pages, why, searchable: why === null ? await joined(opened, form, read) : null };
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

const wordsFile = (page: number): string => `words-${page}`;

/** Reads a page; its words are also left as a PDF, with the picture of the page where there is no other. */
async function recognise(
  picture: string,
  opened: OpenContent,
  page: number,
  form: 'pages' | 'picture',
  languages: string,
): Promise<{ text: string } | CagedFault['why'] | null> {
  const into = opened.within(wordsFile(page));
  const options = ['-l', languages, '--dpi', dotsToTheInch, '-c', `textonly_pdf=${form === 'pages' ? '1' : '0'}`];
  const end = await runProgram('tesseract', [picture, into, ...options, 'pdf', 'txt'], opened.folder, limits).catch(
    (error: unknown) => {
      if (error instanceof CagedFault) return error.why;
      throw error;
    },
  );
  if (typeof end === 'string') return end;
  const text = end.ok ? await madeBytes(`${into}.txt`) : null;
  return text && { text: text.toString('utf8') };
}

/** All pages as one PDF: those of a picture as they are, the words of a PDF's laid over its own pages. */
async function joined(
  opened: OpenContent,
  form: 'pages' | 'picture',
  count: number,
): Promise<Recognised['searchable']> {
  const parts = Array.from({ length: count }, (_none, at) => opened.within(`${wordsFile(at + 1)}.pdf`));
  const words = opened.within('words.pdf');
  const into = form === 'picture' ? words : opened.within('searchable.pdf');
  try {
    const first = await runProgram('qpdf', ['--empty', '--pages', ...parts, '--', words], opened.folder, limits);
    if (!first.ok) return null;
    if (form === 'pages') {
      const over = [(await opened.pages()) ?? '', '--overlay', words, '--', into];
      const laid = await runProgram('qpdf', over, opened.folder, limits);
      if (!laid.ok) return null;
    }
    const data = await madeBytes(path.normalize(into));
    return data && data.length > 0 ? { data, count } : null;
  } catch (error) {
    // The text is found all the same; only the words on the page are missing.
    if (error instanceof CagedFault) return null;
    throw error;
  }
}
