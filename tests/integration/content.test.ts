import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { mkdir, open as openFile, readdir, rename, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { eq, sql } from 'drizzle-orm';
import { pieceBytes, storeNames, type StoreName } from '@/core/content/model';
import type { Actor } from '@/server/gate/actor';
import { contentColumns, readContent } from '@/server/blobs/content';
import { directoryStore, incomingFolder, keptFile, keptFolder, makeDirectory } from '@/server/blobs/directory';
import { moveContent, whereContentIs } from '@/server/blobs/move';
import { sweepDirectory } from '@/server/blobs/sweep';
import { db, writableDb } from '@/server/db/client';
import { blob, library, upload, version } from '@/server/db/schema';
import { transaction } from '@/server/db/transaction';
import { contentFor, currentOf } from '@/server/documents/content';
import { createFolder } from '@/server/places/create';
import { ownUpload, receive } from '@/server/uploads/receive';
import { settleUpload } from '@/server/uploads/settle';
import { cancelUpload, startUpload } from '@/server/uploads/start';
import { verifyLibrary } from '@/server/verify/verify';
import { dropLibrary, freshLibrary, furnished, refusedAs } from '../library';
import { bytesOf, filed, send, text } from './sending';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
const folders: string[] = [];

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  newFolder();
});
afterAll(async () => {
  await dropLibrary();
  for (const folder of folders) rmSync(folder, { recursive: true, force: true });
});

function newFolder(): string {
  const folder = mkdtempSync(path.join(tmpdir(), 'embrin-content-'));
  folders.push(folder);
  process.env['EMBRIN_CONTENT'] = path.join(folder, 'content');
  return folder;
}

async function use(store: StoreName): Promise<void> {
  if (store === 'directory') await makeDirectory();
  await writableDb().update(library).set({ contentStore: store });
}

const place = async (name: string) => (await createFolder(keeper, { parentId: home.year.id, name })).id;
const pdf = (bytes: number) => Buffer.concat([Buffer.from('%PDF-1.4\n'), randomBytes(bytes)]);

async function read(sha256: string, fromByte?: number, toByte?: number): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of readContent(await contentOf(sha256), fromByte, toByte)) parts.push(Buffer.from(part));
  return Buffer.concat(parts);
}

/** Content by its hash. */
async function contentOf(sha256: string) {
  const [found] = await db().select(contentColumns).from(blob).where(eq(blob.sha256, sha256));
  if (!found) throw new Error('There is no such content');
  return found;
}

async function hashOf(documentId: string): Promise<string> {
  const [found] = await db()
    .select({ sha256: version.sha256 })
    .from(version)
    .where(eq(version.documentId, documentId))
    .limit(1);
  return found?.sha256 ?? '';
}

/** Changes one byte of stored content, past the library. */
async function change(sha256: string, atByte: number, by = 1): Promise<void> {
  const content = await contentOf(sha256);
  if (content.store === 'directory') {
    const file = await openFile(keptFile(sha256), 'r+');
    const byte = Buffer.alloc(1);
    await file.read(byte, 0, 1, atByte);
    byte[0] = ((byte[0] ?? 0) + by) & 255;
    await file.write(byte, 0, 1, atByte);
    return file.close();
  }
  await writableDb().execute(sql`alter table blob_chunk disable trigger user`);
  await writableDb().execute(sql`
    update blob_chunk
    set data = set_byte(data, (${atByte} - start_byte)::int, (get_byte(data, (${atByte} - start_byte)::int) + ${by}) & 255)
    where content_id = ${content.contentId} and start_byte <= ${atByte} and start_byte + length(data) > ${atByte}`);
  await writableDb().execute(sql`alter table blob_chunk enable trigger user`);
}

const incoming = () => readdir(incomingFolder());

