import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import { setAccess } from '@/server/access/change';
import { atMoment } from '@/server/base/clock';
import { db, writableDb } from '@/server/db/client';
import { blob, exportJob, journal, person } from '@/server/db/schema';
import { askForExport, exportsOf, fetchExport, removeExport, sweepExports } from '@/server/exports/jobs';
import { makeNextExport } from '@/server/exports/make';
import type { Actor } from '@/server/gate/actor';
import { createFolder } from '@/server/places/create';
import { dropLibrary, furnished, refusedAs, sharedLibrary } from '../library';
import { contentOf } from '../reading';

let keeper: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let folder: string;
const before = process.env['EMBRIN_EXPORTS'] ?? '';

beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'embrin-exports-'));
  process.env['EMBRIN_EXPORTS'] = folder;
  ({ keeper, reader, home } = await sharedLibrary());
});
afterAll(async () => {
  await dropLibrary();
  process.env['EMBRIN_EXPORTS'] = before;
  await rm(folder, { recursive: true });
});

let counter = 0;
const file = (placeId = home.year.id, content = `words ${(counter += 1)}`): Promise<string> =>
  fileBuffer(keeper, placeId, `paper ${(counter += 1)}.txt`, Buffer.from(content));
const ask = async (actor: Actor, papers: string[]) =>
  (await askForExport(actor, { what: { papers }, folders: 'place' })).exportId;
const stateOf = async (actor: Actor, id: string) => (await exportsOf(actor)).find((each) => each.id === id);
const run = (command: string, ...args: string[]): string =>
  execFileSync(command, args, { encoding: 'utf8', cwd: folder });
async function everything(): Promise<void> {
  while (await makeNextExport());
}

it('is made by the worker, and fetched by whoever asked and nobody else', async () => {
  const papers = [await file(), await file()];
  const id = await ask(reader, papers);
  expect(await stateOf(reader, id)).toMatchObject({ state: 'waiting', papers: null });
  expect(await refusedAs(fetchExport(reader, id))).toBe('not-found');
  await everything();
  expect(await stateOf(reader, id)).toMatchObject({ state: 'done', papers: 2, leftOut: 0, fault: null });
  const { file: archive } = await fetchExport(reader, id);
  expect(run('unzip', '-t', archive)).toContain('No errors detected');
  expect(await refusedAs(fetchExport(keeper, id))).toBe('not-found');
  expect(await stateOf(keeper, id)).toBeUndefined();
  expect(await refusedAs(removeExport(keeper, { exportId: id }))).toBe('not-found');
  const [entry] = await db().select().from(journal).where(eq(journal.act, 'papers.exported'));
  expect([entry?.personId, entry?.subjects.length]).toEqual([reader.personId, 2]);
  await removeExport(reader, { exportId: id });
  expect(await readdir(folder)).toEqual([]);
});

it('has all that lies in a place and below it, in folders by another property, and counts what was left out', async () => {
  const place = await createFolder(keeper, { parentId: home.year.id, name: 'Bids' });
  await file(place.id);
  await file(place.id);
  const shut = await createFolder(keeper, { parentId: place.id, name: 'Shut' });
  const secret = await file(shut.id);
  const seen = [{ subject: { kind: 'person' as const, id: reader.personId }, gives: ['see' as const], withholds: [] }];
  await setAccess(keeper, {
    on: { kind: 'place', id: shut.id },
    follows: false,
    revision: 0,
    message: null,
    grants: seen,
  });
  const { exportId } = await askForExport(reader, { what: { places: [place.id] }, folders: 'kind' });
  await everything();
  expect(await stateOf(reader, exportId)).toMatchObject({ state: 'done', papers: 2, leftOut: 1 });
  const { file: archive } = await fetchExport(reader, exportId);
  const listing = run('unzip', '-l', archive);
  expect(listing.match(/TEXT\/paper/gu)).toHaveLength(2);
  expect(listing).not.toContain('Shut');
  expect(run('unzip', '-p', archive, 'LEFT OUT.txt')).toContain('1 paper left out');
  expect(await refusedAs(ask(reader, [secret]))).toBe('done');
  await everything();
  expect((await exportsOf(reader))[0]).toMatchObject({ state: 'failed', fault: 'nothing' });
  const away = await furnished(keeper, 'Away');
  expect(await refusedAs(askForExport(reader, { what: { places: [away.series.id] }, folders: 'place' }))).toBe(
    'not-found',
  );
});

