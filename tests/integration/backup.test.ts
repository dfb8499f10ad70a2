import { appendFile, mkdir, mkdtemp, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { sql } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import { setAccess } from '@/server/access/change';
import { backupFaults, backupIn, backupsIn, contentFileIn, contentsOf } from '@/server/backup/folder';
import { makeBackup } from '@/server/backup/make';
import { restoreBackup } from '@/server/backup/restore';
import { atMoment } from '@/server/base/clock';
import { moveContent } from '@/server/blobs/move';
import { db, disconnect } from '@/server/db/client';
import { blobChunk } from '@/server/db/schema';
import { destroyPapers } from '@/server/disposal/destroy';
import { disposePapers } from '@/server/disposal/dispose';
import type { Actor } from '@/server/gate/actor';
import { stopQueue } from '@/server/jobs/queue';
import { ownUpload, receive } from '@/server/uploads/receive';
import { settleUpload } from '@/server/uploads/settle';
import { startUpload } from '@/server/uploads/start';
import { verifyLibrary } from '@/server/verify/verify';
import { dropLibrary, emptyLibrary, freshLibrary, furnished, newcomer, open, refusedAs } from '../library';
import { contentOf, fileAndRead } from '../reading';

let folder: string;
let contentFolder: string;
let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
const contentBefore = process.env['EMBRIN_CONTENT'] ?? '';

beforeEach(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'embrin-backup-'));
  contentFolder = await mkdtemp(path.join(tmpdir(), 'embrin-content-'));
  process.env['EMBRIN_CONTENT'] = path.join(contentFolder, 'content');
  keeper = await freshLibrary();
  home = await furnished(keeper);
});
afterEach(async () => {
  await dropLibrary();
  process.env['EMBRIN_CONTENT'] = contentBefore;
  await rm(folder, { recursive: true });
  await rm(contentFolder, { recursive: true });
});

let counter = 0;
const file = (content: string | Buffer): Promise<string> =>
  fileBuffer(keeper, home.year.id, `paper ${(counter += 1)}.txt`, Buffer.from(content));

/** Every row of every table as text, but for the bytes of content, which have hashes of their own. */
async function everyRow(): Promise<Record<string, string>> {
  const { rows: tables } = await db().execute<{ name: string }>(sql`
    select quote_ident(schemaname) || '.' || quote_ident(tablename) as name from pg_tables
    where schemaname in ('public', 'drizzle') and tablename not in ('blob_chunk', 'tally_change') order by 1`);
  const said: Record<string, string> = {};
  for (const { name } of tables) {
    const { rows } = await db().execute<{ said: string }>(sql`
      select count(*) || ' ' || md5(coalesce(string_agg(line, ';' order by line), '')) as said
      from (select md5(each::text) as line from ${sql.raw(name)} as each) as lines`);
    said[name] = rows[0]?.said ?? '';
  }
  return said;
}

/** Another machine: another database, and another folder for content. */
async function elsewhere(): Promise<void> {
  await dropLibrary();
  process.env['EMBRIN_CONTENT'] = path.join(contentFolder, 'elsewhere');
  await emptyLibrary();
}
const stopped = async (): Promise<void> => {
  await stopQueue();
  await disconnect();
};

/** Flips one bit of a file, its length kept. */
async function spoil(name: string): Promise<void> {
  const bytes = await readFile(name);
  const at = Math.floor(bytes.length / 2);
  bytes[at] = (bytes[at] ?? 0) ^ 1;
  await writeFile(name, bytes);
}

it('brings a library back as it was, row by row and byte by byte, from rows and from the directory', async () => {
  const reader = await newcomer(keeper, 'Rea Der');
  await open(keeper, home.series.id, reader, 'reader');
  await fileAndRead(keeper, home.year.id, 'read.txt', Buffer.from('words that are found\n'));
  await file(Buffer.alloc(5_300_000, 'large '));
  await moveContent('directory', () => undefined);
  const id = await file('in the directory');
  await setAccess(keeper, { on: { kind: 'paper', id }, follows: false, revision: 0, message: null, grants: [] });
  await moveContent('rows', () => undefined);
  await file('in rows again');
  const before = await everyRow();
  const made = await makeBackup(folder);
  expect(made).toMatchObject({ papers: 4, damaged: [], libraryName: 'Test Trust' });
  await elsewhere();
  await stopped();
  const { manifest, secret } = await restoreBackup(folder, null);
  expect([manifest.name, secret]).toEqual([made.name, process.env['EMBRIN_SECRET']]);
  expect(await everyRow()).toEqual(before);
  expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
});

it('has small content whole that came in several pieces, as after a connection was lost', async () => {
  const [id, bytes] = [crypto.randomUUID(), Buffer.from('a first half, and a second')];
  await startUpload(keeper, id, bytes.length, { placeId: home.year.id, fileName: 'halves.txt' });
  await receive(await ownUpload(keeper, id), 0, Readable.from([bytes.subarray(0, 10)]));
  await receive(await ownUpload(keeper, id), 10, Readable.from([bytes.subarray(10)]));
  expect(await settleUpload(keeper, id)).toMatchObject({ state: 'filed' });
  expect(await db().$count(blobChunk)).toBe(2);
  const made = await makeBackup(folder);
  expect([made.damaged, made.newContents]).toEqual([[], 1]);
  expect(await backupFaults(folder, made, { bytes: true })).toEqual([]);
});

it('leaves alone what is no complete backup when it removes older ones', async () => {
  await file('kept');
  await mkdir(path.join(folder, 'backups', '2020-01-01T000000Z'), { recursive: true });
  await makeBackup(folder, { keep: 1 });
  expect(await readdir(path.join(folder, 'backups'))).toHaveLength(2);
});

