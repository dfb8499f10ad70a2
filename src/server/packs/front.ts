import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import * as fontkit from 'fontkit';
import { PDFDocument, rgb, type PDFFont, type PDFPage } from '@cantoo/pdf-lib';
import { writeDay } from '@/core/calendar/typedDay';
import type { CopyRun } from '@/core/packs/copies';
import { contentsLines, filesTitle, type ContentsLine, type PackPlan } from '@/core/packs/layout';
import { leftOutInWords, pageLabel, pagesInWords, stampInWords } from '@/core/packs/letIn';
import type { StampPlace } from '@/core/packs/model';
import type { PackRecord } from '@/core/packs/record';

/** Upright A4 in points (ISO 216: 210 × 297 mm; a point is 1/72 inch). */
const a4 = [595.28, 841.89] as const;
const margin = 62;
const lineHeight = 20;
/** Where the first line of contents stands, from the bottom of the page. */
const firstLine = a4[1] - 120;
const ink = rgb(0.094, 0.129, 0.122);
const soft = rgb(0.35, 0.4, 0.39);

/** Where Debian's package of the fonts puts them, by its version; they know the letters of Europe. */
const fontFolders = ['/usr/share/fonts/truetype/liberation2', '/usr/share/fonts/truetype/liberation'];
const fontFiles = { plain: 'LiberationSans-Regular.ttf', bold: 'LiberationSans-Bold.ttf' } as const;

/** A document that is drawn into, with its fonts. */
class Drawing {
  private constructor(
    readonly pdf: PDFDocument,
    readonly plain: PDFFont,
    readonly bold: PDFFont,
  ) {}

  static async begin(): Promise<Drawing> {
    const pdf = await PDFDocument.create();
    pdf.registerFontkit(fontkit);
    const folder = fontFolders.find((each) => existsSync(each));
    if (folder === undefined) throw new Error('The Liberation fonts are not installed');
    const embed = async (file: string) => pdf.embedFont(await readFile(`${folder}/${file}`), { subset: true });
    return new Drawing(pdf, await embed(fontFiles.plain), await embed(fontFiles.bold));
  }

  page(): PDFPage {
    return this.pdf.addPage([...a4]);
  }

  /** Writes lines one below the other, broken where they are too wide; returns where the next would stand. */
  write(page: PDFPage, text: string, y: number, { size = 11, bold = false, gap = 6 } = {}): number {
    const font = bold ? this.bold : this.plain;
    let at = y;
    for (const line of broken(text, font, size, a4[0] - 2 * margin)) {
      page.drawText(line, { x: margin, y: at, size, font, color: ink });
      at -= size + gap;
    }
    return at;
  }

  async save(): Promise<Buffer> {
    return Buffer.from(await this.pdf.save());
  }
}

const knownSigns = new WeakMap<PDFFont, ReadonlySet<number>>();

/** What a font has no sign for is drawn as a question mark, so that no title keeps a pack from being made. */
function drawable(text: string, font: PDFFont): string {
  const known = knownSigns.get(font) ?? new Set(font.getCharacterSet());
  knownSigns.set(font, known);
  return [...text.normalize('NFC').replaceAll(/\s+/gu, ' ')]
    .map((sign) => (known.has(sign.codePointAt(0) ?? 0) ? sign : '?'))
    .join('');
}

function broken(text: string, font: PDFFont, size: number, width: number): string[] {
  const lines: string[] = [];
  for (const part of text.split('\n')) {
    let line = '';
    for (const word of drawable(part, font).split(' ')) {
      const longer = line === '' ? word : `${line} ${word}`;
      if (line !== '' && font.widthOfTextAtSize(longer, size) > width) {
        lines.push(line);
        line = word;
      } else line = longer;
    }
    lines.push(line);
  }
  return lines.flatMap((line) => cutToWidth(line, font, size, width));
}

/** A word that alone is too wide is cut where the line ends. */
function cutToWidth(line: string, font: PDFFont, size: number, width: number): string[] {
  if (font.widthOfTextAtSize(line, size) <= width) return [line];
  let fits = line.length;
  while (fits > 1 && font.widthOfTextAtSize(line.slice(0, fits), size) > width) fits -= 1;
  return [line.slice(0, fits), ...cutToWidth(line.slice(fits), font, size, width)];
}

