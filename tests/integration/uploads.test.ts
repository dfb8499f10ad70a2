import { createHash, randomBytes } from 'node:crypto';
import { Readable } from 'node:stream';
import vectors from 'hash-test-vectors';
import { count, eq, sql } from 'drizzle-orm';
import type { Actor } from '@/server/gate/actor';
import { pieceBytes } from '@/core/content/model';
import { db } from '@/server/db/client';
import { blob, blobChunk, document, upload } from '@/server/db/schema';
import { docketOf } from '@/server/documents/docket';
import { arrivedAs, ownUpload, receive } from '@/server/uploads/receive';
import { foreseeUploads } from '@/server/uploads/foresee';
import { outcomeOf, settleUpload } from '@/server/uploads/settle';
import { cancelUpload, redirectUploads, startUpload, unfinishedUploads } from '@/server/uploads/start';
import { sweepUploads } from '@/server/uploads/sweep';
import { atMoment } from '@/server/base/clock';
import { createFolder } from '@/server/places/create';
import { listChildren } from '@/server/places/open';
import { dropLibrary, freshLibrary, furnished, newcomer, open, refusedAs } from '../library';
import { bytesOf, filed, send, text } from './sending';

let keeper: Actor;
let contributor: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  contributor = await newcomer(keeper, 'Con Tributor');
});
afterAll(dropLibrary);

const folder = (name: string) => createFolder(keeper, { parentId: home.year.id, name });

