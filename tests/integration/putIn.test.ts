import { PDFDocument } from '@cantoo/pdf-lib';
import { asc, eq } from 'drizzle-orm';
import sharp from 'sharp';
import { readContent } from '@/server/blobs/content';
import { db, writableDb } from '@/server/db/client';
import { arrival, blob, upload } from '@/server/db/schema';
import { destroyPapers } from '@/server/disposal/destroy';
import { disposePapers } from '@/server/disposal/dispose';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { fileArrival, takeArrivalBack } from '@/server/intake/act';
import { joinArrivals, joinNext } from '@/server/intake/join';
import { arrivalsOf } from '@/server/intake/lists';
import { putIn } from '@/server/intake/putIn';
import { arrivalSheet } from '@/server/intake/read';
import { receive } from '@/server/uploads/receive';
import { settleUpload } from '@/server/uploads/settle';
import { startUpload } from '@/server/uploads/start';
import { placeOn, say } from '../sheets';
import { readArrivals } from '../arrivals';
import { dropLibrary, freshLibrary, furnished, newcomer, refusal } from '../library';

let keeper: Actor;
let clerk: Actor;
let reader: Actor;
let lantern: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  [clerk, reader] = [await newcomer(keeper, 'Cle Rk'), await newcomer(keeper, 'Rea Der')];
  const { series } = await furnished(keeper, 'Suppliers');
  lantern = (await createDossier(keeper, { seriesId: series.id, name: 'Lantern Dredging', reference: 'S-017' })).id;
  const gull = (await createDossier(keeper, { seriesId: series.id, name: 'Gull Chandlery', reference: 'S-018' })).id;
  await say(keeper, placeOn(gull), [{ who: clerk, gives: ['see', 'add'] }], false);
});
afterAll(dropLibrary);
beforeEach(async () => {
  await writableDb().delete(arrival);
});

/** Sends a file for the intake, as a screen does. */
async function sent(actor: Actor, bytes: Buffer, fileName: string): Promise<string> {
  const id = crypto.randomUUID();
  await startUpload(actor, id, bytes.length, { fileName, filing: 'intake' });
  const [row] = await db().select().from(upload).where(eq(upload.id, id));
  if (row)
    await receive(
      row,
      0,
      (async function* () {
        yield bytes;
      })(),
    );
  return id;
}
const photo = (grey: number, width = 300, height = 400): Promise<Buffer> =>
  sharp({ create: { width, height, channels: 3, background: { r: grey, g: grey, b: grey } } })
    .jpeg()
    .toBuffer();
const all = () => db().select().from(arrival).orderBy(asc(arrival.arrivedAt), asc(arrival.id));

