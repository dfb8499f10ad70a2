/** Files that unfold into far more than they are; each made here, for nothing like them is packaged. */
import { deflateSync } from 'node:zlib';
import { zipSync, strToU8 } from 'fflate';

const xml = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';

/** A workbook of many rows whose only cell stands in the last column there is. */
export function wideWorkbook(rows: number): Buffer {
  const sheet = `${xml}<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${Array.from(
    { length: rows },
    (_, at) => `<row r="${at + 1}"><c r="XFD${at + 1}" t="inlineStr"><is><t>x</t></is></c></row>`,
  ).join('')}</sheetData></worksheet>`;
  return workbookOf(sheet);
}

/** A workbook one of whose cells is an entity that unfolds a thousandfold, nine times over. */
export function entityWorkbook(): Buffer {
  const entities = Array.from({ length: 9 }, (_, at) => `<!ENTITY e${at + 1} "${`&e${at};`.repeat(10)}">`).join('');
  const sheet = `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY e0 "lol">${entities}]><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData><row r="1"><c r="A1" t="inlineStr"><is><t>&e9;</t></is></c></row></sheetData></worksheet>`;
  return workbookOf(sheet);
}

function workbookOf(sheet: string): Buffer {
  return Buffer.from(
    zipSync(
      {
        '[Content_Types].xml': strToU8(
          `${xml}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`,
        ),
        '_rels/.rels': strToU8(
          `${xml}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
        ),
        'xl/workbook.xml': strToU8(
          `${xml}<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="S" sheetId="1" r:id="rId1"/></sheets></workbook>`,
        ),
        'xl/_rels/workbook.xml.rels': strToU8(
          `${xml}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
        ),
        'xl/worksheets/sheet1.xml': strToU8(sheet),
      },
      { level: 9 },
    ),
  );
}

/** A Word document of so many empty paragraphs. */
export function emptyParagraphs(count: number): Buffer {
  const body = new Uint8Array(strToU8('<w:p/>').length * count);
  const one = strToU8('<w:p/>');
  body.set(one);
  for (let filled = one.length; filled < body.length; filled *= 2)
    body.copyWithin(filled, 0, Math.min(filled, body.length - filled));
  const head = strToU8(
    `${xml}<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>`,
  );
  const tail = strToU8('</w:body></w:document>');
  const document = new Uint8Array(head.length + body.length + tail.length);
  document.set(head);
  document.set(body, head.length);
  document.set(tail, head.length + body.length);
  return Buffer.from(
    zipSync(
      {
        '[Content_Types].xml': strToU8(
          `${xml}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>`,
        ),
        '_rels/.rels': strToU8(
          `${xml}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>`,
        ),
        'word/document.xml': document,
      },
      { level: 9 },
    ),
  );
}

/** An archive within an archive, so many deep, with a large file of nothing at the bottom. */
export function nestedArchive(depth: number): Buffer {
  let inner = zipSync({ 'nothing.txt': new Uint8Array(20_000_000) }, { level: 9 });
  for (let at = 0; at < depth; at += 1)
    inner = zipSync(Object.fromEntries(Array.from({ length: 10 }, (_, each) => [`${each}.zip`, inner])), { level: 9 });
  return Buffer.from(inner);
}

const crcTable = Array.from({ length: 256 }, (_, number) => {
  let value = number;
  for (let bit = 0; bit < 8; bit += 1) value = value & 1 ? 0xedb88320 ^ (value >>> 1) : value >>> 1;
  return value >>> 0;
});
const crc = (bytes: Buffer): number =>
  (bytes.reduce((sum, byte) => (crcTable[(sum ^ byte) & 255] as number) ^ (sum >>> 8), 0xffffffff) ^ 0xffffffff) >>> 0;

/** A PNG (ISO/IEC 15948) of one colour, so many pixels wide and high: a few kilobytes for any size. */
export function hugePng(side: number): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
    const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    sum.writeUInt32BE(crc(body));
    return Buffer.concat([length, body, sum]);
  };
  const header = Buffer.alloc(13);
  header.writeUInt32BE(side, 0);
  header.writeUInt32BE(side, 4);
  header.set([1, 0, 0, 0, 0], 8);
  const row = Buffer.alloc(Math.ceil(side / 8) + 1);
  const rows = Buffer.concat(Array.from({ length: Math.min(side, 2000) }, () => row));
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(rows, { level: 9 })),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

/** A TIFF (revision 6.0) that says of itself that it has so many pixels each way, with next to nothing in it. */
export function hugeTiff(side: number): Buffer {
  const entries: readonly (readonly [tag: number, type: number, value: number])[] = [
    [256, 4, side],
    [257, 4, side],
    [258, 3, 8],
    [259, 3, 1],
    [262, 3, 1],
    [273, 4, 8],
    [277, 3, 1],
    [278, 4, side],
    [279, 4, side * side > 4_000_000_000 ? 4_000_000_000 : side * side],
  ];
  const bytes = Buffer.alloc(8 + 8 + 2 + entries.length * 12 + 4);
  bytes.write('II', 0, 'latin1');
  bytes.writeUInt16LE(42, 2);
  bytes.writeUInt32LE(16, 4);
  bytes.writeUInt16LE(entries.length, 16);
  entries.forEach(([tag, type, value], at) => {
    const from = 18 + at * 12;
    bytes.writeUInt16LE(tag, from);
    bytes.writeUInt16LE(type, from + 2);
    bytes.writeUInt32LE(1, from + 4);
    if (type === 3) bytes.writeUInt16LE(value, from + 8);
    else bytes.writeUInt32LE(value, from + 8);
  });
  return bytes;
}

/** A PDF (ISO 32000-1) whose one page is drawn by a form that draws itself ten times, so many deep. */
export function deepPdf(depth: number): Buffer {
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 800] /Contents 4 0 R /Resources << /XObject << /F 5 0 R >> >> >>',
    stream('', '/F Do '.repeat(10)),
    ...Array.from({ length: depth }, (_, at) => {
      const head = `/Type /XObject /Subtype /Form /BBox [0 0 600 800]${
        at + 1 < depth ? ` /Resources << /XObject << /F ${6 + at} 0 R >> >>` : ''
      }`;
      return stream(head, at + 1 < depth ? '/F Do '.repeat(10) : '0 0 m 600 800 l S '.repeat(10));
    }),
  ];
  let text = '%PDF-1.7\n';
  const offsets = objects.map((body, at) => {
    const offset = text.length;
    text += `${at + 1} 0 obj\n${body}\nendobj\n`;
    return offset;
  });
  const start = text.length;
  text += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${offsets
    .map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`)
    .join('')}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${start}\n%%EOF\n`;
  return Buffer.from(text, 'latin1');
}

const stream = (head: string, content: string): string =>
  `<< ${head} /Length ${content.length} >>\nstream\n${content}\nendstream`;
