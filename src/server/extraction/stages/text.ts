import { readFile, writeFile } from 'node:fs/promises';
import { eq } from 'drizzle-orm';
import { shownForm, viewForm, type ViewForm } from '@/core/reading/form';
import type { ReadingFault } from '@/core/reading/fault';
import { storable } from '@/core/text/storable';
import { CagedFault, plainLimits, type Limits } from '../../cage/limits';
import { madeBytes } from '../../cage/file';
import { runProgram } from '../../cage/program';
import { readCaged } from '../../cage/reader';
import { db } from '../../db/client';
import { reading, readingPage } from '../../db/schema';
import { formOf, type Desk } from '../desk';
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
}

/** Reads the text by page: of a workbook by sheet, of a scan by looking at it. */
export const runText: RunStage = async (desk) => {
  const { sha256 } = desk.content;
  const read = (await textOf(desk)) ?? { pages: [] };
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
  const wordCount = isEmpty ? null : await wordsIn(desk, whole);
  return {
    ...(isEmpty ? nothing : why === null ? { outcome: 'done', why } : { outcome: 'part', why }),
    write: async (tx) => {
      await tx.delete(readingPage).where(eq(readingPage.sha256, sha256));
      const rows = isEmpty ? [] : pages.map((words, index) => ({ sha256, page: index + 1, words }));
      for (let at = 0; at < rows.length; at += rowsAtATime)
        await tx.insert(readingPage).values(rows.slice(at, at + rowsAtATime));
      await tx.update(reading).set({ wordCount }).where(eq(reading.sha256, sha256));
    },
  };
};

async function wordsIn(desk: Desk, text: string): Promise<number> {
  const file = desk.within('whole.txt');
  await writeFile(file, text.slice(0, mostText));
  return readCaged('words', file, {});
}

async function textOf(desk: Desk): Promise<Read | null> {
  if (desk.formFailed) return desk.mediaType === docx ? plainText(desk) : null;
  const form = shownForm(desk.mediaType);
  const view = form === 'sheets' || form === 'list' || form === 'text' ? await keptView(desk) : null;
  if (view?.form === 'sheets') return { pages: view.sheets.map(sheetText) };
  if (view?.form === 'list') return { pages: [view.entries.map(({ path }) => path).join('\n')] };
  if (form === 'picture') return ocrPages(desk, 'picture');
  const file = await desk.pages();
  if (file === null) return null;
  const printed = await runProgram('pdftotext', ['-enc', 'UTF-8', file, '-'], desk.folder, await limitsFor(desk));
  // A protected or damaged PDF has no text to give; the stage before has said why.
  if (!printed.ok) return null;
  const pages = printed.printed.split('\f').slice(0, -1);
  if (form === 'pages' && pages.every((page) => page.trim() === '')) return ocrPages(desk, 'pages');
  return view?.form === 'text' ? { pages, counted: view.text } : { pages };
}

/** A text of thousands of pages takes its time: three times what was measured, 2,400 pages in 18 s. */
async function limitsFor(desk: Desk): Promise<Limits> {
  const [counted] = await db()
    .select({ pages: reading.pageCount })
    .from(reading)
    .where(eq(reading.sha256, desk.content.sha256));
  const timeMs = Math.min(100_000, plainLimits.timeMs + (counted?.pages ?? 0) * 25);
  return { ...plainLimits, timeMs, cpuSeconds: Math.ceil(timeMs / 1000) };
}

async function keptView(desk: Desk): Promise<ViewForm | null> {
  const data = await formOf(desk.content.sha256, 'view');
  return data && viewForm.parse(JSON.parse(data.toString('utf8')));
}

const sheetText = ({ name, rows }: { readonly name: string; readonly rows: readonly (readonly string[])[] }): string =>
  [name, ...rows.map((row) => row.filter((cell) => cell !== '').join('\t'))].join('\n');

/** The text of a Word document whose pages could not be made. */
async function plainText(desk: Desk): Promise<Read | null> {
  const read = await readCaged('plain', await desk.file(), {}).catch((error: unknown) => {
    if (error instanceof CagedFault) return null;
    throw error;
  });
  if (read === null || !(await madeBytes(desk.within('plain')))) return null;
  return { pages: [await readFile(desk.within('plain'), 'utf8')], why: read.cut ? 'cut' : null };
}