describe('a file that is put in by hand', () => {
  it('is an arrival, once, however often the request is sent, and waits for whoever put it in', async () => {
    const uploadId = await sent(clerk, Buffer.from('From Gull Chandlery, about ropes'), 'Note.txt');
    const input = { files: [{ uploadId, turn: 0 as const }], together: false };
    const tries = await Promise.allSettled([putIn(clerk, input), putIn(clerk, input)]);
    expect(tries.every(({ status }) => status === 'fulfilled')).toBe(true);
    const { arrivalIds } = await putIn(clerk, input);
    expect((await all()).map(({ id, way, fileName }) => [id, way, fileName])).toEqual([
      [arrivalIds[0], 'hand', 'Note.txt'],
    ]);
    expect(await db().$count(upload, eq(upload.id, uploadId))).toBe(0);
    await readArrivals();
    const { arrivals } = await arrivalsOf(clerk, { which: 'waiting' });
    expect(arrivals.map(({ broughtBy, subject }) => [broughtBy, subject])).toEqual([['Cle Rk', 'Note.txt']]);
    expect((await arrivalsOf(reader, { which: 'waiting' })).arrivals).toEqual([]);
  });

  it('of a mail has its parts, and its sender gets no receipt', async () => {
    const mail =
      'From: Gull <billing@gull.example>\r\nSubject: Ropes\r\nMessage-ID: <1@gull.example>\r\n\r\nSee you.\r\n';
    const uploadId = await sent(keeper, Buffer.from(mail), 'Ropes.eml');
    await putIn(keeper, { files: [{ uploadId, turn: 0 }], together: false });
    await readArrivals();
    expect(await all()).toMatchObject([{ subject: 'Ropes', senderAddress: 'billing@gull.example', receipt: 'none' }]);
  });

  it('is refused where one may add nothing, where it is not all here, and where it is no kind the library takes', async () => {
    expect(await refusal(sent(reader, Buffer.from('x'), 'x.txt'))).toMatch(/^not-allowed/u);
    const half = crypto.randomUUID();
    await startUpload(clerk, half, 100, { fileName: 'half.txt', filing: 'intake' });
    const put = (uploadId: string, actor = clerk) => putIn(actor, { files: [{ uploadId, turn: 0 }], together: false });
    expect(await refusal(put(half))).toMatch(/has not arrived as a whole/u);
    expect(await refusal(put(half, keeper))).toMatch(/^not-found/u);
    expect(await refusal(settleUpload(clerk, half))).toMatch(/sent to the intake/u);
    const odd = await sent(clerk, Buffer.from([0, 1, 2, 3, 4, 250, 251]), 'odd.bin');
    expect(await refusal(put(odd))).toMatch(/^kind-refused/u);
    expect(await all()).toEqual([]);
  });
});

describe('photographed pages', () => {
  const putInTogether = async () => {
    const files = [];
    for (const [at, grey] of [250, 200, 150].entries())
      files.push({
        uploadId: await sent(clerk, await photo(grey), `Page ${at + 1}.jpg`),
        turn: at === 1 ? (90 as const) : (0 as const),
      });
    return putIn(clerk, { files, together: true });
  };
  it('become one paper in their order, turned; and can be had back', async () => {
    const { arrivalIds } = await putInTogether();
    await Promise.all([joinNext(), joinNext()]);
    await readArrivals(true);
    const waiting = (await all()).filter(({ state }) => state === 'waiting');
    expect(waiting.map(({ fileName, broughtBy }) => [fileName, broughtBy])).toEqual([['Page 1.pdf', clerk.personId]]);
    expect((await all()).filter(({ state }) => state === 'joined')).toHaveLength(3);
    const pdf = await PDFDocument.load(await bytesOf(waiting[0]?.sha256 ?? ''));
    expect(pdf.getPages().map((each) => each.getRotation().angle)).toEqual([0, 90, 0]);
    expect((await arrivalSheet(clerk, { arrivalId: arrivalIds[2] ?? '' })).state).toBe('joined');
    await takeArrivalBack(clerk, { arrivalId: arrivalIds[1] ?? '' });
    expect((await all()).map(({ state, id }) => [state, id])).toEqual(arrivalIds.map((id) => ['unread', id]));
    expect(await db().$count(blob, eq(blob.sha256, waiting[0]?.sha256 ?? ''))).toBe(0);
  });

  it('can be had back by whoever put them in before the worker has come to them', async () => {
    const { arrivalIds } = await putInTogether();
    await takeArrivalBack(clerk, { arrivalId: arrivalIds[0] ?? '' });
    expect(await joinNext()).toBe(false);
    expect((await all()).map(({ state, joinedTo }) => [state, joinedTo])).toEqual(
      arrivalIds.map(() => ['unread', null]),
    );
  });

  it('go with the paper that was made of them, when that is destroyed', async () => {
    await putInTogether();
    await joinNext();
    await readArrivals(true);
    const made = (await all()).find(({ state }) => state === 'waiting');
    const { documentIds } = await fileArrival(keeper, {
      ...{ arrivalId: made?.id ?? '', revision: made?.revision ?? 0, placeId: lantern },
      parts: [{ attachment: null, title: 'Photographed' }],
    });
    const [one] = (await all()).filter(({ state }) => state === 'joined');
    expect(await refusal(takeArrivalBack(keeper, { arrivalId: one?.id ?? '' }))).toMatch(/seen to already/u);
    await disposePapers(keeper, { documentIds: [...documentIds] });
    await destroyPapers(keeper, { documentIds: [...documentIds] });
    expect(await all()).toEqual([]);
    expect(await db().$count(blob, eq(blob.sha256, one?.sha256 ?? ''))).toBe(0);
  });
});