it('is not handed out once a paper in it is closed to whoever asked, nor where that happens while it is made', async () => {
  const paper = await file();
  const made = await ask(reader, [paper]);
  await everything();
  expect((await fetchExport(reader, made)).name).toContain('Papers');
  const waiting = await ask(reader, [paper, await file()]);
  const on = { kind: 'paper', id: paper } as const;
  await setAccess(keeper, { on, follows: false, revision: 0, message: null, grants: [] });
  expect(await refusedAs(fetchExport(reader, made))).toBe('gone');
  await everything();
  expect(await stateOf(reader, waiting)).toMatchObject({ state: 'done', papers: 1 });
  const last = await ask(reader, [await file()]);
  await writableDb().update(person).set({ active: false }).where(eq(person.id, reader.personId));
  await everything();
  await writableDb().update(person).set({ active: true }).where(eq(person.id, reader.personId));
  expect(await stateOf(reader, last)).toMatchObject({ state: 'failed', fault: 'access' });
});

it('is made by one of two workers, taken over from one that died, and given up after the third', async () => {
  const ids = [await ask(keeper, [await file()]), await ask(keeper, [await file()]), await ask(keeper, [await file()])];
  await Promise.all([makeNextExport(), makeNextExport(), makeNextExport()]);
  const rows = await db().select().from(exportJob).where(eq(exportJob.personId, keeper.personId));
  expect(rows.map(({ state, attempts }) => [state, attempts])).toEqual(ids.map(() => ['done', 1]));
  const [id = ''] = ids;
  const died = async () =>
    writableDb()
      .update(exportJob)
      .set({ state: 'making', beatAt: new Date(Date.now() - 60_000) })
      .where(eq(exportJob.id, id));
  await died();
  await everything();
  expect(await stateOf(keeper, id)).toMatchObject({ state: 'done' });
  await died();
  await writableDb().update(exportJob).set({ attempts: 3 }).where(eq(exportJob.id, id));
  await everything();
  expect(await stateOf(keeper, id)).toMatchObject({ state: 'failed', fault: 'gaveUp' });
});

it('says that content is damaged, and leaves no half of a file', async () => {
  const paper = await file();
  await writableDb().execute(sql`alter table blob disable trigger user`);
  await writableDb()
    .update(blob)
    .set({ pieceSums: [1] })
    .where(eq(blob.sha256, await contentOf(paper)));
  const id = await ask(keeper, [paper]);
  const files = (await readdir(folder)).length;
  await everything();
  expect(await stateOf(keeper, id)).toMatchObject({ state: 'failed', fault: 'damaged' });
  expect((await readdir(folder)).length).toBe(files);
  await writableDb()
    .update(blob)
    .set({ pieceSums: null, damagedAt: null })
    .where(eq(blob.sha256, await contentOf(paper)));
  await writableDb().execute(sql`alter table blob enable trigger user`);
});

// A small disk can only be mounted by root.
(process.getuid?.() === 0 ? it : it.skip)(
  'says that the disk is full, leaves nothing on it, and the next one fits',
  async () => {
    // Over the folder: what is in it is there again afterwards.
    expect(String(spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=4m', 'tmpfs', folder]).stderr)).toBe('');
    try {
      const large = await ask(keeper, [await file(home.year.id, 'y'.repeat(9_000_000))]);
      await everything();
      expect(await stateOf(keeper, large)).toMatchObject({ state: 'failed', fault: 'disk' });
      expect(await readdir(folder)).toEqual([]);
      const small = await ask(keeper, [await file()]);
      await everything();
      expect(await stateOf(keeper, small)).toMatchObject({ state: 'done' });
      await removeExport(keeper, { exportId: small });
    } finally {
      spawnSync('umount', [folder]);
    }
  },
);

it('is cancelled half-way, with its file gone, and another is made after it', async () => {
  const large = await file(home.year.id, 'x'.repeat(30_000_000));
  const id = await ask(keeper, [large]);
  const other = await ask(keeper, [await file()]);
  const making = makeNextExport();
  while ((await stateOf(keeper, id))?.state === 'waiting') await new Promise((next) => setTimeout(next, 5));
  await removeExport(keeper, { exportId: id });
  await making;
  await everything();
  expect([await stateOf(keeper, id), (await stateOf(keeper, other))?.state]).toEqual([undefined, 'done']);
  expect((await readdir(folder)).some((name) => name.startsWith(id))).toBe(false);
});

it('goes when its days are over', async () => {
  const id = await ask(keeper, [await file()]);
  await everything();
  await atMoment(new Date(Date.now() + 6 * 86_400_000), sweepExports);
  expect((await stateOf(keeper, id))?.state).toBe('done');
  await atMoment(new Date(Date.now() + 8 * 86_400_000), sweepExports);
  expect(await stateOf(keeper, id)).toBeUndefined();
  expect((await readdir(folder)).some((name) => name.startsWith(id))).toBe(false);
});

it('is limited to five at a time for one person', async () => {
  const paper = await file();
  for (let at = 0; at < 5; at += 1) await ask(keeper, [paper]);
  expect(await refusedAs(ask(keeper, [paper]))).toBe('invalid');
  await everything();
});