function shortened(text: string, font: PDFFont, size: number, width: number): string {
  const whole = drawable(text, font);
  if (font.widthOfTextAtSize(whole, size) <= width) return whole;
  let fits = whole.length;
  while (fits > 1 && font.widthOfTextAtSize(`${whole.slice(0, fits)}…`, size) > width) fits -= 1;
  return `${whole.slice(0, fits).trimEnd()}…`;
}

/** A place on a page that leads to a page of the copy. */
export interface Link {
  /** On which page of the contents, from 0. */
  readonly on: number;
  /** Left, bottom, right, top in points. */
  readonly box: readonly [number, number, number, number];
  /** The page of the pack to which it leads. */
  readonly page: number;
}

/** The pages of a copy that are no papers: cover, contents, and a sheet for each run that is left out. */
export interface Front {
  readonly pdf: Buffer;
  readonly links: readonly Link[];
}

/**
 * Draws what stands before and between the papers of a copy. Pages, in order: the cover, the contents, one sheet for each run that
 * is left out, and the list of files: each person's has only those that they may see.
 */
export async function drawFront(
  record: PackRecord,
  {
    picture,
    plan,
    lines,
    runs,
    listed,
  }: {
    /** On the cover, a JPEG. */
    readonly picture: Buffer | null;
    readonly plan: PackPlan;
    /** The lines of the contents that are told. */
    readonly lines: readonly ContentsLine[];
    readonly runs: readonly CopyRun[];
    /** What stands on the list of files without pages. */
    readonly listed: readonly ListedFile[];
  },
): Promise<Front> {
  const drawing = await Drawing.begin();
  await drawCover(drawing, record, plan, picture);
  const links = drawContents(drawing, record, plan, lines);
  for (const run of runs) {
    if (run.kind !== 'leftOut') continue;
    const page = drawing.page();
    drawing.write(page, leftOutInWords(record, run), a4[1] / 2, { size: 14 });
  }
  const files = plan.parts.find(({ kind }) => kind === 'files');
  if (files) {
    const page = drawing.page();
    drawFiles(drawing, page, listed);
    drawStamp(drawing, page, stampInWords(record, files.from, plan.total), record.stampPlace);
  }
  return { pdf: await drawing.save(), links };
}

async function drawCover(drawing: Drawing, record: PackRecord, plan: PackPlan, picture: Buffer | null): Promise<void> {
  const page = drawing.page();
  drawing.write(page, record.library, a4[1] - 90, { size: 12 });
  let at = drawing.write(page, record.name, a4[1] - 250, { size: 26, bold: true, gap: 8 }) - 8;
  if (record.called !== '') at = drawing.write(page, record.called, at, { size: 16, bold: true }) - 8;
  if (record.description !== '') at = drawing.write(page, record.description, at, { size: 12 }) - 8;
  const facts = [
    ['Date', record.day === null ? '' : writeDay(record.day)],
    ['For', record.forWhom],
    ['Prepared by', record.preparedBy],
    ['Pages', record.firstPage === 1 && !record.labels ? String(plan.total) : pagesInWords(record, plan)],
  ] as const;
  for (const [name, text] of facts) if (text !== '') at = drawing.write(page, `${name}: ${text}`, at - 4);
  if (picture === null) return;
  const embedded = await drawing.pdf.embedJpg(picture);
  // In the room that is left below, at its left.
  const [wide, high] = [a4[0] - 2 * margin, at - 30 - margin];
  const scale = Math.min(wide / embedded.width, high / embedded.height);
  if (scale <= 0) return;
  const [width, height] = [embedded.width * scale, embedded.height * scale];
  page.drawImage(embedded, { x: margin, y: at - 24 - height, width, height });
}