describe.each(storeNames)('content in %s', (store) => {
  beforeAll(() => use(store));

  it('gives back what was filed, whole and any part of it', async () => {
    const bytes = pdf(9 * pieceBytes + 777);
    const sha256 = await hashOf(await filed(keeper, await place(`Parts, ${store}`), 'parts.pdf', bytes));
    expect((await read(sha256)).equals(bytes)).toBe(true);
    for (const [from, to] of [
      [0, 1],
      [0, pieceBytes],
      [pieceBytes - 1, pieceBytes + 1],
      [pieceBytes * 5, pieceBytes * 5],
      [3 * pieceBytes + 5, 8 * pieceBytes + 9],
      [bytes.length - 3, bytes.length],
    ] as const)
      expect((await read(sha256, from, to)).equals(bytes.subarray(from, to))).toBe(true);
    expect(await contentOf(sha256)).toMatchObject({ store, sizeBytes: bytes.length });
  });

  it('goes on where sending broke off, at any byte, again and again', async () => {
    const bytes = pdf(20 * pieceBytes);
    const id = crypto.randomUUID();
    await startUpload(keeper, id, bytes.length, { placeId: await place(`Again, ${store}`), fileName: 'again.pdf' });
    for (const until of [100, pieceBytes + 1, 18 * pieceBytes + 3, bytes.length]) {
      const row = await ownUpload(keeper, id);
      await receive(row, row.receivedBytes, Readable.from([bytes.subarray(row.receivedBytes, until)]));
      expect((await ownUpload(keeper, id)).receivedBytes).toBe(until);
    }
    const outcome = await settleUpload(keeper, id);
    if (outcome.state !== 'filed') throw new Error(JSON.stringify(outcome));
    expect((await bytesOf(keeper, outcome.documentId)).equals(bytes)).toBe(true);
  });

  it.each([0, 70])('never mixes the bytes of two who send the same upload at once, from byte %i on', async (from) => {
    const id = crypto.randomUUID();
    const [one, two] = [
      Buffer.alloc(pieceBytes * 2, `one ${store} ${from} `),
      Buffer.alloc(pieceBytes * 2, `two ${store} ${from} `),
    ];
    await startUpload(keeper, id, one.length, {
      placeId: await place(`Two from ${from}, ${store}`),
      fileName: 'two.txt',
    });
    if (from > 0) await receive(await ownUpload(keeper, id), 0, Readable.from([one.subarray(0, from)]));
    const row = await ownUpload(keeper, id);
    const ended = await Promise.all(
      [one, two].map((bytes) => refusedAs(receive(row, from, Readable.from([bytes.subarray(from)])))),
    );
    expect(ended).toContain('done');
    const outcome = await settleUpload(keeper, id);
    if (outcome.state !== 'filed') throw new Error(JSON.stringify(outcome));
    const back = await bytesOf(keeper, outcome.documentId);
    expect([one, two].some((bytes) => back.subarray(from).equals(bytes.subarray(from)))).toBe(true);
    expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
  });

  it('is kept once where the same comes twice at the same moment', async () => {
    const bytes = text(`the same in ${store}`);
    const placeId = await place(`Same, ${store}`);
    const papers = await Promise.all(
      [1, 2, 3].map((each) => filed(keeper, placeId, `same ${each}.txt`, bytes, { onSameContent: 'file' })),
    );
    expect(new Set(await Promise.all(papers.map(hashOf))).size).toBe(1);
    for (const paper of papers) expect((await bytesOf(keeper, paper)).equals(bytes)).toBe(true);
  });

  it('never gives out a byte that has changed, says so, and is whole again once it is put right', async () => {
    const bytes = pdf(3 * pieceBytes);
    const paper = await filed(keeper, await place(`Changed, ${store}`), 'changed.pdf', bytes);
    const sha256 = await hashOf(paper);
    const at = 2 * pieceBytes + 40;
    await change(sha256, at);
    const given: Buffer[] = [];
    const reading = (async () => {
      for await (const part of readContent(await contentOf(sha256))) given.push(Buffer.from(part));
    })();
    expect(await refusedAs(reading)).toBe('damaged-content');
    expect(Buffer.concat(given).equals(bytes.subarray(0, 2 * pieceBytes))).toBe(true);
    // From then on it is said before anything is sent, also where a part was asked for that is right.
    expect(await refusedAs(contentFor(keeper, currentOf(paper), 'take'))).toBe('damaged-content');
    expect(await verifyLibrary({ contentBytes: true })).toMatchObject([{ about: sha256 }]);
    await change(sha256, at, -1);
    await contentFor(keeper, currentOf(paper), 'take');
    expect((await contentOf(sha256)) as object).toMatchObject({ damagedAt: null });
  });

  it('filed before checksums were recorded is held to its hash, and never served as whole when it differs', async () => {
    const bytes = pdf(2 * pieceBytes);
    const sha256 = await hashOf(await filed(keeper, await place(`Older, ${store}`), 'older.pdf', bytes));
    await writableDb().execute(sql`alter table blob disable trigger user`);
    await writableDb().update(blob).set({ pieceSums: null }).where(eq(blob.sha256, sha256));
    await writableDb().execute(sql`alter table blob enable trigger user`);
    expect((await read(sha256)).equals(bytes)).toBe(true);
    await change(sha256, 5);
    expect(await refusedAs(read(sha256))).toBe('damaged-content');
    await change(sha256, 5, -1);
    expect((await read(sha256)).equals(bytes)).toBe(true);
  });

  it('leaves nothing behind of what was refused, left out or cancelled', async () => {
    const placeId = await place(`Nothing, ${store}`);
    const bytes = text(`once in ${store}`);
    await filed(keeper, placeId, 'once.txt', bytes);
    const { id } = await send(keeper, placeId, 'twice.txt', bytes);
    await settleUpload(keeper, id, { onSameContent: 'leave' });
    await send(keeper, placeId, 'refused.exe', Buffer.concat([Buffer.from('MZ'), randomBytes(300)]));
    const half = crypto.randomUUID();
    await startUpload(keeper, half, 100, { placeId, fileName: 'half.txt' });
    await receive(await ownUpload(keeper, half), 0, Readable.from([Buffer.alloc(50)]));
    await cancelUpload(keeper, { uploadId: half });
    expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
    if (store === 'directory') expect(await incoming()).toEqual([]);
  });
});

