/**
 * Measures filing many small files by the browser's own client: `npm run bench:filing [-- --files 2000 --kilobytes 20
 * --folders 200]`. They are dropped on a place in Chromium, as folders, and counted from the press on the button until
 * the last is a paper. Beside it, in the same run, before and after: a bare loop that writes, syncs and renames the same
 * files and inserts one row for each, as many at once as the client sends.
 */
import { randomBytes } from 'node:crypto';
import { mkdir, mkdtemp, open, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By } from 'selenium-webdriver';
import { count } from 'drizzle-orm';
import { Pool } from 'pg';
import { writableDb } from '@/server/db/client';
import { document } from '@/server/db/schema';
import { createFolder } from '@/server/places/create';
import { Browser } from '../tests/browser/browser';
import { WebServer } from '../tests/browser/server';
import { dropPlanted, freshLibrary, furnished, passwords } from '../tests/library';

const numberOf = (name: string, otherwise: number): number => {
  const at = process.argv.indexOf(`--${name}`);
  const number = at === -1 ? otherwise : Number(process.argv[at + 1]);
  if (!Number.isInteger(number) || number < 1) throw new Error(`Say a number: --${name} ${otherwise}`);
  return number;
};
const files = numberOf('files', 2000);
const bytes = numberOf('kilobytes', 20) * 1000;
const folders = numberOf('folders', 200);
const atOnce = 6;

const work = await mkdtemp(path.join(tmpdir(), 'embrin-bench-filing-'));
const cabinet = path.join(work, 'Cabinet');
const paths: string[] = [];
for (let at = 0; at < files; at += 1) {
  const folder = path.join(cabinet, `Drawer ${at % folders}`);
  if (at < folders) await mkdir(folder, { recursive: true });
  const file = path.join(folder, `Paper ${at}.txt`);
  await writeFile(file, `Paper ${at}\n${randomBytes(bytes / 2).toString('hex')}`.slice(0, bytes));
  paths.push(file);
}

const keeper = await freshLibrary();
const { year } = await furnished(keeper);
const placeId = (await createFolder(keeper, { parentId: year.id, name: 'Filed here' })).id;
const server = await WebServer.start();
const pool = new Pool({ connectionString: process.env['DATABASE_URL'], max: atOnce });
await pool.query(
  'create table bare_file (id uuid primary key, name text not null, size bigint not null, at timestamptz not null default now())',
);

/** Files a second of the bare loop. */
async function bare(run: number): Promise<number> {
  const folder = path.join(work, `bare ${run}`);
  await mkdir(folder);
  const left = [...paths];
  const began = performance.now();
  const one = async () => {
    for (let from = left.pop(); from !== undefined; from = left.pop()) {
      const content = await readFile(from);
      const id = crypto.randomUUID();
      const file = await open(path.join(folder, `${id}.part`), 'w');
      await file.writeFile(content);
      await file.sync();
      await file.close();
      await rename(path.join(folder, `${id}.part`), path.join(folder, id));
      await pool.query('insert into bare_file (id, name, size) values ($1, $2, $3)', [id, from, content.length]);
    }
  };
  await Promise.all(Array.from({ length: atOnce }, one));
  return files / ((performance.now() - began) / 1000);
}

const filed = async (): Promise<number> =>
  (await writableDb().select({ papers: count() }).from(document))[0]?.papers ?? 0;

/** Files a second of the browser's client. */
async function filing(): Promise<{ dropped: number; perSecond: number }> {
  const browser = await Browser.open();
  await browser.signIn(server.url, keeper.email, passwords.keeper);
  await browser.goTo(`${server.url}/place/${placeId}`);
  await browser.seesText('Filed here');
  const dropping = performance.now();
  await browser.dropFiles(await browser.driver.findElement(By.css('main')), [cabinet]);
  await browser.seesText(`${files.toLocaleString('en-GB')} files`);
  const dropped = (performance.now() - dropping) / 1000;
  await browser.click('button', `File ${files.toLocaleString('en-GB')} papers in Filed here`);
  const began = performance.now();
  while ((await filed()) < files) await new Promise((done) => setTimeout(done, 100));
  const perSecond = files / ((performance.now() - began) / 1000);
  await browser.close();
  return { dropped, perSecond };
}

const before = await bare(1);
const { dropped, perSecond } = await filing();
const after = await bare(2);
const loop = (before + after) / 2;
console.log(`${files.toLocaleString('en-GB')} files of ${bytes / 1000} kB in ${folders} folders`);
console.log(`shown as a tree ${dropped.toFixed(1)} s after the drop`);
console.log(
  `filed ${perSecond.toFixed(0)} a second; the bare loop ${before.toFixed(0)} and ${after.toFixed(0)}: ${(perSecond / loop).toFixed(2)} of it`,
);
await pool.end();
await server.end();
await rm(work, { recursive: true, force: true });
await dropPlanted();
process.exit(0);
