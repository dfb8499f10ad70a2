import { stat } from 'node:fs/promises';
import type { Cell, Worksheet } from 'exceljs';
import type * as NumberFormats from 'numfmt';
import { readCsv } from '@/core/interchange/block';
import type { Sheet } from '@/core/reading/form';
import type { TaskResult } from '@/server/cage/tasks';
import { decodedText } from './decoded';
import { contentFile, TooLarge, type Written } from './written';

/** The most of a workbook that is shown, for the screen to stay quick. */
const most = { sheets: 60, columns: 256, cells: 250_000, cellCharacters: 2000 } as const;
/** A larger workbook takes more memory than there is for it. In bytes. */
const mostBytes = 40_000_000;
const mostCsvBytes = 8_000_000;
/** The width of a column that says none, in characters; the widest that is kept. */
const [usualWidth, greatestWidth] = [9, 60];

/** The sheets of a workbook or a CSV, as text by row and column. Formulas are not run: their last result is shown. */
export async function readSheets(form: 'csv' | 'xlsx', written: Written): Promise<TaskResult<'sheets'>> {
  const found = form === 'csv' ? await csvSheet() : await workbookSheets();
  if (found === null) return null;
  await written.view({ form: 'sheets', sheets: found.sheets });
  return { cut: found.cut || found.sheets.some(({ more }) => more.rows > 0 || more.columns > 0) };
}

interface Found {
  readonly sheets: readonly Sheet[];
  readonly cut: boolean;
}

async function csvSheet(): Promise<Found> {
  const { text, cut } = await decodedText(contentFile, mostCsvBytes);
  const all = readCsv(text);
  const rows = all
    .slice(0, Math.floor(most.cells / Math.max(1, all[0]?.length ?? 1)))
    .map((row) => row.slice(0, most.columns));
  const columns = Math.max(0, ...rows.slice(0, 2000).map((row) => row.length));
  const widths = Array.from({ length: columns }, (_each, column) =>
    Math.min(greatestWidth, Math.max(4, ...rows.slice(0, 200).map((row) => (row[column] ?? '').length + 1))),
  );
  const numeric = /^[-+]?[\d\s.,']+%?$/u;
  const sheet: Sheet = {
    name: 'Table',
    widths,
    frozen: { rows: rows.length > 1 ? 1 : 0, columns: 0 },
    rows,
    right: rows.map((row, at) => (at === 0 ? [] : row.flatMap((cell, column) => (numeric.test(cell) ? [column] : [])))),
    bold: rows.length > 1 ? [0] : [],
    more: { rows: all.length - rows.length, columns: 0 },
  };
  return { sheets: [sheet], cut };
}

async function workbookSheets(): Promise<Found | null> {
  if ((await stat(contentFile)).size > mostBytes) throw new TooLarge();
  const [{ default: ExcelJS }, { format }] = await Promise.all([import('exceljs'), import('numfmt')]);
  const book = new ExcelJS.Workbook();
  try {
    await book.xlsx.readFile(contentFile);
  } catch {
    return null;
  }
  const shown = book.worksheets.filter(({ state }) => state === 'visible' || state === undefined);
  let left: number = most.cells;
  const sheets: Sheet[] = [];
  for (const sheet of shown.slice(0, most.sheets)) {
    const told = sheetOf(sheet, left, format);
    left -= told.rows.reduce((sum, row) => sum + row.length, 0);
    sheets.push(told);
  }
  return { sheets, cut: shown.length > most.sheets };
}

type Format = typeof NumberFormats.format;

function sheetOf(sheet: Worksheet, mostCells: number, format: Format): Sheet {
  const used = extentOf(sheet);
  const columns = Math.min(used.columns, most.columns);
  const rowCount = Math.min(used.rows, Math.floor(Math.max(0, mostCells) / Math.max(1, columns)));
  const [rows, right, bold]: [string[][], number[][], number[]] = [[], [], []];
  for (let number = 1; number <= rowCount; number += 1) {
    const [cells, toRight]: [string[], number[]] = [[], []];
    let [filled, heavy] = [0, 0];
    sheet.findRow(number)?.eachCell((cell, column) => {
      // Of cells that are joined only the first says what they hold.
      if (column > columns || (cell.isMerged && cell.master !== cell)) return;
      const { text, isRight } = told(cell, format);
      if (text === '') return;
      while (cells.length < column) cells.push('');
      cells[column - 1] = text.slice(0, most.cellCharacters);
      filled += 1;
      if (cell.font?.bold === true) heavy += 1;
      const { horizontal = 'general' } = (cell.alignment ?? {}) as { readonly horizontal?: string };
      if (horizontal === 'right' || (isRight && horizontal === 'general')) toRight.push(column - 1);
    });
    if (filled > 0 && heavy === filled) bold.push(number - 1);
    rows.push(cells);
    right.push(toRight);
  }
  // The package's types have no null here; a sheet that was never looked at has one.
  const views = sheet.views as
    readonly { readonly state?: string; readonly xSplit?: number; readonly ySplit?: number }[] | null;
  const view = views?.[0];
  const frozen = view?.state === 'frozen' ? view : {};
  return {
    name: sheet.name,
    widths: Array.from({ length: columns }, (_each, index) => {
      const { hidden, width } = sheet.getColumn(index + 1);
      return hidden ? 0 : Math.min(greatestWidth, Math.round(width ?? usualWidth));
    }),
    frozen: { rows: Math.min(frozen.ySplit ?? 0, rowCount), columns: Math.min(frozen.xSplit ?? 0, columns) },
    rows,
    right,
    bold,
    more: { rows: used.rows - rowCount, columns: used.columns - columns },
  };
}

/** How far a sheet is filled: styles alone go to its last row and column in many workbooks. */
function extentOf(sheet: Worksheet): { rows: number; columns: number } {
  let [rows, columns] = [0, 0];
  sheet.eachRow((row, number) =>
    row.eachCell((cell, column) => {
      if (cell.value === null || cell.value === undefined) return;
      [rows, columns] = [number, Math.max(columns, column)];
    }),
  );
  return { rows, columns };
}

/** The days between the first day of a workbook's count and that of Unix time (ECMA-376, part 1, section 18.17.4.1). */
const daysToUnix = 25_569;
const dayMs = 86_400_000;

/** A cell's text as its number format says, and whether it is set to the right. */
function told(cell: Cell, format: Format): { text: string; isRight: boolean } {
  const value: unknown = cell.result ?? cell.value;
  if (value === null || value === undefined) return { text: '', isRight: false };
  if (value instanceof Date) return formatted(value.getTime() / dayMs + daysToUnix, cell, format);
  if (typeof value === 'number') return formatted(value, cell, format);
  if (typeof value === 'boolean') return { text: value ? 'TRUE' : 'FALSE', isRight: false };
  if (typeof value === 'string') return { text: value, isRight: false };
  if (typeof value === 'object' && 'error' in value) return { text: String(value.error), isRight: false };
  return { text: cell.text, isRight: false };
}

function formatted(value: number, cell: Cell, format: Format): { text: string; isRight: boolean } {
  const pattern = cell.numFmt || (cell.value instanceof Date || cell.result instanceof Date ? 'yyyy-mm-dd' : 'General');
  try {
    return { text: format(pattern, value).trim(), isRight: true };
  } catch {
    // A pattern that is none: the number as it is.
    return { text: String(value), isRight: true };
  }
}