/** As many pages as the whole pack's contents have, also where fewer lines are left of them: the numbers of all pages stay. */
function drawContents(
  drawing: Drawing,
  record: PackRecord,
  { parts }: PackPlan,
  lines: readonly ContentsLine[],
): Link[] {
  const links: Link[] = [];
  const pages = parts.find(({ kind }) => kind === 'contents')?.pages ?? 1;
  for (let on = 0; on < pages; on += 1) {
    const page = drawing.page();
    drawing.write(page, on === 0 ? 'Contents' : 'Contents, continued', a4[1] - 82, { size: 18, bold: true });
    for (const [at, line] of lines.slice(on * contentsLines, (on + 1) * contentsLines).entries()) {
      const y = firstLine - at * lineHeight;
      const font = line.depth === 1 ? drawing.bold : drawing.plain;
      const x = margin + (line.depth - 1) * 16;
      const right = a4[0] - margin;
      page.drawText(shortened(line.title, font, 11, right - x - 50), { x, y, size: 11, font, color: ink });
      const told = line.page === null ? (line.kind === 'paper' ? 'file' : '') : pageLabel(record, line.page);
      const width = drawing.plain.widthOfTextAtSize(told, 11);
      page.drawText(told, {
        x: right - width,
        y,
        size: 11,
        font: drawing.plain,
        color: line.page === null ? soft : ink,
      });
      if (line.page !== null) links.push({ on, box: [x, y - 5, right, y + 13], page: line.page });
    }
  }
  return links;
}

/** A file that cannot be pages. */
export interface ListedFile {
  readonly title: string;
  readonly fileName: string;
}

const mostListed = 40;

function drawFiles(drawing: Drawing, page: PDFPage, files: readonly ListedFile[]): void {
  let at = drawing.write(page, filesTitle, a4[1] - 82, { size: 18, bold: true }) - 10;
  const about =
    files.length === 0
      ? 'None of them is part of your copy.'
      : 'They cannot be shown as pages, and stay in the library as they are.';
  at = drawing.write(page, about, at) - 8;
  for (const { title, fileName } of files.slice(0, mostListed))
    at = drawing.write(page, `${title} (${fileName})`, at, { size: 10 });
  if (files.length > mostListed) drawing.write(page, `and ${files.length - mostListed} more`, at, { size: 10 });
}

/** Draws the sheets of sections; without any, one empty page. */
export async function drawSheets(titles: readonly string[]): Promise<Buffer> {
  const drawing = await Drawing.begin();
  for (const title of titles) drawing.write(drawing.page(), title, a4[1] / 2 + 60, { size: 22, bold: true, gap: 8 });
  if (titles.length === 0) drawing.page();
  return drawing.save();
}

/** How large a page is as it is shown, in points. */
export interface PageSize {
  readonly width: number;
  readonly height: number;
}

/** Draws a stamp for each page, on a page of the same size: "Pack page 41 of 212". */
export async function drawStamps(
  sizes: readonly PageSize[],
  place: StampPlace,
  /** What is stamped on one of them, counted from 0. */
  wordsOf: (at: number) => string,
): Promise<Buffer> {
  const drawing = await Drawing.begin();
  for (const [at, { width, height }] of sizes.entries())
    drawStamp(drawing, drawing.pdf.addPage([width, height]), wordsOf(at), place);
  return drawing.save();
}

function drawStamp({ plain }: Drawing, page: PDFPage, words: string, place: StampPlace): void {
  const [size, inset] = [9, 18];
  const { width, height } = page.getSize();
  const wide = plain.widthOfTextAtSize(words, size);
  const x = place.endsWith('Left') ? inset : place.endsWith('Middle') ? (width - wide) / 2 : width - wide - inset;
  const y = place.startsWith('top') ? height - inset - size : inset;
  // On a ground of white, so that it is read over whatever is there.
  page.drawRectangle({ x: x - 3, y: y - 3, width: wide + 6, height: size + 5, color: rgb(1, 1, 1), opacity: 0.85 });
  page.drawText(words, { x, y, size, font: plain, color: ink });
}

/** A picture as a page: A4, upright or across as it fits best, within a margin. */
export async function picturePages(jpegs: readonly Buffer[]): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  for (const jpeg of jpegs) {
    const picture = await pdf.embedJpg(jpeg);
    const [short, long] = a4;
    const [width, height] = picture.width > picture.height ? [long, short] : [short, long];
    const room = 24;
    const scale = Math.min((width - 2 * room) / picture.width, (height - 2 * room) / picture.height, 1.5);
    const [wide, high] = [picture.width * scale, picture.height * scale];
    pdf
      .addPage([width, height])
      .drawImage(picture, { x: (width - wide) / 2, y: (height - high) / 2, width: wide, height: high });
  }
  return Buffer.from(await pdf.save());
}