describe('receiving a file', () => {
  it('hashes as FIPS 180-4 has it (npm hash-test-vectors), also when the hash is broken off and gone on with', async () => {
    expect(vectors.length).toBeGreaterThan(100);
    const { id: placeId } = await folder('Vectors');
    for (const { input, sha256 } of vectors.filter((each) => each.input.length > 4).slice(0, 40)) {
      const bytes = Buffer.from(input, 'base64');
      const id = crypto.randomUUID();
      await startUpload(keeper, id, bytes.length, { placeId, fileName: 'vector.txt' });
      const half = Math.floor(bytes.length / 2);
      await receive(await ownUpload(keeper, id), 0, Readable.from([bytes.subarray(0, half)]));
      await receive(await ownUpload(keeper, id), half, Readable.from([bytes.subarray(half)]));
      expect((await arrivedAs(await ownUpload(keeper, id))).sha256).toBe(sha256);
      await cancelUpload(keeper, { uploadId: id });
    }
  });

  it('keeps what came before a connection broke off, and goes on from there to the same bytes', async () => {
    const { id: placeId } = await folder('Broken off');
    const content = Buffer.concat([Buffer.from('%PDF-1.4\n'), randomBytes(3 * pieceBytes + 12_345)]);
    const cut = Math.floor(content.length * 0.9);
    const id = crypto.randomUUID();
    await startUpload(keeper, id, content.length, { placeId, fileName: 'long.pdf' });
    async function* breaking() {
      yield content.subarray(0, cut);
      await Promise.resolve();
      throw new Error('the line is cut');
    }
    await expect(receive(await ownUpload(keeper, id), 0, breaking())).rejects.toThrow('the line is cut');
    expect(await outcomeOf(keeper, id)).toEqual({ state: 'receiving', receivedBytes: cut });
    expect(await unfinishedUploads(keeper)).toMatchObject([
      { id, fileName: 'long.pdf', receivedBytes: cut, placeName: 'Broken off' },
    ]);
    const broken = await ownUpload(keeper, id);
    await receive(broken, broken.receivedBytes, Readable.from([content.subarray(cut)]));
    const outcome = await settleUpload(keeper, id);
    if (outcome.state !== 'filed') throw new Error(JSON.stringify(outcome));
    expect(
      createHash('sha256')
        .update(await bytesOf(keeper, outcome.documentId))
        .digest('hex'),
    ).toBe(createHash('sha256').update(content).digest('hex'));
  });

  it('lets only one of two senders of the same part through', async () => {
    const { id: placeId } = await folder('Two senders');
    const id = crypto.randomUUID();
    const content = text('twice');
    await startUpload(keeper, id, content.length, { placeId, fileName: 'twice.txt' });
    const row = await ownUpload(keeper, id);
    const outcomes = await Promise.all([1, 2].map(() => refusedAs(receive(row, 0, Readable.from([content])))));
    expect(outcomes.sort()).toEqual(['conflict', 'done']);
    expect((await settleUpload(keeper, id)).state).toBe('filed');
  });

  it('refuses more than was announced, an empty file, and one over the limit before a byte is sent', async () => {
    const { id: placeId } = await folder('Sizes');
    const id = crypto.randomUUID();
    await startUpload(keeper, id, 5, { placeId, fileName: 'short.txt' });
    expect(await refusedAs(receive(await ownUpload(keeper, id), 0, Readable.from([text('far too long')])))).toBe(
      'too-large',
    );
    expect(await refusedAs(startUpload(keeper, crypto.randomUUID(), 0, { placeId, fileName: 'empty.txt' }))).toBe(
      'invalid',
    );
    expect(
      await refusedAs(startUpload(keeper, crypto.randomUUID(), 260_000_000, { placeId, fileName: 'huge.pdf' })),
    ).toBe('too-large');
  });

  it('files nothing where the bytes are not those that were sent', async () => {
    const { id: placeId } = await folder('Damaged');
    const { outcome } = await send(keeper, placeId, 'damaged.txt', text('x'), { sha256: '0'.repeat(64) });
    expect(outcome).toMatchObject({ state: 'refused', issue: { kind: 'damaged' } });
    const [left] = await db().select({ papers: count() }).from(document).where(eq(document.homeId, placeId));
    expect(left?.papers).toBe(0);
  });

  it('tells the kind by content, and takes no name that says otherwise, nor one by which it would run', async () => {
    const { id: placeId } = await folder('Kinds');
    const program = Buffer.concat([
      Buffer.from('7f454c4602010100000000000000000002003e0001000000', 'hex'),
      randomBytes(400),
    ]);
    expect((await send(keeper, placeId, 'invoice.pdf', program)).outcome).toMatchObject({
      state: 'refused',
      issue: { kind: 'kind-refused' },
    });
    expect(
      (await send(keeper, placeId, 'page.txt', Buffer.from('<!doctype html><html><script>alert(1)</script></html>')))
        .outcome,
    ).toMatchObject({ state: 'refused' });
    const bytes = Buffer.from(`%PDF-1.7\n${randomBytes(9).toString('hex')}`);
    for (const [name, content] of [
      ['notes.txt', bytes],
      ['run.js', text('alert(1)')],
      ['run.bat', text('del *')],
      ['invoice.exe', bytes],
    ] as const)
      expect((await send(keeper, placeId, name, content)).outcome).toMatchObject({
        state: 'refused',
        issue: { kind: 'kind-refused' },
      });
    // A name without an ending says nothing, and one that turns round is kept as it reads.
    const pdf = await filed(keeper, placeId, 'no\u202Etes', bytes);
    expect(await docketOf(keeper, { documentId: pdf })).toMatchObject({
      stamp: 'PDF',
      mediaType: 'application/pdf',
      fileName: 'notes',
    });
  });

  it('makes the folders of a dropped folder, once, and never climbs out', async () => {
    const { id: placeId } = await folder('Dropped');
    const relativePath = '../Agendas/./2026';
    await Promise.all(
      [1, 2, 3].map((each) => filed(keeper, placeId, `paper ${each}.txt`, text(String(each)), { relativePath })),
    );
    const [agendas] = await listChildren(keeper, { placeId });
    expect(agendas).toMatchObject({ name: 'Agendas', paperCount: 3 });
    expect(await listChildren(keeper, { placeId: agendas?.id ?? '' })).toMatchObject([{ name: '2026', paperCount: 3 }]);
  });
});