async function pdfOf(says: string): Promise<PDFDocument> {
  const pdf = await PDFDocument.create();
  pdf.addPage().drawText(says);
  return pdf;
}

describe('scans that belong together', () => {
  const two = async () => {
    for (const says of ['one', 'two']) {
      const uploadId = await sent(keeper, Buffer.from(await (await pdfOf(says)).save()), `Scan ${says}.pdf`);
      await putIn(keeper, { files: [{ uploadId, turn: 0 }], together: false });
    }
    await readArrivals();
    return (await all()).map(({ id, revision }) => ({ id, revision, turn: 0 as const }));
  };
  it('are joined by hand; of two who do it at once one does', async () => {
    const arrivals = await two();
    expect(await refusal(joinArrivals(reader, { arrivals }))).toMatch(/^not-found/u);
    expect(await refusal(joinArrivals(keeper, { arrivals: [...arrivals, ...arrivals] }))).toMatch(/joined once/u);
    const tries = await Promise.allSettled([
      joinArrivals(keeper, { arrivals }),
      joinArrivals(keeper, { arrivals: arrivals.toReversed() }),
    ]);
    expect(tries.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    // Had back before the worker has come to it.
    await takeArrivalBack(keeper, { arrivalId: arrivals[0]?.id ?? '' });
    expect((await all()).map(({ state }) => state)).toEqual(['waiting', 'waiting']);
    expect(await joinNext()).toBe(false);
  });

  it('are shown to whoever put one of them in only if they put in all', async () => {
    const [first] = await two();
    const uploadId = await sent(clerk, Buffer.from(await (await pdfOf('the clerk’s')).save()), 'Of the clerk.pdf');
    await putIn(clerk, { files: [{ uploadId, turn: 0 }], together: false });
    await readArrivals();
    const theirs = (await all()).find(({ fileName }) => fileName === 'Of the clerk.pdf');
    await joinArrivals(keeper, {
      arrivals: [
        { id: theirs?.id ?? '', revision: theirs?.revision ?? 0, turn: 0 },
        { id: first?.id ?? '', revision: first?.revision ?? 0, turn: 0 },
      ],
    });
    await joinNext();
    await readArrivals();
    expect((await arrivalsOf(clerk, { which: 'waiting' })).arrivals).toEqual([]);
  });

  it('one of which has no pages all wait again, and say so', async () => {
    const arrivals = await two();
    const uploadId = await sent(keeper, Buffer.from('%PDF-1.4 nothing behind it %%EOF'), 'Broken.pdf');
    await putIn(keeper, { files: [{ uploadId, turn: 0 }], together: false });
    await readArrivals();
    const broken = (await all()).find(({ fileName }) => fileName === 'Broken.pdf');
    await joinArrivals(keeper, {
      arrivals: [...arrivals, { id: broken?.id ?? '', revision: broken?.revision ?? 0, turn: 0 }],
    });
    await joinNext();
    expect(
      (await all()).map(({ state, leftBecause }) => [state, /could not be joined/u.test(leftBecause ?? '')]),
    ).toEqual([
      ['waiting', true],
      ['waiting', true],
      ['waiting', true],
    ]);
  });
});

async function bytesOf(sha256: string): Promise<Buffer> {
  const [content] = await db().select().from(blob).where(eq(blob.sha256, sha256));
  const pieces: Buffer[] = [];
  if (content) for await (const piece of readContent(content)) pieces.push(piece);
  return Buffer.concat(pieces);
}
