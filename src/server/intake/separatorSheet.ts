import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { toBuffer } from 'bwip-js/node';
import { sheetSays } from '@/core/intake/cut';

/** A4, in points. */
const [width, height] = [595.28, 841.89];

/**
 * A sheet to print and lay between papers before they are scanned: the papers behind it are one of their own. Its barcode is a Code 128
 * (ISO/IEC 15417), twice, so that it is read even where one is soiled.
 * @param reference of the dossier into which the next paper goes; null: any
 */
export async function separatorSheet(reference: string | null): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  pdf.setTitle('Separator sheet');
  // The same sheet is the same file.
  pdf.setCreationDate(new Date(0));
  pdf.setModificationDate(new Date(0));
  const page = pdf.addPage([width, height]);
  const code = await pdf.embedPng(
    await toBuffer({ bcid: 'code128', text: sheetSays(reference), scale: 4, height: 22, includetext: false }),
  );
  const wide = Math.min(420, code.width);
  const size = { width: wide, height: 90 };
  for (const y of [height - 240, 150]) page.drawImage(code, { x: (width - wide) / 2, y, ...size });
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const lines = ['Separator sheet', 'A new paper begins after this page.', ...(reference === null ? [] : [reference])];
  for (const [at, line] of lines.entries()) {
    const points = at === 0 ? 28 : 16;
    const x = (width - font.widthOfTextAtSize(line, points)) / 2;
    page.drawText(line, { x, y: height / 2 + 40 - at * 34, size: points, font });
  }
  return pdf.save();
}
