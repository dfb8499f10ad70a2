/**
 * The caged process that reads what people bring in: it is told what to find in the file `content` of its folder, and
 * answers. It has no network, no secret, sees nothing but its folder, and has limits on memory, time and what it may write;
 * whoever started it kills it where it takes too long.
 */
import { readFile } from 'node:fs/promises';
import { countWords } from '@/core/text/words';
import { cagedMessage, cagedTasks, type TaskInput, type CagedTask, type TaskResult } from '@/server/cage/tasks';
import { readBill } from './tasks/bill';
import { compareTexts } from './tasks/compare';
import { factsOf } from './tasks/facts';
import { readList } from './tasks/list';
import { readMail } from './tasks/mail';
import { readMarkup } from './tasks/markup';
import { drawPicture, markPicture, picturesAsSheets } from './tasks/picture';
import { readPlain } from './tasks/plain';
import { readSheets } from './tasks/sheets';
import { readTable } from './tasks/table';
import { termsOf } from './tasks/terms';
import { readText } from './tasks/text';
import { unpackedBytes } from './tasks/unpacked';
import { contentFile, TooLarge, Written } from './tasks/written';

const tasks: { readonly [T in CagedTask]: (asked: TaskInput<T>, written: Written) => Promise<TaskResult<T>> } = {
  words: async () => countWords(await readFile(contentFile, 'utf8')),
  picture: drawPicture,
  asSheets: picturesAsSheets,
  mark: markPicture,
  table: ({ form }) => readTable(form),
  sheets: ({ form }, written) => readSheets(form, written),
  mail: ({ form }, written) => readMail(form, written),
  markup: readMarkup,
  bill: readBill,
  text: (_asked, written) => readText(written),
  list: (_asked, written) => readList(written),
  plain: (_asked, written) => readPlain(written),
  facts: factsOf,
  compare: compareTexts,
  terms: termsOf,
  beginNote: async (asked, written) => (await import('./tasks/note')).beginNote(asked, written),
  keepNote: async (asked, written) => (await import('./tasks/note')).keepNote(asked, written),
  addToNote: async (_asked, written) => (await import('./tasks/noteLines')).addToNote(written),
  noteAsMarkdown: async (_asked, written) => (await import('./tasks/note')).noteAsMarkdown(written),
  unpacked: unpackedBytes,
  bind: async (asked, written) => (await import('./tasks/bind')).bindSignatures(asked, written),
  seals: async () => (await import('./tasks/seals')).sealsOf(),
};

function answer<T extends CagedTask>(task: T, asked: unknown, written: Written): Promise<TaskResult<T>> {
  return tasks[task](cagedTasks[task].asked.parse(asked) as TaskInput<T>, written);
}

process.on('message', (raw) => {
  const { task, asked } = cagedMessage.parse(raw);
  const written = new Written();
  answer(task, asked, written).then(
    (told) => process.send?.({ told, wrote: written.names }),
    (error: unknown) =>
      // What cannot be read is told by its reader's own answer; anything else ends this process, and with it the attempt.
      error instanceof TooLarge ? process.send?.({ tooLarge: true }) : process.exit(1),
  );
});
process.on('disconnect', () => process.exit(0));
