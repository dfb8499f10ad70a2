import { Document, HeadingLevel, Packer, Paragraph } from 'docx';
import ExcelJS from 'exceljs';
import { strToU8, zipSync } from 'fflate';
import pptxgen from 'pptxgenjs';
import { escapeXml, longDay, type Draft } from './paper';

/** A Word document (Office Open XML). */
export async function makeDocx(draft: Draft): Promise<Buffer> {
  const document = new Document({
    creator: draft.author,
    title: draft.title,
    sections: [
      {
        children: [
          new Paragraph({ text: 'Saltmarrow Harbour Trust' }),
          new Paragraph({ text: draft.title, heading: HeadingLevel.HEADING_1 }),
          new Paragraph({ text: `${draft.subtitle} · ${draft.author}, ${longDay(draft.written)}` }),
          ...draft.paragraphs.map(
            (text, index) => new Paragraph({ text: `${index + 1}. ${text}`, spacing: { before: 120 } }),
          ),
        ],
      },
    ],
  });
  return Packer.toBuffer(document);
}

/** A workbook with the draft's figures and their sum. */
export async function makeXlsx(draft: Draft): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  book.creator = draft.author;
  book.created = draft.written;
  const sheet = book.addWorksheet(draft.title.replace(/[\\/*?:[\]]/gu, ' ').slice(0, 31));
  sheet.addRow([draft.title]).font = { bold: true };
  sheet.addRow([draft.subtitle, longDay(draft.written)]);
  sheet.addRow(['Item', 'Pounds']).font = { bold: true };
  for (const { what, pounds } of draft.figures) sheet.addRow([what, pounds]);
  sheet.addRow([
    'Sum',
    {
      formula: `SUM(B4:B${draft.figures.length + 3})`,
      result: draft.figures.reduce((sum, { pounds }) => sum + pounds, 0),
    },
  ]);
  sheet.getColumn(1).width = 34;
  sheet.getColumn(2).numFmt = '#,##0.00';
  return Buffer.from(await book.xlsx.writeBuffer());
}

/** Slides: a title, then one for each paragraph. */
export async function makePptx(draft: Draft): Promise<Buffer> {
  const deck = new pptxgen();
  deck.title = draft.title;
  deck.author = draft.author;
  const first = deck.addSlide();
  first.addText(draft.title, { x: 0.5, y: 1.6, w: 9, h: 1, fontSize: 32, bold: true });
  first.addText(`${draft.subtitle}\n${draft.author}, ${longDay(draft.written)}`, {
    x: 0.5,
    y: 2.8,
    w: 9,
    h: 1,
    fontSize: 18,
  });
  for (const paragraph of draft.paragraphs) {
    deck.addSlide().addText(
      paragraph.split('. ').map((text) => ({ text, options: { bullet: true, breakLine: true } })),
      { x: 0.5, y: 0.5, w: 9, h: 4.5, fontSize: 18 },
    );
  }
  const made = await deck.write({ outputType: 'nodebuffer' });
  if (!Buffer.isBuffer(made)) throw new Error('The slides are no buffer');
  return made;
}

const namespaces =
  'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"';

/** An OpenDocument text (ISO/IEC 26300): a package whose first entry is its media type, stored plain. */
export async function makeOdt(draft: Draft): Promise<Buffer> {
  const mediaType = 'application/vnd.oasis.opendocument.text';
  const paragraphs = [`${draft.subtitle}, ${longDay(draft.written)}`, ...draft.paragraphs]
    .map((text) => `<text:p>${escapeXml(text)}</text:p>`)
    .join('');
  const content = `<?xml version="1.0" encoding="UTF-8"?><office:document-content ${namespaces} office:version="1.2"><office:body><office:text><text:h text:outline-level="1">${escapeXml(draft.title)}</text:h>${paragraphs}</office:text></office:body></office:document-content>`;
  const manifest = `<?xml version="1.0" encoding="UTF-8"?><manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.2"><manifest:file-entry manifest:full-path="/" manifest:media-type="${mediaType}"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>`;
  return Promise.resolve(
    Buffer.from(
      zipSync(
        {
          mimetype: [strToU8(mediaType), { level: 0 }],
          'content.xml': strToU8(content),
          'META-INF/manifest.xml': strToU8(manifest),
        },
        { mtime: draft.written },
      ),
    ),
  );
}