describe('the directory', () => {
  beforeAll(() => use('directory'));

  it('is closed to other users of the machine', async () => {
    const sha256 = await hashOf(await filed(keeper, await place('Closed'), 'closed.txt'));
    const file = keptFile(sha256);
    for (const folder of [path.dirname(file), keptFolder(), incomingFolder(), path.dirname(keptFolder())])
      expect((await stat(folder)).mode & 0o077).toBe(0);
    expect((await stat(file)).mode & 0o077).toBe(0);
  });

  it('keeps an upload whose transaction did not commit, and files it when asked again', async () => {
    const id = crypto.randomUUID();
    const bytes = text('killed between rename and commit');
    await startUpload(keeper, id, bytes.length, { placeId: await place('Uncommitted'), fileName: 'killed.txt' });
    await receive(await ownUpload(keeper, id), 0, Readable.from([bytes]));
    const { contentId, sha256 } = await ownUpload(keeper, id);
    const dying = transaction([], async (tx) => {
      await directoryStore.keep(tx, contentId, sha256 ?? '');
      throw new Error('the process is killed here');
    });
    await expect(dying).rejects.toThrow('killed here');
    expect(await settleUpload(keeper, id)).toMatchObject({ state: 'filed' });
    expect((await read(sha256 ?? '')).equals(bytes)).toBe(true);
    expect(await incoming()).toEqual([]);
  });

  it('is swept of what no row needs, after a grace, and of nothing else', async () => {
    const kept = await hashOf(await filed(keeper, await place('Kept'), 'kept.txt'));
    const waiting = crypto.randomUUID();
    await startUpload(keeper, waiting, 9, { placeId: await place('Waiting'), fileName: 'waiting.txt' });
    await receive(await ownUpload(keeper, waiting), 0, Readable.from([Buffer.from('wai')]));
    const orphan = keptFile('ab'.repeat(32));
    await mkdir(path.dirname(orphan), { recursive: true });
    await writeFile(orphan, 'left by a process that died');
    await writeFile(path.join(incomingFolder(), crypto.randomUUID()), 'this as well');
    expect(await sweepDirectory()).toBe(0);
    expect(await sweepDirectory(0)).toBe(2);
    await expect(stat(orphan)).rejects.toThrow('ENOENT');
    expect((await read(kept)).length).toBeGreaterThan(0);
    const row = await ownUpload(keeper, waiting);
    await receive(row, row.receivedBytes, Readable.from([Buffer.from('ting !')]));
    expect(await settleUpload(keeper, waiting)).toMatchObject({ state: 'filed' });
  });

  it('that is not there is said in words, marks nothing as damaged, and works when it is back', async () => {
    const sha256 = await hashOf(await filed(keeper, await place('Unmounted'), 'there.txt'));
    const placeId = await place('Meanwhile');
    const folder = path.dirname(keptFolder());
    await rename(folder, `${folder}-away`);
    expect(await refusedAs(read(sha256))).toBe('unavailable');
    expect(await refusedAs(send(keeper, placeId, 'meanwhile.txt', text('meanwhile')))).toBe('unavailable');
    await rename(`${folder}-away`, folder);
    expect((await read(sha256)).length).toBeGreaterThan(0);
    expect(await contentOf(sha256)).toMatchObject({ damagedAt: null });
  });

  // A small disk can only be mounted by root.
  (process.getuid?.() === 0 ? it : it.skip)(
    'that is full keeps what has arrived, and goes on once there is room',
    async () => {
      const disk = path.join(newFolder(), 'content');
      await mkdir(disk);
      const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=4m', 'tmpfs', disk]);
      expect(String(mounted.stderr)).toBe('');
      try {
        await use('directory');
        const bytes = pdf(5 * pieceBytes);
        const id = crypto.randomUUID();
        await startUpload(keeper, id, bytes.length, { placeId: await place('Full'), fileName: 'full.pdf' });
        const sent = receive(await ownUpload(keeper, id), 0, Readable.from([bytes]));
        await expect(sent).rejects.toMatchObject({
          issue: { kind: 'unavailable', says: expect.stringMatching(/no room left .* Its number is [0-9a-f]{8}\./u) },
        });
        spawnSync('mount', ['-o', 'remount,size=32m', disk]);
        const row = await ownUpload(keeper, id);
        expect(row.receivedBytes).toBeGreaterThan(0);
        await receive(row, row.receivedBytes, Readable.from([bytes.subarray(row.receivedBytes)]));
        const outcome = await settleUpload(keeper, id);
        if (outcome.state !== 'filed') throw new Error(JSON.stringify(outcome));
        expect((await bytesOf(keeper, outcome.documentId)).equals(bytes)).toBe(true);
        spawnSync('mount', ['-o', 'remount,ro', disk]);
        expect(await refusedAs(send(keeper, await place('Read only'), 'ro.txt', text('ro')))).toBe('unavailable');
        spawnSync('mount', ['-o', 'remount,rw', disk]);
        await moveContent('rows', () => undefined);
      } finally {
        spawnSync('umount', [disk]);
        process.env['EMBRIN_CONTENT'] = path.join(folders[0] ?? '', 'content');
      }
    },
  );
});