it('writes nothing again that the folder has, and keeps as many as it is told', async () => {
  await file('one');
  await file(Buffer.alloc(3_000_000, 'x'));
  const days = (count: number) => new Date(Date.UTC(2027, 0, count));
  const first = await atMoment(days(1), () => makeBackup(folder));
  expect([first.newContents, first.newBytes]).toEqual([2, 3_000_003]);
  const gone = await file('to be destroyed');
  const sha256 = await contentOf(gone);
  expect((await atMoment(days(2), () => makeBackup(folder))).newContents).toBe(1);
  await disposePapers(keeper, { documentIds: [gone] });
  await destroyPapers(keeper, { documentIds: [gone] });
  expect((await atMoment(days(3), () => makeBackup(folder, { keep: 2 }))).newContents).toBe(0);
  expect((await backupsIn(folder)).map(({ name }) => name)).toEqual(['2027-01-02T000000Z', '2027-01-03T000000Z']);
  const has = async () =>
    (await readdir(path.dirname(contentFileIn(folder, sha256))).catch((): string[] => [])).includes(sha256);
  expect(await has()).toBe(true);
  await atMoment(days(4), () => makeBackup(folder, { keep: 2 }));
  expect(await has()).toBe(false);
  const [newest] = (await backupsIn(folder)).slice(-1);
  expect(newest && (await backupFaults(folder, newest, { bytes: true }))).toEqual([]);
});

it('is of one moment while others file and destroy: whole, and with everything acknowledged before it', async () => {
  const before = [await file('first'), await file('second')];
  let going = true;
  const others = (async () => {
    while (going) {
      const id = await file(`filed meanwhile ${counter}`);
      await disposePapers(keeper, { documentIds: [id] });
      await destroyPapers(keeper, { documentIds: [id] });
    }
  })();
  const made = await makeBackup(folder);
  going = false;
  await others;
  expect(await backupFaults(folder, made, { bytes: true })).toEqual([]);
  const listed = new Set((await contentsOf(folder, made.name)).map(({ sha256 }) => sha256));
  for (const id of before) expect(listed.has(await contentOf(id))).toBe(true);
  await elsewhere();
  await stopped();
  await restoreBackup(folder, made.name);
  expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
});

it('refuses a library that is there, and leaves it as it is', async () => {
  await file('kept');
  await makeBackup(folder);
  const before = await everyRow();
  await stopped();
  expect(await refusedAs(restoreBackup(folder, null))).toBe('conflict');
  expect(await everyRow()).toEqual(before);
});

it.each(['content', 'database.dump', 'contents.txt'])(
  'says that one byte of %s was changed, and restores nothing',
  async (what) => {
    const id = await file(Buffer.alloc(2_000_000, 'bytes '));
    const made = await makeBackup(folder);
    const spoilt =
      what === 'content' ? contentFileIn(folder, await contentOf(id)) : path.join(backupIn(folder, made.name), what);
    await spoil(spoilt);
    expect(await backupFaults(folder, made, { bytes: true })).toEqual([
      { file: path.relative(folder, spoilt), says: 'is not what was written' },
    ]);
    await elsewhere();
    await stopped();
    await expect(restoreBackup(folder, null)).rejects.toMatchObject({
      issue: { kind: 'damaged-content', says: expect.stringContaining(path.relative(folder, spoilt)) as string },
    });
    const { rows } = await db().execute(sql`select from library`);
    expect(rows).toEqual([]);
    // And what is missing is said too, before anything is begun.
    await rm(spoilt);
    expect(await refusedAs(restoreBackup(folder, null))).toBe('damaged-content');
  },
);

it('begins anew after one that died, of which nothing counts', async () => {
  await file('whole');
  await mkdir(path.join(folder, 'making', '2026-01-01T000000Z', 'content'), { recursive: true });
  await writeFile(path.join(folder, 'making', '2026-01-01T000000Z', 'content', 'half'), 'half');
  const made = await makeBackup(folder);
  expect(await readdir(path.join(folder, 'making'))).toEqual([]);
  // A backup without its manifest is none.
  await mkdir(path.join(folder, 'backups', '2027-01-01T000000Z'));
  await appendFile(path.join(folder, 'backups', '2027-01-01T000000Z', 'contents.txt'), 'begun');
  expect((await backupsIn(folder)).map(({ name }) => name)).toEqual([made.name]);
  await elsewhere();
  await stopped();
  // A restore that died has left its database.
  const target = new URL(process.env['DATABASE_URL'] ?? '').pathname.slice(1);
  await db().execute(sql.raw('select 1'));
  await disconnect();
  await asAdmin(`create database ${target}_restoring`);
  await restoreBackup(folder, null);
  expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
  expect(await refusedAs(restoreBackup(folder, '2027-01-01T000000Z'))).toBe('not-found');
});

it('takes no folder with backups of another library, and makes one at a time', async () => {
  await file('mine');
  const both = await Promise.allSettled([makeBackup(folder), makeBackup(folder)]);
  expect(both.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
  const [one] = await backupsIn(folder);
  if (!one) throw new Error('There is no backup');
  const manifest = path.join(backupIn(folder, one.name), 'manifest.json');
  await writeFile(`${manifest}.new`, JSON.stringify({ ...one, libraryId: crypto.randomUUID() }));
  await rename(`${manifest}.new`, manifest);
  expect(await refusedAs(makeBackup(folder))).toBe('invalid');
});

async function asAdmin(statement: string): Promise<void> {
  const { Client } = await import('pg');
  const client = new Client({ connectionString: process.env['EMBRIN_TEST_CLUSTER'] });
  await client.connect();
  await client.query(statement);
  await client.end();
}
