/**
 * Measures what a keeper does with many papers at once: `npm run bench:keeping [-- --papers 100000] [-- --megabytes 2000]`.
 * Acts on 5,000 papers, moving a folder with all papers below it, the tree of ticks, an export beside `zip -0` of the same
 * files and one ten times as large for its memory, and a backup beside `rsync` and `sync` of the same files, with the second run.
 * In a library of its own, dropped at the end.
 */
import { execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable, Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { eq } from 'drizzle-orm';
import { setLock } from '@/server/standstill/standstill';
import { acrossTotals } from '@/server/across/chosen';
import { makeBackup } from '@/server/backup/make';
import { db } from '@/server/db/client';
import { document } from '@/server/db/schema';
import { disposePapers } from '@/server/disposal/dispose';
import { movePapers } from '@/server/documents/amend';
import { copyPapers } from '@/server/documents/copy';
import { crossFile } from '@/server/documents/crossFile';
import { exportPapers } from '@/server/exports/exportPapers';
import { createDossier } from '@/server/dossiers/create';
import { createFolder } from '@/server/places/create';
import { movePlace } from '@/server/places/move';
import { openPlace, listChildren } from '@/server/places/open';
import { openView } from '@/server/views/open';
import { startUpload } from '@/server/uploads/start';
import { ownUpload, receive } from '@/server/uploads/receive';
import { settleUpload } from '@/server/uploads/settle';
import { dropPlanted, freshLibrary, furnished, plainQuestion } from '../tests/library';
import { fillWithPapers } from './large';

const numberAfter = (word: string, otherwise: number): number => {
  const at = process.argv.indexOf(word);
  return at === -1 ? otherwise : Number(process.argv[at + 1]);
};
const papers = numberAfter('--papers', 100_000);
const megabytes = numberAfter('--megabytes', 2000);
const acted = 5000;

const ms = async (work: () => Promise<unknown>): Promise<number> => {
  const began = performance.now();
  await work();
  return performance.now() - began;
};
const say = (what: string, figure: string): void => console.log(`${what.padEnd(58)} ${figure}`);
const median = (all: readonly number[]): number => [...all].sort((one, other) => one - other)[all.length >> 1] ?? NaN;
const inMs = (figure: number): string => `${Math.round(figure).toLocaleString('en-GB')} ms`;

process.env['EMBRIN_TEST_CLUSTER'] ??= process.env['DATABASE_URL'] ?? '';
const keeper = await freshLibrary();
const { series, dossier, year } = await furnished(keeper);
const folder = await mkdtemp(path.join(tmpdir(), 'embrin-keeping-'));

async function acts(): Promise<void> {
  const from = await createFolder(keeper, { parentId: year.id, name: 'Many' });
  const inner = await Promise.all(
    Array.from({ length: 20 }, (_each, at) => createFolder(keeper, { parentId: from.id, name: `Part ${at}` })),
  );
  await fillWithPapers(
    keeper,
    inner.map(({ id }) => id),
    papers,
  );
  const aside = await createFolder(keeper, { parentId: year.id, name: 'Aside' });
  const also = await createFolder(keeper, { parentId: year.id, name: 'Also' });
  const documentIds = (
    await db()
      .select({ id: document.id })
      .from(document)
      .where(eq(document.homeId, inner[0]?.id ?? ''))
      .limit(acted)
  ).map(({ id }) => id);
  const number = documentIds.length.toLocaleString('en-GB');
  say(`moving ${number} papers`, inMs(await ms(() => movePapers(keeper, { documentIds, toId: aside.id }))));
  say(
    `filing them elsewhere as well`,
    inMs(await ms(() => crossFile(keeper, { documentIds, toIds: [also.id], kind: 'pointer' }))),
  );
  say(`locking them`, inMs(await ms(() => setLock(keeper, { documentIds, locked: true }))));
  say(`unlocking them`, inMs(await ms(() => setLock(keeper, { documentIds, locked: false }))));
  say(
    `copying 1,000 of them`,
    inMs(
      await ms(() =>
        copyPapers(keeper, { documentIds: documentIds.slice(0, 1000), toIds: [also.id], onSameName: 'number' }),
      ),
    ),
  );
  say(`disposing of them`, inMs(await ms(() => disposePapers(keeper, { documentIds }))));

  const other = await createDossier(keeper, { seriesId: series.id, name: 'Other', reference: null });
  const otherYear = (await openPlace(keeper, { placeId: other.id })).children[0];
  const moves: number[] = [];
  for (let round = 0; round < 6; round += 1) {
    const toId = round % 2 === 0 ? (otherYear?.id ?? '') : year.id;
    moves.push(await ms(() => movePlace(keeper, { placeId: from.id, toId })));
  }
  say(
    `moving a folder with ${papers.toLocaleString('en-GB')} papers below it, median of 6`,
    `${inMs(median(moves))}, at most ${inMs(Math.max(...moves))}`,
  );

  const whole = { ...plainQuestion, placeId: series.id, below: true, limit: 10 };
  await openView(keeper, whole);
  say(
    'opening a branch of the tree of ticks',
    inMs(median(await several(() => listChildren(keeper, { placeId: year.id })))),
  );
  const ticked = {
    marks: [
      { id: series.id, on: true },
      { id: inner[3]?.id ?? '', on: false },
    ],
    conditions: [],
  };
  say('totals of what is ticked', inMs(median(await several(() => acrossTotals(keeper, ticked)))));
}

async function several(work: () => Promise<unknown>): Promise<number[]> {
  const took: number[] = [];
  for (let round = 0; round < 7; round += 1) took.push(await ms(work));
  return took;
}

const fileBytes = 10_000_000;
async function fill(): Promise<string[]> {
  const ids: string[] = [];
  const grain = Buffer.from(randomBytes(fileBytes / 2).toString('hex'));
  for (let at = 0; at * fileBytes < megabytes * 1e6; at += 1) {
    const content = Buffer.from(grain);
    content.write(`file ${at} `, 0);
    const id = crypto.randomUUID();
    await startUpload(keeper, id, fileBytes, {
      placeId: dossier.id,
      fileName: `File ${at}.txt`,
      onSameContent: 'file',
    });
    await receive(await ownUpload(keeper, id), 0, Readable.from([content]));
    const outcome = await settleUpload(keeper, id);
    if (outcome.state !== 'filed') throw new Error(JSON.stringify(outcome));
    ids.push(outcome.documentId);
  }
  return ids;
}

async function archives(): Promise<void> {
  const ids = await fill();
  const zip = path.join(folder, 'ours.zip');
  const out = path.join(folder, 'files');
  const run = (command: string, ...args: string[]) => execFileSync(command, args, { cwd: folder, stdio: 'ignore' });
  const write = async () => pipeline((await exportPapers(keeper, ids)).begin(), createWriteStream(zip));
  await write();
  run('unzip', '-q', '-d', out, zip);
  const ratios: number[] = [];
  for (let round = 0; round < 3; round += 1) {
    await rm(zip);
    await rm(path.join(folder, 'theirs.zip'), { force: true });
    const ours = await ms(write);
    const theirs = await ms(() => Promise.resolve(run('zip', '-q', '-0', '-r', 'theirs.zip', 'files')));
    ratios.push(theirs / ours);
  }
  say(
    `export of ${megabytes} MB, its speed by that of zip -0, median of 3`,
    `${median(ratios).toFixed(2)} (${ratios.map((each) => each.toFixed(2)).join(', ')})`,
  );
  await rm(zip);
  await rm(path.join(folder, 'theirs.zip'));

  const times = 10;
  const copies = await createFolder(keeper, { parentId: year.id, name: 'Copies' });
  const all = [...ids];
  for (let at = 1; at < times; at += 1)
    all.push(...(await copyPapers(keeper, { documentIds: ids, toIds: [copies.id], onSameName: 'number' })).copies);
  let most = 0;
  const watch = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 50);
  const before = process.memoryUsage().rss;
  let bytes = 0;
  const nowhere = new Writable({
    write(part: Buffer, _encoding, done) {
      bytes += part.length;
      done();
    },
  });
  await pipeline((await exportPapers(keeper, all)).begin(), nowhere);
  clearInterval(watch);
  say(
    `export of ${(bytes / 1e9).toFixed(1)} GB: memory above the beginning, at most`,
    `${Math.round((most - before) / 1e6)} MB`,
  );

  const [to, copied] = [path.join(folder, 'backup'), path.join(folder, 'copied')];
  run('sync');
  // Both until the disk has it: a backup is one only then.
  const theirs = await ms(async () => {
    run('rsync', '-a', 'files', copied);
    run('sync', '--file-system', copied);
    return Promise.resolve();
  });
  const first = await ms(() => makeBackup(to));
  const second = await ms(() => makeBackup(to));
  say(`backup of ${megabytes} MB, its speed by that of rsync and sync`, (theirs / first).toFixed(2));
  say('the second backup, its time by that of the first', (second / first).toFixed(3));
}

try {
  await acts();
  await archives();
} finally {
  await rm(folder, { recursive: true, force: true });
  await dropPlanted();
}
