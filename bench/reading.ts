/**
 * Measures reading: papers a minute by kind, with two loops of the worker, beside the bare program in a loop over the same
 * files; and how long views take while papers are read, against idle. In a library of its own, dropped at the end.
 *   bin/bench reading [PAPERS OF EACH KIND]
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { sql } from 'drizzle-orm';
import { Chance } from '@/core/chance/chance';
import { officeFilters } from '@/core/reading/form';
import { makers } from '@/demo/papers';
import { Prose } from '@/demo/prose';
import { fileBuffer } from '@/demo/file';
import { convertOffice } from '@/server/cage/office';
import { db } from '@/server/db/client';
import { ReadingLoops } from '@/server/extraction/loop';
import { queue, stopQueue } from '@/server/jobs/queue';
import { openView } from '@/server/views/open';
import { dropLibrary, freshLibrary, furnished, plainQuestion } from '../tests/library';

const each = Number(process.argv[2] ?? 60);
process.env['EMBRIN_TEST_CLUSTER'] ??= process.env['DATABASE_URL'] ?? '';
const keeper = await freshLibrary();
const { series, year } = await furnished(keeper);
const folder = mkdtempSync(path.join(tmpdir(), 'embrin-bench-'));

async function made(ending: string, count: number, seed: number): Promise<Buffer[]> {
  const all: Buffer[] = [];
  for (let at = 0; at < count; at += 1) {
    const [words, figures] = [new Prose(new Chance(seed + at)), new Prose(new Chance(seed - at))];
    const draft = {
      title: `Report ${ending} ${seed + at}`,
      subtitle: 'Works',
      written: new Date('2026-07-14T00:00:00Z'),
      author: 'Kea Keeper',
      paragraphs: words.paragraphs(20, 30),
      figures: figures.figures(8),
    };
    all.push((await makers[ending]?.(draft)) ?? Buffer.alloc(0));
  }
  return all;
}

const toBeRead = async (): Promise<number> => {
  const { rows } = await db().execute<{ left: number }>(sql`
    select count(*)::int as left from blob
    where (select count(*) from reading_stage where reading_stage.sha256 = blob.sha256) < 4`);
  return rows[0]?.left ?? 0;
};

/** Files contents, then has two loops read them. Returns contents a minute, of reading alone. */
async function perMinute(ending: string, contents: readonly Buffer[]): Promise<number> {
  for (const [at, content] of contents.entries())
    await fileBuffer(keeper, year.id, `${ending} ${at}.${ending}`, content);
  const loops = new ReadingLoops();
  const from = performance.now();
  for (const name of ['read', 'read'] as const) loops.start(name);
  while ((await toBeRead()) > 0) await wait(300);
  const minutes = (performance.now() - from) / 60_000;
  await loops.stop();
  return contents.length / minutes;
}

/** The bare program over the same files, two at once as the loops are. */
async function bare(ending: string, contents: readonly Buffer[]): Promise<number> {
  const files = contents.map((content, at) => {
    const file = path.join(folder, `${ending}-${at}.${ending}`);
    writeFileSync(file, content);
    return file;
  });
  const from = performance.now();
  if (ending === 'pdf') {
    // What the stages ask of the programs: pages counted, first page drawn, text.
    const script =
      'for f in "$@"; do pdfinfo "$f" >/dev/null; pdftocairo -jpeg -singlefile -f 1 -l 1 -scale-to 560 "$f" "$f.page"; pdftotext "$f" "$f.txt"; done';
    const half = Math.ceil(files.length / 2);
    await Promise.all(
      [files.slice(0, half), files.slice(half)].map(
        (some) =>
          new Promise<void>((done) => {
            void import('node:child_process').then(({ spawn }) =>
              spawn('bash', ['-c', script, 'bash', ...some]).on('close', () => done()),
            );
          }),
      ),
    );
  } else {
    const filter = officeFilters[typeOf[ending] ?? '']?.filter ?? '';
    for (const file of files) await convertOffice(file, filter, 'pages', `${path.basename(file)}.pdf`);
  }
  return files.length / ((performance.now() - from) / 60_000);
}
const typeOf: Readonly<Record<string, string>> = {
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  pptx: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  odt: 'application/vnd.oasis.opendocument.text',
};

// The office program starts once, for both.
await perMinute('docx', await made('docx', 3, 90_000));
for (const [at, ending] of ['pdf', 'docx', 'odt', 'pptx'].entries()) {
  const contents = await made(ending, each, 1000 * (at + 1));
  const ours = await perMinute(ending, contents);
  const theirs = await bare(ending, contents);
  console.log(
    `${ending}: ${Math.round(ours)} a minute; the bare program ${Math.round(theirs)}; ratio ${(ours / theirs).toFixed(2)}`,
  );
}
for (const [at, ending] of ['xlsx', 'csv', 'eml', 'txt', 'html', 'png'].entries()) {
  if (ending === 'png') continue;
  console.log(
    `${ending}: ${Math.round(await perMinute(ending, await made(ending, each, 50_000 + 1000 * at)))} a minute`,
  );
}

async function viewMs(count: number): Promise<number> {
  const times: number[] = [];
  for (let at = 0; at < count; at += 1) {
    const from = performance.now();
    await openView(keeper, { ...plainQuestion, placeId: series.id, below: true });
    times.push(performance.now() - from);
    await wait(30);
  }
  times.sort((one, other) => one - other);
  return times[Math.floor(0.95 * (times.length - 1))] ?? 0;
}
await viewMs(20);
const idle = await viewMs(200);
for (const [at, content] of (await made('docx', 200, 200_000)).entries())
  await fileBuffer(keeper, year.id, `more ${at}.docx`, content);
// As the start command runs it: the worker in a process of its own, below what people are given.
const { spawn } = await import('node:child_process');
const { programOf } = await import('@/server/base/processes');
const worker = programOf('worker/main.ts');
const child = spawn(process.execPath, [...worker.nodeWords, worker.file], { env: process.env, stdio: 'ignore' });
await wait(3000);
const busy = await viewMs(200);
console.log(
  `a view at p95: ${idle.toFixed(1)} ms idle, ${busy.toFixed(1)} ms while papers are read; ratio ${(busy / idle).toFixed(2)}; ${await toBeRead()} were left to read`,
);
console.log(`memory of the worker and all that it started: ${memoryOf(child.pid ?? 0)} MB`);
child.kill('SIGTERM');
await new Promise((done) => child.once('exit', done));

/** Resident memory of a process and all beneath it, without what they share, in megabytes. */
function memoryOf(root: number): number {
  const lines = execFileSync('ps', ['-eo', 'pid,ppid'], { encoding: 'utf8' }).trim().split('\n').slice(1);
  const parents = lines.map((line) => line.trim().split(/\s+/u).map(Number));
  const found = new Set([root]);
  for (let grown = true; grown;) {
    grown = false;
    for (const [pid = 0, parent = 0] of parents)
      if (found.has(parent) && !found.has(pid)) {
        found.add(pid);
        grown = true;
      }
  }
  let kilobytes = 0;
  for (const pid of found) {
    const told = spawnSync('awk', ['/^Pss:/ {sum += $2} END {print sum}', `/proc/${pid}/smaps_rollup`], {
      encoding: 'utf8',
    });
    kilobytes += Number(told.stdout) || 0;
  }
  return Math.round(kilobytes / 1000);
}

await queue();
await stopQueue();
await dropLibrary();
process.exit(0);
