import Papa from 'papaparse';
import { guardCell, unguardCell } from './cell';

/** Bytes 80 to 9F of Windows-1252 (WHATWG Encoding, index windows-1252): Node 20 decodes them as the controls of Latin-1. */
const upperWindows1252 = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

/** Reads a table's bytes as text: UTF-8 with or without its mark, UTF-16 with one, else Windows-1252. */
export function decodeTable(bytes: Uint8Array): string {
  const marks: readonly (readonly [number, number, string])[] = [
    [0xff, 0xfe, 'utf-16le'],
    [0xfe, 0xff, 'utf-16be'],
  ];
  const wide = marks.find(([first, second]) => bytes[0] === first && bytes[1] === second);
  if (wide) return new TextDecoder(wide[2]).decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252')
      .decode(bytes)
      .replace(/[\u0080-\u009f]/gu, (each) => upperWindows1252[each.charCodeAt(0) - 0x80] ?? each);
  }
}

/** Rows of cells out of a CSV (RFC 4180; commas, semicolons or tabs between), formula guards taken off. Empty lines are left out. */
export function readCsv(text: string): string[][] {
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/u, ''), {
    delimiter: '',
    delimitersToGuess: [',', ';', '\t'],
    skipEmptyLines: 'greedy',
  });
  return data.map((row) => row.map(unguardCell));
}

/** A CSV after RFC 4180: CRLF between records, quotes where needed, nothing in it that a spreadsheet would run. */
export function writeCsv(rows: readonly (readonly string[])[], mark = false): string {
  const body = Papa.unparse(
    rows.map((row) => row.map(guardCell)),
    { newline: '\r\n' },
  );
  return `${mark ? '\ufeff' : ''}${body}\r\n`;
}

/** A block as spreadsheets copy it: tabs between cells, line ends between rows, quotes round cells that hold either. */
export function readBlock(text: string): string[][] {
  const body = text.replace(/\r?\n$/u, '');
  if (body === '') return [['']];
  return Papa.parse<string[]>(body, { delimiter: '\t', quoteChar: '"' }).data;
}

export const writeBlock = (rows: readonly (readonly string[])[]): string =>
  Papa.unparse(rows as string[][], { delimiter: '\t', newline: '\n' });