describe('a name or content that is there already', () => {
  it('asks about a name, and files a new version or keeps both', async () => {
    const { id: placeId } = await folder('Names');
    const first = await filed(keeper, placeId, 'Minutes.txt');
    const files = ['MINUTES', 'Agenda'].map((title) => ({ relativePath: '', title }));
    expect((await foreseeUploads(keeper, { placeId, files })).taken).toEqual([0]);
    const { id, outcome } = await send(keeper, placeId, 'minutes.txt', text('second'));
    expect(outcome).toEqual({ state: 'same-name', title: 'minutes' });
    expect(await settleUpload(keeper, id, { onSameName: 'version' })).toMatchObject({
      state: 'filed',
      documentId: first,
      versionNumber: 2,
    });
    expect((await send(keeper, placeId, 'Minutes.txt', text('third'), { onSameName: 'both' })).outcome).toMatchObject({
      state: 'filed',
      title: 'Minutes (2)',
      versionNumber: 1,
    });
  });

  it('says where the same content is, of what the person may see, keeps it once, and files it anyway if wished', async () => {
    const { id: placeId } = await folder('Contents');
    const { id: secret } = await folder('Secret');
    const content = text('the same');
    await filed(keeper, secret, 'original.txt', content);
    await open(keeper, placeId, contributor, 'contributor');
    // The contributor may not see the original, and is not told of it.
    await filed(contributor, placeId, 'copy.txt', content);
    const { id, outcome } = await send(contributor, placeId, 'again.txt', content);
    expect(outcome).toMatchObject({
      state: 'same-content',
      places: [{ title: 'copy', placeName: 'Finance, Contents' }],
    });
    expect(outcome.state === 'same-content' && outcome.places).toHaveLength(1);
    expect(await settleUpload(contributor, id, { onSameContent: 'file' })).toMatchObject({
      state: 'filed',
      title: 'again',
    });
    const sha256 = createHash('sha256').update(content).digest('hex');
    const [kept] = await db().select({ contentId: blob.contentId }).from(blob).where(eq(blob.sha256, sha256));
    const [orphans] = await db()
      .select({ chunks: count() })
      .from(blobChunk)
      .where(
        sql`${blobChunk.contentId} not in (select content_id from blob) and ${blobChunk.contentId} not in (select content_id from upload)`,
      );
    expect(kept).toBeDefined();
    expect(orphans?.chunks).toBe(0);
  });

  it('leaves out on request, and answers the same when asked again', async () => {
    const { id: placeId } = await folder('Left out');
    const content = text('left out');
    await filed(keeper, placeId, 'one.txt', content);
    const { id } = await send(keeper, placeId, 'two.txt', content);
    expect(await settleUpload(keeper, id, { onSameContent: 'leave' })).toEqual({ state: 'left-out' });
    expect(await settleUpload(keeper, id)).toEqual({ state: 'left-out' });
  });

  it('files once, however often and from wherever it is settled', async () => {
    const { id: placeId } = await folder('Once');
    const id = crypto.randomUUID();
    const content = text('once');
    await startUpload(keeper, id, content.length, { placeId, fileName: 'once.txt' });
    await receive(await ownUpload(keeper, id), 0, Readable.from([content]));
    const outcomes = await Promise.all([1, 2, 3, 4].map(() => settleUpload(keeper, id)));
    for (const outcome of outcomes) expect(outcome).toEqual(outcomes[0]);
    const [papers] = await db().select({ papers: count() }).from(document).where(eq(document.homeId, placeId));
    expect(papers?.papers).toBe(1);
  });

  it('goes to another place if the person says so while it is under way; nobody else can', async () => {
    const [from, to] = [await folder('Sent here'), await folder('Sent there')];
    const id = crypto.randomUUID();
    const content = text('redirected');
    await startUpload(keeper, id, content.length, { placeId: from.id, fileName: 'r.txt' });
    await open(keeper, to.id, contributor, 'contributor');
    await redirectUploads(contributor, { uploadIds: [id], placeId: to.id });
    expect((await ownUpload(keeper, id)).placeId).toBe(from.id);
    expect(await refusedAs(ownUpload(contributor, id))).toBe('not-found');
    await redirectUploads(keeper, { uploadIds: [id], placeId: to.id });
    await receive(await ownUpload(keeper, id), 0, Readable.from([content]));
    expect(await settleUpload(keeper, id)).toMatchObject({ state: 'filed', placeId: to.id });
  });

  it('is swept away after a week without news, content and all; what is filed stays', async () => {
    const { id: placeId } = await folder('Swept');
    const paper = await filed(keeper, placeId, 'stays.txt');
    const id = crypto.randomUUID();
    await startUpload(keeper, id, 100, { placeId, fileName: 'goes.txt' });
    await receive(await ownUpload(keeper, id), 0, Readable.from([Buffer.from('half')]));
    await atMoment(new Date(Date.now() + 8 * 86_400_000), sweepUploads);
    expect((await db().select().from(upload)).length).toBe(0);
    expect((await bytesOf(keeper, paper)).toString()).toContain('stays');
  });
});
