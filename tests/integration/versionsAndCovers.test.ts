import { Readable } from 'node:stream';
import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { db } from '@/server/db/client';
import { version } from '@/server/db/schema';
import { pictureFor, setCover } from '@/server/documents/cover';
import { docketOf } from '@/server/documents/docket';
import { setLock } from '@/server/standstill/standstill';
import { ownUpload, receive } from '@/server/uploads/receive';
import { settleUpload } from '@/server/uploads/settle';
import { settleUploads } from '@/server/uploads/settleMany';
import { startUpload } from '@/server/uploads/start';
import { dropLibrary, freshLibrary, furnished, newcomer, refusedAs } from '../library';
import { readPaper } from '../reading';

let keeper: Actor;
let outsider: Actor;
let placeId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  outsider = await newcomer(keeper, 'Out Sider');
  placeId = (await furnished(keeper)).year.id;
});
afterAll(dropLibrary);

/** Sends a file that is to be a paper's next version; it is not filed yet. */
async function sent(actor: Actor, versionOf: string, fileName: string, text: string, remark?: string): Promise<string> {
  const id = crypto.randomUUID();
  const content = Buffer.from(text);
  await startUpload(actor, id, content.length, { placeId, fileName, versionOf, ...(remark ? { remark } : {}) });
  await receive(await ownUpload(actor, id), 0, Readable.from([content]));
  return id;
}

describe('a file dropped on a paper', () => {
  it('becomes its next version, whatever it is called, with what was said of it', async () => {
    const documentId = await fileBuffer(keeper, placeId, 'Fees.txt', Buffer.from('The old fees'));
    const uploadId = await sent(keeper, documentId, 'fees-new-FINAL.txt', 'The new fees', 'As agreed in May');
    expect(await settleUpload(keeper, uploadId)).toMatchObject({ state: 'filed', documentId, versionNumber: 2 });
    const docket = await docketOf(keeper, { documentId });
    expect(docket.title).toBe('Fees');
    expect(docket.versions[0]).toMatchObject({ number: 2, fileName: 'fees-new-FINAL.txt', remark: 'As agreed in May' });
    expect(docket.versions[1]).toMatchObject({ number: 1, remark: '' });
  });

  it('by two people at once gives two versions, and loses neither', async () => {
    const documentId = await fileBuffer(keeper, placeId, 'Rota.txt', Buffer.from('The first rota'));
    const uploads = [
      await sent(keeper, documentId, 'a.txt', 'Rota of one'),
      await sent(keeper, documentId, 'b.txt', 'Rota of the other'),
    ];
    await Promise.all(uploads.map((each) => settleUpload(keeper, each)));
    // Again: an upload is filed once.
    await Promise.all(uploads.map((each) => settleUpload(keeper, each)));
    const rows = await db().select({ number: version.number }).from(version).where(eq(version.documentId, documentId));
    expect(rows.map(({ number }) => number).sort()).toEqual([1, 2, 3]);
  });

  it('waits with others that were sent, and is filed with them', async () => {
    const documentId = await fileBuffer(keeper, placeId, 'Held.txt', Buffer.from('Held before'));
    const uploadId = await sent(keeper, documentId, 'held.txt', 'Held after');
    const [settled] = await settleUploads(keeper, { uploadIds: [uploadId] });
    expect(settled?.outcome).toMatchObject({ state: 'filed', documentId, versionNumber: 2 });
  });

  it('is refused where the paper is not open, and where it stands still by the time it arrives', async () => {
    const documentId = await fileBuffer(keeper, placeId, 'Still.txt', Buffer.from('Still as it was'));
    expect(await refusedAs(sent(outsider, documentId, 'x.txt', 'Not mine'))).toBe('not-found');
    const uploadId = await sent(keeper, documentId, 'late.txt', 'Too late');
    await setLock(keeper, { documentIds: [documentId], locked: true });
    expect(await refusedAs(settleUpload(keeper, uploadId))).toBe('locked');
    await setLock(keeper, { documentIds: [documentId], locked: false });
    expect(await settleUpload(keeper, uploadId)).toMatchObject({ state: 'filed', versionNumber: 2 });
  });
});

describe('a cover of one’s own', () => {
  const picture = async (colour: string): Promise<Buffer> =>
    sharp({ create: { width: 40, height: 30, channels: 3, background: colour } })
      .png()
      .toBuffer();
  const middle = async (jpeg: Buffer): Promise<'red' | 'blue'> => {
    const { dominant } = await sharp(jpeg).stats();
    return dominant.r > dominant.b ? 'red' : 'blue';
  };

  it('is shown instead of the first page, and taken back', async () => {
    const documentId = await fileBuffer(keeper, placeId, 'red.png', await picture('red'));
    const other = await fileBuffer(keeper, placeId, 'blue.png', await picture('blue'));
    await Promise.all([readPaper(documentId), readPaper(other)]);
    expect(await middle((await pictureFor(keeper, documentId)).picture)).toBe('red');
    await setCover(keeper, { documentId, cover: { ofPaper: other } });
    const chosen = await pictureFor(keeper, documentId);
    expect(await middle(chosen.picture)).toBe('blue');
    expect(await middle((await pictureFor(keeper, documentId, 'firstPage')).picture)).toBe('red');
    expect((await docketOf(keeper, { documentId })).hasOwnCover).toBe(true);
    await setCover(keeper, { documentId, cover: null });
    expect(await middle((await pictureFor(keeper, documentId)).picture)).toBe('red');
  });

  it('can come from a computer, if it is a picture', async () => {
    const documentId = await fileBuffer(keeper, placeId, 'cover me.txt', Buffer.from('Without a picture yet'));
    await setCover(keeper, { documentId, cover: { picture: (await picture('#0000ff')).toString('base64') } });
    expect(await middle((await pictureFor(keeper, documentId)).picture)).toBe('blue');
    const none = Buffer.from('<svg onload="alert(1)"').toString('base64');
    expect(await refusedAs(setCover(keeper, { documentId, cover: { picture: none } }))).toBe('kind-refused');
  });

  it('is not a way to show a paper to those who may not have it', async () => {
    const documentId = await fileBuffer(keeper, placeId, 'mine.txt', Buffer.from('Mine'));
    expect(await refusedAs(setCover(outsider, { documentId, cover: null }))).toBe('not-found');
    expect(await refusedAs(pictureFor(outsider, documentId))).toBe('not-found');
  });
});
