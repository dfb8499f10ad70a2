import { readdir, readFile, rm } from 'node:fs/promises';
import path from 'node:path';
import { isBlank, readSheet, type CutPaper, type Separator } from '@/core/intake/cut';
import { CagedFault, type Limits } from '../cage/limits';
import { runProgram } from '../cage/program';

/** Limits for drawing some pages of a stack, and for reading the codes on one. */
const drawing: Limits = { timeMs: 120_000, cpuSeconds: 120, memoryBytes: 600_000_000, fileBytes: 60_000_000 };
/** So many pages are drawn at once, so finely: a code of separator sheets is read at less. In points an inch. */
const atOnce = 10;
const fineness = 110;

/** The separators in a stack, by page. @param file its pages as a PDF, in the folder */
export async function separatorsIn(
  file: string,
  pages: number,
  folder: string,
  atBlanks: boolean,
): Promise<ReadonlyMap<number, Separator>> {
  const found = new Map<number, Separator>();
  for (let from = 1; from <= pages; from += atOnce) {
    const last = Math.min(pages, from + atOnce - 1);
    const words = [
      '-gray',
      '-r',
      String(fineness),
      '-f',
      String(from),
      '-l',
      String(last),
      file,
      path.join(folder, 'stack'),
    ];
    const drawn = await runProgram('pdftoppm', words, folder, drawing);
    if (!drawn.ok) throw new CagedFault('brokeOff');
    for (const name of (await readdir(folder)).filter((each) => /^stack-\d+\.pgm$/u.test(each))) {
      const separator = await separatorOn(path.join(folder, name), folder, atBlanks);
      if (separator) found.set(Number(/\d+/u.exec(name)?.[0]), separator);
      await rm(path.join(folder, name));
    }
  }
  return found;
}

async function separatorOn(drawn: string, folder: string, atBlanks: boolean): Promise<Separator | null> {
  const { grey, width, height } = readGrey(await readFile(drawn));
  if (isBlank(grey, width, height)) return atBlanks ? { kind: 'blank' } : null;
  // It ends with a complaint where there is no code.
  const read = await runProgram('zbarimg', ['-q', '--raw', '--nodbus', drawn], folder, drawing);
  if (!read.ok) return null;
  for (const says of read.printed.split('\n')) {
    const sheet = readSheet(says);
    if (sheet) return sheet;
  }
  return null;
}

/** A picture as `pdftoppm` draws it in greys (PGM, netpbm: “P5”, width, height and 255, then a byte for each point). */
function readGrey(bytes: Buffer): { readonly grey: Uint8Array; readonly width: number; readonly height: number } {
  const head = /^P5\s+(?<width>\d+)\s+(?<height>\d+)\s+255\s/u.exec(bytes.subarray(0, 100).toString('latin1'));
  const [width, height] = [Number(head?.groups?.['width']), Number(head?.groups?.['height'])];
  if (!head || bytes.length < head[0].length + width * height) throw new CagedFault('brokeOff');
  return { grey: bytes.subarray(head[0].length), width, height };
}

/** How qpdf is called: the same pages make the same file, whenever they are taken out. */
export const calmly = ['--warning-exit-0', '--no-warn', '--deterministic-id'];
/** Limits for taking a stack apart, and for joining. */
export const cutting: Limits = { timeMs: 120_000, cpuSeconds: 120, memoryBytes: 600_000_000, fileBytes: 300_000_000 };

/** Makes a paper of pages of a stack. @returns its bytes */
export async function madeOf(file: string, { pages }: CutPaper, folder: string): Promise<Buffer> {
  const into = path.join(folder, 'paper.pdf');
  const turned = pages.flatMap(({ turn }, at) => (turn === 0 ? [] : [`--rotate=+${turn}:${at + 1}`]));
  const ranges = pages.map(({ page }) => page).join(',');
  const words = [...calmly, '--empty', '--pages', file, ranges, '--', ...turned, into];
  const end = await runProgram('qpdf', words, folder, cutting);
  if (!end.ok) throw new CagedFault('brokeOff');
  const bytes = await readFile(into);
  await rm(into);
  return bytes;
}
