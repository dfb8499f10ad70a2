import { readFile } from 'node:fs/promises';
import iconv from 'iconv-lite';
import { decodeTable, readCsv } from '@/core/interchange/block';
import { unguardCell } from '@/core/interchange/cell';
import type { TaskResult } from '@/server/cage/tasks';
import { contentFile, TooLarge } from './written';

/** The most that a table may come to. */
const mostTable = { columns: 1000, rows: 100_001, cells: 2_000_000, characters: 50_000_000 } as const;
const windows1252 = (bytes: Uint8Array): string => iconv.decode(Buffer.from(bytes), 'windows-1252');

/** The cells of a CSV, or of a workbook's first sheet; null if it is neither. */
export async function readTable(form: 'csv' | 'xlsx'): Promise<TaskResult<'table'>> {
  const rows = form === 'csv' ? readCsv(decodeTable(await readFile(contentFile), windows1252)) : await firstSheet();
  if (rows === null) return null;
  let [cells, characters] = [0, 0];
  for (const row of rows) {
    cells += row.length;
    for (const cell of row) characters += cell.length;
  }
  if (rows.length > mostTable.rows || cells > mostTable.cells || characters > mostTable.characters)
    throw new TooLarge();
  return rows;
}

async function firstSheet(): Promise<string[][] | null> {
  const { default: ExcelJS } = await import('exceljs');
  const book = new ExcelJS.Workbook();
  try {
    await book.xlsx.readFile(contentFile);
  } catch {
    return null;
  }
  const rows: string[][] = [];
  book.worksheets[0]?.eachRow((row) => {
    const cells: string[] = [];
    // Only cells that hold something: one in the last column of all must not make a thousand empty ones before it.
    row.eachCell((cell, number) => {
      if (number > mostTable.columns || rows.length >= mostTable.rows) throw new TooLarge();
      cells[number - 1] = unguardCell(cell.value instanceof Date ? cell.value.toISOString().slice(0, 10) : cell.text);
    });
    rows.push(Array.from(cells, (cell) => cell ?? ''));
  });
  return rows;
}