describe('taking content from one store to the other', () => {
  it('moves all, while it is read, and broken off goes on; what differs stays where it is', async () => {
    await use('rows');
    await moveContent('rows', () => undefined);
    const bytes = pdf(12 * pieceBytes);
    const placeId = await place('Moving');
    const [large, broken, ...small] = await Promise.all([
      filed(keeper, placeId, 'large.pdf', bytes),
      filed(keeper, placeId, 'broken.txt'),
      ...[1, 2, 3, 4].map((each) => filed(keeper, placeId, `small ${each}.txt`)),
    ]);
    const damaged = await hashOf(broken ?? '');
    await change(damaged, 2);
    const reading = readContent(await contentOf(await hashOf(large ?? '')));
    const parts = [Buffer.from((await reading.next()).value ?? Buffer.alloc(0))];
    let moves = 0;
    const cut = moveContent('directory', () => {
      moves += 1;
      if (moves === 3) throw new Error('broken off');
    });
    await expect(cut).rejects.toThrow('broken off');
    expect((await whereContentIs()).contents.map((each) => each.store).sort()).toEqual(['directory', 'rows']);
    const done = await moveContent('directory', () => undefined);
    expect(done.damaged).toBe(1);
    for await (const part of reading) parts.push(Buffer.from(part));
    expect(Buffer.concat(parts).equals(bytes)).toBe(true);
    expect(await contentOf(damaged)).toMatchObject({ store: 'rows' });
    for (const paper of small) expect(await contentOf(await hashOf(paper))).toMatchObject({ store: 'directory' });
    await change(damaged, 2, -1);
    expect((await moveContent('directory', () => undefined)).contents).toBe(1);
    expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
    await moveContent('rows', () => undefined);
    expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
    expect((await whereContentIs()).contents).toMatchObject([{ store: 'rows' }]);
    expect(await sweepDirectory(0)).toBe(0);
  });

  it('leaves an upload that is under way where it is, and files it there', async () => {
    await use('rows');
    const id = crypto.randomUUID();
    const bytes = text('half way');
    await startUpload(keeper, id, bytes.length, { placeId: await place('Half way'), fileName: 'half.txt' });
    await receive(await ownUpload(keeper, id), 0, Readable.from([bytes.subarray(0, 4)]));
    await moveContent('directory', () => undefined);
    await receive(await ownUpload(keeper, id), 4, Readable.from([bytes.subarray(4)]));
    expect(await settleUpload(keeper, id)).toMatchObject({ state: 'filed' });
    expect(await db().select({ store: upload.store }).from(upload).where(eq(upload.id, id))).toEqual([
      { store: 'rows' },
    ]);
    expect((await moveContent('directory', () => undefined)).contents).toBe(1);
  });
});
