import { readFile, writeFile } from 'node:fs/promises';
import { eq } from 'drizzle-orm';
import { shownForm } from '@/core/reading/form';
import type { ReadingFault } from '@/core/reading/fault';
import { storable } from '@/core/text/storable';
import { CagedFault, plainLimits, type Limits } from '../../cage/limits';
import { madeBytes } from '../../cage/file';
import { runProgram } from '../../cage/program';
import { readCaged } from '../../cage/reader';
import { db } from '../../db/client';
import { reading, readingPage } from '../../db/schema';
import { viewOf, type OpenContent } from '../openContent';
import { keepForm } from './form';
import { ocrPages } from './ocr';
import { nothing, type RunStage } from './stageEnd';

/** The most text that is kept of some content, and of one page of it. In characters. */
const [mostText, mostPage] = [20_000_000, 1_000_000];
const rowsAtATime = 200;
const docx = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';

/** The text of some content by page, and what its words are counted from, if that is another text. */
interface Read {
  readonly pages: readonly string[];
  readonly counted?: string;
  readonly why?: ReadingFault | null;
  /** Pages on which the words can be selected and found, for a scan that has none of its own. */
  readonly searchable?: { readonly data: Buffer; readonly count: number } | null;
}

/** Reads the text by page: of a workbook by sheet, of a scan by OCR. */
export const runText: RunStage = async (opened) => {
  const { sha256 } = opened.content;
  const read = (await textOf(opened)) ?? { pages: [] };
  let left = mostText;
  const pages = read.pages.map((page) => {
    const kept = storable(page.slice(0, Math.min(mostPage, left)));
    left -= kept.length;
    return kept;
  });
  const cut = read.pages.some((page) => page.length > mostPage) || left <= 0;
  const whole = read.counted ?? pages.join('\n');
  const isEmpty = whole.trim() === '';
  const why = read.why ?? (cut ? 'cut' : null);
  const wordCount = isEmpty ? null : await wordsIn(opened, whole);
  return {
    ...(isEmpty ? nothing : why === null ? { outcome: 'done', why } : { outcome: 'part', why }),
    write: async (tx) => {
      await tx.delete(readingPage).where(eq(readingPage.sha256, sha256));
      const rows = isEmpty ? [] : pages.map((words, index) => ({ sha256, page: index + 1, words }));
      for (let at = 0; at < rows.length; at += rowsAtATime)
        await tx.insert(readingPage).values(rows.slice(at, at + rowsAtATime));
      await tx.update(reading).set({ wordCount }).where(eq(reading.sha256, sha256));
      if (isMaybeScan(opened.mediaType)) await keepForm(tx, sha256, 'pages', read.searchable ?? null);
    },
  };
};

/** Whether its pages with text on them are made by reading it, and not before. */
const isMaybeScan = (mediaType: string): boolean =>
  mediaType === 'application/pdf' || shownForm(mediaType) === 'picture';

async function wordsIn(opened: OpenContent, text: string): Promise<number> {
  const file = opened.within('whole.txt');
  await writeFile(file, text.slice(0, mostText));
  return readCaged('words', file, {});
}

async function textOf(opened: OpenContent): Promise<Read | null> {
  if (opened.formFailed) return opened.mediaType === docx ? plainText(opened) : null;
  const form = shownForm(opened.mediaType);
  const view = form === 'sheets' || form === 'list' || form === 'text' ? await viewOf(opened.content.sha256) : null;
  if (view?.form === 'sheets') return { pages: view.sheets.map(sheetText) };
  if (view?.form === 'list') return { pages: [view.entries.map(({ path }) => path).join('\n')] };
  if (form === 'picture') return ocrPages(opened, 'picture');
  const file = await opened.pages();
  if (file === null) return view?.form === 'text' ? { pages: [view.text] } : null;
  const printed = await runProgram('pdftotext', ['-enc', 'UTF-8', file, '-'], opened.folder, await limitsFor(opened));
  // A protected or damaged PDF has no text to give; the stage before has said why.
  if (!printed.ok) return null;
  const pages = printed.printed.split('\f').slice(0, -1);
  if (form === 'pages' && pages.every((page) => page.trim() === '')) return ocrPages(opened, 'pages');
  return view?.form === 'text' ? { pages, counted: view.text } : { pages };
}

/** A text of thousands of pages takes its time: three times what was measured, 2,400 pages in 18 s. */
async function limitsFor(opened: OpenContent): Promise<Limits> {
  const [counted] = await db()
    .select({ pages: reading.pageCount })
    .from(reading)
    .where(eq(reading.sha256, opened.content.sha256));
  const timeMs = Math.min(100_000, plainLimits.timeMs + (counted?.pages ?? 0) * 25);
  return { ...plainLimits, timeMs, cpuSeconds: Math.ceil(timeMs / 1000) };
}

const sheetText = ({ name, rows }: { readonly name: string; readonly rows: readonly (readonly string[])[] }): string =>
  rows.length === 0 ? '' : [name, ...rows.map((row) => row.filter((cell) => cell !== '').join('\t'))].join('\n');

/** The text of a Word document whose pages could not be made. */
async function plainText(opened: OpenContent): Promise<Read | null> {
  const read = await readCaged('plain', await opened.file(), {}).catch((error: unknown) => {
    if (error instanceof CagedFault) return null;
    throw error;
  });
  if (read === null || !(await madeBytes(opened.within('plain')))) return null;
  return { pages: [await readFile(opened.within('plain'), 'utf8')], why: read.cut ? 'cut' : null };
}
