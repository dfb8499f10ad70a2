import Papa from 'papaparse';
import { guardCell, unguardCell } from './cell';

/** Decodes Windows-1252 as browsers do. Node 20 takes bytes 80 to 9F for controls of Latin-1: it needs another decoder. */
const byTextDecoder = (bytes: Uint8Array): string => new TextDecoder('windows-1252').decode(bytes);

/** Decodes a table: UTF-8 with or without a byte order mark, UTF-16 with one, else Windows-1252. */
export function decodeTable(bytes: Uint8Array, windows1252 = byTextDecoder): string {
  const marks: readonly (readonly [number, number, string])[] = [
    [0xff, 0xfe, 'utf-16le'],
    [0xfe, 0xff, 'utf-16be'],
  ];
  const wide = marks.find(([first, second]) => bytes[0] === first && bytes[1] === second);
  if (wide) return new TextDecoder(wide[2]).decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return windows1252(bytes);
  }
}

/** Reads a CSV into rows of cells (RFC 4180; separated by commas, semicolons or tabs). Removes formula guards and empty lines. */
export function readCsv(text: string): string[][] {
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/u, ''), {
    delimiter: '',
    delimitersToGuess: [',', ';', '\t'],
    skipEmptyLines: 'greedy',
  });
  return data.map((row) => row.map(unguardCell));
}

/** Writes a CSV (RFC 4180: CRLF between records, quotes where needed), with guards against formulas. */
export function writeCsv(rows: readonly (readonly string[])[], mark = false): string {
  const body = Papa.unparse(
    rows.map((row) => row.map(guardCell)),
    { newline: '\r\n' },
  );
  return `${mark ? '\ufeff' : ''}${body}\r\n`;
}

/** Reads a block as copied from a spreadsheet: tabs between cells, line ends between rows, quotes around cells that contain either. */
export function readBlock(text: string): string[][] {
  const body = text.replace(/\r?\n$/u, '');
  if (body === '') return [['']];
  return Papa.parse<string[]>(body, { delimiter: '\t', quoteChar: '"' }).data;
}

/** Rows of cells as a block for the clipboard: tabs between cells, a line a row. */
export const writeBlock = (rows: readonly (readonly string[])[]): string =>
  Papa.unparse(rows as string[][], { delimiter: '\t', newline: '\n' });
