import { execFileSync } from 'node:child_process';
import { createWriteStream } from 'node:fs';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { eq, sql } from 'drizzle-orm';
import Papa from 'papaparse';
import { plainFields } from '@/core/columns/contract';
import { fileBuffer } from '@/demo/file';
import { setAccess } from '@/server/access/change';
import { defineColumn } from '@/server/columns/define';
import { setValues } from '@/server/columns/setValues';
import { writableDb } from '@/server/db/client';
import { blob } from '@/server/db/schema';
import { exportPapers } from '@/server/exports/exportPapers';
import type { Actor } from '@/server/gate/actor';
import { createFolder } from '@/server/places/create';
import { dropLibrary, type furnished, refusedAs, sharedLibrary } from '../library';
import { contentOf } from '../reading';

let keeper: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let folder: string;

beforeAll(async () => {
  ({ keeper, reader, home } = await sharedLibrary());
  folder = await mkdtemp(path.join(tmpdir(), 'embrin-export-'));
});
afterAll(async () => {
  await rm(folder, { recursive: true });
  await dropLibrary();
});

let counter = 0;
async function archive(actor: Actor, ids: readonly string[]): Promise<string> {
  const file = path.join(folder, `${(counter += 1)}.zip`);
  await pipeline((await exportPapers(actor, ids)).begin(), createWriteStream(file));
  return file;
}

const run = (command: string, ...args: string[]): string =>
  execFileSync(command, args, { encoding: 'utf8', cwd: folder });

it('is a whole ZIP to unzip and to Python, with sums that sha256sum checks and a list that reads as CSV', async () => {
  const { id: placeId } = await createFolder(keeper, { parentId: home.year.id, name: 'Bids: 1/2' });
  const column = await defineColumn(keeper, {
    ...plainFields,
    name: 'Note to file',
    type: 'text',
    placeId: home.series.id,
  });
  const one = await fileBuffer(keeper, placeId, 'Ünï “plan”.txt', Buffer.from('the first'));
  const two = await fileBuffer(keeper, home.year.id, 'plan.txt', Buffer.alloc(3_000_000, 'x'));
  const three = await fileBuffer(keeper, home.year.id, 'PLAN.txt', Buffer.from('the third'));
  await setValues(keeper, { documentIds: [one], values: { [column.id]: 'said "so", twice; over' } });
  const file = await archive(reader, [one, two, three]);
  expect(run('unzip', '-t', file)).toContain('No errors detected');
  expect(run('python3', '-m', 'zipfile', '--test', file)).toContain('Done testing');
  const out = path.join(folder, 'out');
  run('python3', '-m', 'zipfile', '-e', file, out);
  expect(
    execFileSync('sha256sum', ['--strict', '-c', 'SHA256SUMS'], { encoding: 'utf8', cwd: out }).match(/: OK/gu),
  ).toHaveLength(3);
  const { data } = Papa.parse<Record<string, string>>(
    (await readFile(path.join(out, 'Papers.csv'), 'utf8')).replace(/^\ufeff/u, ''),
    {
      header: true,
      skipEmptyLines: true,
    },
  );
  const paths = data.map((row) => row['Path'] ?? '');
  expect(new Set(paths.map((each) => each.toLowerCase())).size).toBe(3);
  expect(paths.find((each) => each.includes('Bids'))).toMatch(/^Committees\/Finance\/.*\/Bids_ 1_2\/.*\.txt$/u);
  for (const each of paths) expect((await readFile(path.join(out, each))).length).toBeGreaterThan(0);
  expect(data.find((row) => row['Note to file'])?.['Note to file']).toBe('said "so", twice; over');
});

it('leaves out what no copies may be taken of, by number and not by name', async () => {
  const { id: placeId } = await createFolder(keeper, { parentId: home.year.id, name: 'To be read only' });
  await setAccess(keeper, {
    on: { kind: 'place', id: placeId },
    follows: false,
    revision: 0,
    message: null,
    grants: [{ subject: { kind: 'person', id: reader.personId }, gives: ['see'], withholds: [] }],
  });
  const kept = await fileBuffer(keeper, placeId, 'secretive.txt', Buffer.from('nothing to take'));
  const free = await fileBuffer(keeper, home.year.id, 'free.txt', Buffer.from('to be taken'));
  const file = await archive(reader, [kept, free, '00000000-0000-4000-8000-000000000000']);
  const listing = run('unzip', '-l', file);
  expect(listing).toContain('free.txt');
  expect(listing).not.toContain('secretive');
  expect(run('unzip', '-p', file, 'LEFT OUT.txt')).toContain('2 papers left out');
  expect(run('unzip', '-p', file)).not.toMatch(/secretive|nothing to take/u);
  expect(await refusedAs(exportPapers(reader, [kept]))).toBe('not-allowed');
  expect(await refusedAs(exportPapers(reader, []))).toBe('not-allowed');
});

it('hands out no part of a paper whose bytes are not those that were filed', async () => {
  const id = await fileBuffer(keeper, home.year.id, 'damaged.txt', Buffer.from('what was filed'));
  const sha256 = await contentOf(id);
  await writableDb().execute(sql`alter table blob disable trigger user`);
  await writableDb()
    .update(blob)
    .set({ pieceSums: [1] })
    .where(eq(blob.sha256, sha256));
  await writableDb().execute(sql`alter table blob enable trigger user`);
  await expect(archive(keeper, [id])).rejects.toThrow();
});

it('stops reading when whoever asked goes away', async () => {
  const id = await fileBuffer(keeper, home.year.id, 'large.bin.txt', Buffer.alloc(8_000_000, 'y'));
  const stream = (await exportPapers(keeper, [id])).begin();
  stream.once('data', () => stream.destroy());
  await new Promise((done) => stream.once('close', done));
  expect(stream.destroyed).toBe(true);
  // The connection that it read with is free: the next is whole.
  expect(run('unzip', '-t', await archive(keeper, [id]))).toContain('No errors detected');
});
