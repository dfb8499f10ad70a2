/**
 * Says where the content of papers is kept, or takes it from one store to the other while the library runs. Can be broken
 * off at any moment, and goes on when it is run again. The hash of each content is verified.
 *   npm run content:move
 *   npm run content:move -- --to directory
 *   npm run content:move -- --to rows
 */
import { storeNames, type StoreName } from '@/core/content/model';
import { counted, sizeInWords } from '@/core/text/measure';
import { config } from '@/server/base/config';
import { moveContent, whereContentIs } from '@/server/blobs/move';
import { disconnect } from '@/server/db/client';

const storeWords: Readonly<Record<StoreName, string>> = {
  rows: 'rows of the database',
  directory: `the directory ${config().EMBRIN_CONTENT}`,
};
const isStore = (word: string | undefined): word is StoreName => storeNames.some((name) => name === word);

const tellEveryMs = 1000;

async function tell(): Promise<void> {
  const { store, contents, uploads } = await whereContentIs();
  if (store === null) return console.log('No library is founded yet.');
  console.log(`What comes in is kept in ${storeWords[store]}.`);
  for (const each of contents)
    console.log(`  ${counted(each.contents, 'content')}, ${sizeInWords(each.bytes)}, in ${storeWords[each.store]}`);
  for (const each of uploads.filter((some) => some.store !== store))
    console.log(
      `  ${counted(each.uploads, 'upload')} under way in ${storeWords[each.store]}: run this again when they have ended`,
    );
}

const [word, to, ...more] = process.argv.slice(2);
if (word === undefined) await tell();
else if (word !== '--to' || !isStore(to) || more.length > 0) {
  console.error(`content:move: say --to ${storeNames.join(' or --to ')}, or nothing to be told where content is`);
  process.exitCode = 2;
} else {
  let toldAt = 0;
  const { damaged } = await moveContent(to, ({ contents, bytes }) => {
    if (Date.now() - toldAt < tellEveryMs) return;
    toldAt = Date.now();
    console.log(`  ${counted(contents, 'content')}, ${sizeInWords(bytes)} moved`);
  });
  await tell();
  if (damaged > 0) {
    console.error(`${counted(damaged, 'content is', 'contents are')} not what was filed, and stay where they were.`);
    process.exitCode = 1;
  }
}
await disconnect();
