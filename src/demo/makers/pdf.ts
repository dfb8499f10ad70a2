import { PDFDocument, StandardFonts, type PDFFont, type PDFPage } from '@cantoo/pdf-lib';
import { longDay, wrapped, type Draft } from './paper';

const margin = 62;
const page = { width: 595, height: 842 };

/** A PDF of A4 pages with a heading, numbered paragraphs and, where there are figures, a table of them. */
export async function makePdf(draft: Draft): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  pdf.setTitle(draft.title);
  pdf.setAuthor(draft.author);
  pdf.setCreationDate(draft.written);
  pdf.setModificationDate(draft.written);
  const [plain, bold] = [
    await pdf.embedFont(StandardFonts.TimesRoman),
    await pdf.embedFont(StandardFonts.HelveticaBold),
  ];
  const sheet = new Sheet(pdf);
  sheet.line('SALTMARROW HARBOUR TRUST', bold, 9, 20);
  for (const part of wrapped(draft.title, 44)) sheet.line(part, bold, 17, 22);
  sheet.line(draft.subtitle, plain, 12, 16);
  sheet.line(`${draft.author}, ${longDay(draft.written)}`, plain, 11, 30);
  draft.paragraphs.forEach((paragraph, index) => {
    sheet.line(`${index + 1}.`, bold, 11, 0);
    for (const part of wrapped(paragraph, 84)) sheet.line(part, plain, 11, 15, 22);
    sheet.skip(8);
  });
  for (const { what, pounds } of draft.figures) {
    sheet.line(`£${pounds.toLocaleString('en-GB', { minimumFractionDigits: 2 })}`, plain, 11, 0, 330);
    sheet.line(what, plain, 11, 16, 22);
  }
  return Buffer.from(await pdf.save());
}

/** Lines set one below the other, over as many pages as they need. */
class Sheet {
  readonly #pdf: PDFDocument;
  #page: PDFPage;
  #y = page.height - margin;

  constructor(pdf: PDFDocument) {
    this.#pdf = pdf;
    this.#page = pdf.addPage([page.width, page.height]);
  }

  line(text: string, font: PDFFont, size: number, height: number, indent = 0): void {
    if (this.#y - height < margin) {
      this.#page = this.#pdf.addPage([page.width, page.height]);
      this.#y = page.height - margin;
    }
    this.#page.drawText(text, { x: margin + indent, y: this.#y, size, font });
    this.skip(height);
  }

  skip(height: number): void {
    this.#y -= height;
  }
}
