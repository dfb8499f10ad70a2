import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import type { TaskInput, TaskResult } from '@/server/cage/tasks';
import { escapedMarkup as escaped } from '@/core/text/markup';
import { contentFile, TooLarge, type Written } from './written';

/** A hundred million points are more than any scan of an office's paper has. */
const limitInputPixels = 100_000_000;
/** How good a JPEG is made, of 100. */
const quality = 80;

/** Draws a page of a picture or scan. */
export async function drawPicture(
  { page, longestSide }: TaskInput<'picture'>,
  written: Written,
): Promise<TaskResult<'picture'>> {
  try {
    const { pages = 1 } = await sharp(contentFile, { limitInputPixels }).metadata();
    if (page > pages) return { pages, drawn: false };
    const drawn = await sharp(contentFile, { limitInputPixels, page: page - 1 })
      .rotate()
      .resize(longestSide, longestSide, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: 'white' })
      .jpeg({ quality })
      .toBuffer();
    await written.file('picture', drawn);
    return { pages, drawn: true };
  } catch (error) {
    if (error instanceof Error && error.message.includes('pixel limit')) throw new TooLarge();
    return { pages: 0, drawn: false };
  }
}

/** How far one mark is from the next, in pixels, and how strongly it shows. */
const mark = { width: 620, height: 340, opacity: 0.16 } as const;

/** Lays who reads, and when, across a picture of a page, again and again: light enough to read through. */
export async function markPicture({ words }: TaskInput<'mark'>, written: Written): Promise<TaskResult<'mark'>> {
  const tile = `<svg xmlns="http://www.w3.org/2000/svg" width="${mark.width}" height="${mark.height}">
    <text x="30" y="${mark.height - 60}" transform="rotate(-24 30 ${mark.height - 60})" font-family="Liberation Sans"
      font-size="22" fill="#18211f" fill-opacity="${mark.opacity}">${escaped(words)}</text></svg>`;
  const marked = await sharp(contentFile, { limitInputPixels })
    .composite([{ input: Buffer.from(tile), tile: true }])
    .jpeg({ quality })
    .toBuffer();
  await written.file('picture', marked);
  return {};
}

/** The longer side of a sheet, in points: that of A4 (ISO 216). */
const sheetSide = 842;
/** How finely its picture is kept: about 210 dots to the inch. The longer side, in pixels. */
const sheetPixels = 2480;
/** So many pages of a scan become sheets at most. */
const mostSheets = 200;

/** Makes a PDF of a picture or scan, each page as it stands upright. */
export async function picturesAsSheets(
  _asked: TaskInput<'asSheets'>,
  written: Written,
): Promise<TaskResult<'asSheets'>> {
  const pdf = await PDFDocument.create();
  try {
    const { pages = 1 } = await sharp(contentFile, { limitInputPixels }).metadata();
    for (let page = 0; page < Math.min(pages, mostSheets); page += 1) {
      const drawn = await sharp(contentFile, { limitInputPixels, page })
        .rotate()
        .resize(sheetPixels, sheetPixels, { fit: 'inside', withoutEnlargement: true })
        .flatten({ background: 'white' })
        .jpeg({ quality })
        .toBuffer();
      const picture = await pdf.embedJpg(drawn);
      const scale = sheetSide / Math.max(picture.width, picture.height);
      const [width, height] = [picture.width * scale, picture.height * scale];
      pdf.addPage([width, height]).drawImage(picture, { x: 0, y: 0, width, height });
    }
  } catch (error) {
    if (error instanceof Error && error.message.includes('pixel limit')) throw new TooLarge();
    return { pages: 0 };
  }
  await written.file('sheets.pdf', await pdf.save());
  return { pages: pdf.getPageCount() };
}
