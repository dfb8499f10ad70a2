/**
 * The caged process that reads what people bring in: it is told a file and what to find in it, and answers. It has no
 * network, no secret, and limits on memory, time and what it may write; whoever started it kills it where it takes too long.
 */
import { readFile } from 'node:fs/promises';
import iconv from 'iconv-lite';
import { decodeTable, readCsv } from '@/core/interchange/block';
import { unguardCell } from '@/core/interchange/cell';
import { textPages } from '@/core/text/pages';
import { countWords } from '@/core/text/words';
import { cagedMessage, cagedTasks, type TaskInput, type CagedTask, type TaskResult } from '@/server/cage/tasks';

/** More text than this is not counted word by word. In characters. */
const mostText = 20_000_000;
/** The most that a table may come to. */
const mostTable = { columns: 1000, rows: 100_001, cells: 2_000_000, characters: 50_000_000 } as const;
const windows1252 = (bytes: Uint8Array): string => iconv.decode(bytes, 'windows-1252');
const docx = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';

/** The beginning of a text that is drawn, and the sheet it is drawn on: A4, in pixels. */
const mostDrawnBytes = 4_000_000;
const paper = { width: 1131, height: 1600, margin: 90 } as const;

class TooLarge extends Error {}

const ways: { readonly [T in CagedTask]: (asked: TaskInput<T>) => Promise<TaskResult<T>> } = {
  words: async ({ file, mediaType }) => {
    const text = await textOf(file, mediaType).catch(() => null);
    return text === null || text.length > mostText ? null : countWords(text);
  },

  picture: async ({ file, into, page, longestSide }) => {
    const { default: sharp } = await import('sharp');
    // A hundred million points are more than any scan of an office's paper has.
    const limitInputPixels = 100_000_000;
    try {
      const { pages = 1 } = await sharp(file, { limitInputPixels }).metadata();
      if (page > pages) return { pages, drawn: false };
      await sharp(file, { limitInputPixels, page: page - 1 })
        .rotate()
        .resize(longestSide, longestSide, { fit: 'inside', withoutEnlargement: true })
        .flatten({ background: 'white' })
        .jpeg({ quality: 80 })
        .toFile(into);
      return { pages, drawn: true };
    } catch (error) {
      if (error instanceof Error && error.message.includes('pixel limit')) throw new TooLarge();
      return { pages: 0, drawn: false };
    }
  },

  textPicture: async ({ file, into, page }) => {
    const pages = textPages(decodeTable((await readFile(file)).subarray(0, mostDrawnBytes), windows1252));
    const lines = pages[page - 1];
    if (!lines) return { pages: pages.length, drawn: false };
    const { default: sharp } = await import('sharp');
    const escaped = lines.join('\n').replace(/&/gu, '&amp;').replace(/</gu, '&lt;').replace(/>/gu, '&gt;');
    const written =
      escaped.trim() === ''
        ? []
        : [
            {
              input: { text: { text: escaped, font: 'DejaVu Sans Mono 11', dpi: 110, rgba: true } },
              left: paper.margin,
              top: paper.margin,
            },
          ];
    await sharp({ create: { width: paper.width, height: paper.height, channels: 3, background: 'white' } })
      .composite(written)
      .jpeg({ quality: 80 })
      .toFile(into);
    return { pages: pages.length, drawn: true };
  },

  table: async ({ file, form }) => {
    const rows = form === 'csv' ? readCsv(decodeTable(await readFile(file), windows1252)) : await sheetOf(file);
    if (rows === null) return null;
    let [cells, characters] = [0, 0];
    for (const row of rows) {
      cells += row.length;
      for (const cell of row) characters += cell.length;
    }
    if (rows.length > mostTable.rows || cells > mostTable.cells || characters > mostTable.characters)
      throw new TooLarge();
    return rows;
  },
};

async function sheetOf(file: string): Promise<string[][] | null> {
  const { default: ExcelJS } = await import('exceljs');
  const book = new ExcelJS.Workbook();
  try {
    await book.xlsx.readFile(file);
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

async function textOf(file: string, mediaType: string): Promise<string | null> {
  if (mediaType === docx) {
    const { default: mammoth } = await import('mammoth');
    return (await mammoth.extractRawText({ path: file })).value;
  }
  return mediaType.startsWith('text/') ? new TextDecoder().decode(await readFile(file)) : null;
}

function answer<T extends CagedTask>(task: T, asked: unknown): Promise<TaskResult<T>> {
  return ways[task](cagedTasks[task].asked.parse(asked) as TaskInput<T>);
}

process.on('message', (raw) => {
  const { task, asked } = cagedMessage.parse(raw);
  answer(task, asked).then(
    (told) => process.send?.({ told }),
    (error: unknown) =>
      // What cannot be read is told by its reader's own answer; anything else ends this process, and with it the attempt.
      error instanceof TooLarge ? process.send?.({ tooLarge: true }) : process.exit(1),
  );
});
process.on('disconnect', () => process.exit(0));
