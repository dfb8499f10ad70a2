/**
 * Files real documents from outside the project and has the worker's own loops read them, in a library of its own, dropped
 * at the end. Measures how many were read in full, in part and not, by kind and why; and compares the text of PDFs with
 * that of another program.
 *   bin/bench corpus FOLDER… [--most N of each ending]
 */
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { asc, eq } from 'drizzle-orm';
import { readingOf, type Reading } from '@/core/reading/stages';
import { fileBuffer } from '@/demo/file';
import { endingOf } from '@/core/files/title';
import { db } from '@/server/db/client';
import { readingAttempt, readingPage, version } from '@/server/db/schema';
import { resultsOf } from '@/server/extraction/read';
import { ReadingLoops } from '@/server/extraction/loop';
import { queue, stopQueue } from '@/server/jobs/queue';
import { wordsOf } from '@/core/text/sentences';
import { dropLibrary, freshLibrary, furnished } from '../tests/library';

const words = process.argv.slice(2);
const at = words.indexOf('--most');
const most = at === -1 ? 150 : Number(words[at + 1]);
const folders = at === -1 ? words : words.slice(0, at);

const endings = new Set(
  'pdf docx doc rtf odt ott wpd xlsx xls ods ots csv pptx ppt odp otp eml msg html htm txt md png jpg jpeg webp gif tif tiff zip'.split(
    ' ',
  ),
);

function* filesIn(folder: string): Generator<string> {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const each = path.join(folder, entry.name);
    if (entry.isDirectory()) yield* filesIn(each);
    else if (entry.isFile()) yield each;
  }
}

process.env['EMBRIN_TEST_CLUSTER'] ??= process.env['DATABASE_URL'] ?? '';
const keeper = await freshLibrary();
const { year } = await furnished(keeper);
const counts = new Map<string, number>();
const filed: { file: string; sha256: string; mediaType: string }[] = [];
let refused = 0;
const known = new Set<string>();
for (const file of folders.flatMap((folder) => [...filesIn(folder)]).sort()) {
  // A mail of the test-suite has a text's ending, and is one by its content.
  const ending = endingOf(file);
  const size = statSync(file).size;
  if (!endings.has(ending) || (counts.get(ending) ?? 0) >= most || size === 0 || size > 60_000_000) continue;
  counts.set(ending, (counts.get(ending) ?? 0) + 1);
  try {
    const id = await fileBuffer(keeper, year.id, path.basename(file), readFileSync(file));
    const [row] = await db()
      .select({ sha256: version.sha256, mediaType: version.mediaType })
      .from(version)
      .where(eq(version.documentId, id));
    if (!row || known.has(row.sha256)) continue;
    known.add(row.sha256);
    filed.push({ file, ...row });
  } catch {
    refused += 1;
  }
}
console.log(`${filed.length} documents filed, ${refused} refused for their kind`);

const loops = new ReadingLoops();
for (const name of ['read', 'read', 'ocr'] as const) loops.start(name);
const boss = await queue();
const began = performance.now();
const state = async (sha256: string): Promise<Reading> => {
  const begun = await db().$count(readingAttempt, eq(readingAttempt.sha256, sha256));
  return readingOf(await resultsOf(sha256), begun > 0);
};
for (;;) {
  await wait(2000);
  const left = (await boss.getQueueSize('read')) + (await boss.getQueueSize('ocr'));
  if (left > 0) continue;
  const states = await Promise.all(filed.map(({ sha256 }) => state(sha256)));
  if (!states.some((each) => each.state === 'waiting' || each.state === 'beingRead')) break;
}
console.log(`read in ${Math.round((performance.now() - began) / 1000)} s`);

const table = new Map<string, Map<string, number>>();
const agreement: number[] = [];
for (const { file, sha256, mediaType } of filed) {
  const { state: how, why } = await state(sha256);
  const line = table.get(mediaType) ?? new Map<string, number>();
  const told = why === null ? how : `${how} (${why})`;
  line.set(told, (line.get(told) ?? 0) + 1);
  table.set(mediaType, line);
  if (how === 'unreadable' || how === 'readInPart') {
    const stages = (await resultsOf(sha256)).map(({ stage, outcome }) => `${stage} ${outcome}`).join(', ');
    console.log(`  ${told}: ${path.basename(file)} (${stages})`);
  }
  if (mediaType === 'application/pdf' && how === 'read' && agreement.length < 60) {
    const part = await agrees(file, sha256);
    agreement.push(part);
    if (part < 0.9) console.log(`  ${part.toFixed(3)} of its words in common: ${path.basename(file)}`);
  }
}
for (const [mediaType, line] of [...table].sort())
  console.log(`${mediaType}: ${[...line].map(([told, count]) => `${count} ${told}`).join(', ')}`);
if (agreement.length > 0) {
  const sorted = agreement.sort((one, other) => one - other);
  const quantile = (part: number) => (sorted[Math.floor(part * (sorted.length - 1))] ?? 0).toFixed(3);
  console.log(
    `text of ${sorted.length} PDFs beside mutool's, words in common: least ${quantile(0)}, 5 % ${quantile(0.05)}, median ${quantile(0.5)}`,
  );
}

/** The share of words that our text and another program's have in common, by how often each is there. */
async function agrees(file: string, sha256: string): Promise<number> {
  const pages = await db()
    .select({ words: readingPage.words })
    .from(readingPage)
    .where(eq(readingPage.sha256, sha256))
    .orderBy(asc(readingPage.page));
  const ours = bag(pages.map((page) => page.words).join('\n'));
  const theirs = bag(
    execFileSync('mutool', ['draw', '-q', '-F', 'txt', file], {
      maxBuffer: 200_000_000,
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
    }),
  );
  let [shared, all] = [0, 0];
  for (const word of new Set([...ours.keys(), ...theirs.keys()])) {
    shared += Math.min(ours.get(word) ?? 0, theirs.get(word) ?? 0);
    all += Math.max(ours.get(word) ?? 0, theirs.get(word) ?? 0);
  }
  return all === 0 ? 1 : shared / all;
}

function bag(text: string): Map<string, number> {
  const counted = new Map<string, number>();
  for (const word of wordsOf(text.replace(/-\n/gu, ''))) counted.set(word, (counted.get(word) ?? 0) + 1);
  return counted;
}

await loops.stop();
await stopQueue();
await dropLibrary();
process.exit(0);
