import { and, eq } from 'drizzle-orm';
import { createTransport } from 'nodemailer';
import MailComposer from 'nodemailer/lib/mail-composer';
import { sha256Hex } from '@/server/base/sha256';
import { db } from '@/server/db/client';
import { arrival, blob, document } from '@/server/db/schema';
import { destroyPapers } from '@/server/disposal/destroy';
import { disposePapers, putBackPapers } from '@/server/disposal/dispose';
import type { Actor } from '@/server/gate/actor';
import { fileArrival, setArrivalAside, takeArrivalBack } from '@/server/intake/act';
import { arrivalsOf, arrivalsWaiting } from '@/server/intake/lists';
import { arrivalContent, arrivalSheet } from '@/server/intake/read';
import { receiveMail } from '@/server/intake/receive';
import { createDossier } from '@/server/dossiers/create';
import { readArrivals } from '../arrivals';
import { dropLibrary, freshLibrary, furnished, newcomer, refusedAs } from '../library';
import { placeOn, say } from '../sheets';

let keeper: Actor;
let clerk: Actor;
let stranger: Actor;
let post: Awaited<ReturnType<typeof receiveMail>>;
let lantern: string;
let other: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  [clerk, stranger] = [await newcomer(keeper, 'Cle Rk'), await newcomer(keeper, 'Stran Ger')];
  const { series } = await furnished(keeper, 'Suppliers');
  const dossier = async (name: string, reference: string) =>
    (await createDossier(keeper, { seriesId: series.id, name, reference })).id;
  lantern = await dossier('Lantern Dredging', 'S-017');
  other = await dossier('Gull Chandlers', 'S-018');
  await say(keeper, placeOn(lantern), [{ who: clerk, gives: ['see', 'add', 'amend'] }], false);
  post = await receiveMail(0);
});
afterAll(async () => {
  await post.stop();
  await dropLibrary();
});

interface Sent {
  readonly from?: string;
  readonly to?: string;
  readonly subject?: string;
  readonly text?: string;
  readonly attached?: readonly { readonly filename: string; readonly content: string | Buffer }[];
  readonly headers?: Readonly<Record<string, string>>;
  readonly messageId?: string;
}

let sentCount = 0;
const rawOf = ({ from, to, subject, text, attached, headers, messageId }: Sent): Promise<Buffer> =>
  new MailComposer({
    from: from ?? '"Bill Ing" <billing@lantern.example>',
    to: to ?? 'intake@library.example',
    subject: subject ?? 'Invoice',
    text: text ?? 'Attached.',
    date: new Date(Date.UTC(2026, 4, 1)),
    messageId: messageId ?? `<${(sentCount += 1)}@lantern.example>`,
    ...(headers ? { headers } : {}),
    attachments: (attached ?? []).map((each) => ({ ...each })),
  })
    .compile()
    .build();

async function send(raw: Buffer, from = 'billing@lantern.example', to = ['intake@library.example']): Promise<void> {
  const transport = createTransport({ host: '127.0.0.1', port: post.port, secure: false, ignoreTLS: true });
  try {
    await transport.sendMail({ envelope: { from, to }, raw });
  } finally {
    transport.close();
  }
}

/** Sends a mail, and gives what the library makes of it. */
async function arrived(mail: Sent, from?: string, to?: string[]) {
  const raw = await rawOf(mail);
  await send(raw, from, to);
  await readArrivals();
  const [row] = await db()
    .select()
    .from(arrival)
    .where(eq(arrival.sha256, sha256Hex(raw)));
  if (!row) throw new Error('It did not arrive');
  return row;
}
const sheetOf = (arrivalId: string, who = keeper) => arrivalSheet(who, { arrivalId });
const invoice = (number: string) => ({ filename: `Invoice ${number}.txt`, content: `Invoice ${number} of S-017` });

describe('a mail', () => {
  it('is kept before its sender is told that it was taken, and waits with what it seems to be', async () => {
    const raw = await rawOf({ subject: 'Invoice 4711', attached: [invoice('4711')] });
    await send(raw);
    const [kept] = await db()
      .select({ state: arrival.state, size: blob.sizeBytes })
      .from(arrival)
      .innerJoin(blob, eq(blob.sha256, arrival.sha256))
      .where(eq(arrival.sha256, sha256Hex(raw)));
    expect(kept).toEqual({ state: 'unread', size: raw.length });
    expect((await arrivalsOf(keeper, { which: 'waiting' })).unread).toBe(1);
    await readArrivals();
    const { arrivals, unread } = await arrivalsOf(keeper, { which: 'waiting' });
    expect(unread).toBe(0);
    expect(arrivals.map(({ sender, subject, papers, dossier }) => [sender, subject, papers, dossier])).toEqual([
      ['Bill Ing', 'Invoice 4711', 1, 'S-017 Lantern Dredging'],
    ]);
    const sheet = await sheetOf(arrivals[0]?.id ?? '');
    expect(sheet.places[0]?.path).toEqual(['Suppliers', 'Lantern Dredging', expect.stringMatching(/^20/u)]);
    expect(sheet.places[0]?.evidence.map(({ kind }) => kind)).toEqual(['reference']);
    expect(sheet.parts.filter(({ counts }) => counts).map(({ title }) => title)).toEqual(['Invoice 4711']);
  });

  it('is filed once, whoever agrees at the same moment, and teaches whose sender it was', async () => {
    const { id: arrivalId } = await arrived({ attached: [invoice('4712')] });
    const { revision, places, parts } = await sheetOf(arrivalId, clerk);
    const agree = (who: Actor) =>
      fileArrival(who, {
        arrivalId,
        revision,
        placeId: places[0]?.placeId ?? '',
        parts: parts
          .filter(({ counts }) => counts)
          .map(({ attachment: number, title }) => ({ attachment: number, title })),
      });
    const ends = await Promise.allSettled([agree(clerk), agree(keeper), agree(clerk)]);
    expect(ends.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected', 'rejected']);
    const filed = await db().select().from(document).where(eq(document.title, 'Invoice 4712'));
    expect(filed.map(({ homeId }) => homeId)).toEqual([places[0]?.placeId]);
    const next = await arrived({ subject: 'Nothing is named', text: 'Hello' });
    expect((await sheetOf(next.id)).places[0]?.evidence).toEqual([
      { kind: 'sender', about: 'billing@lantern.example', times: 1 },
    ]);
    // Taken back, the paper is in the tray and can be put back; the arrival waits again, and teaches nothing.
    await takeArrivalBack(clerk, { arrivalId });
    expect((await sheetOf(arrivalId)).state).toBe('waiting');
    expect(await putBackPapers(keeper, { documentIds: filed.map(({ id }) => id) })).toEqual({ restored: 1 });
    expect(await refusedAs(takeArrivalBack(clerk, { arrivalId }))).toBe('conflict');
    expect((await sheetOf((await arrived({ subject: 'Nothing again', text: 'Hello' })).id)).places).toEqual([]);
    // What is filed already is said, and not proposed again.
    const again = (await sheetOf(arrivalId)).parts.find(({ name }) => name === 'Invoice 4712.txt');
    expect(again).toMatchObject({ counts: false, filedAlready: [{ title: 'Invoice 4712' }] });
  });

  it('that arrives three times, with other marks of the servers on its way, waits once', async () => {
    const raw = await rawOf({ subject: 'Thrice', messageId: '<thrice@lantern.example>' });
    const on = (by: string) =>
      Buffer.concat([Buffer.from(`Received: from a by ${by}; Fri, 1 May 2026 00:00:00 +0000\r\n`), raw]);
    await Promise.all([send(raw), send(on('one.example')), send(on('two.example'))]);
    await readArrivals();
    const states = (await db().select().from(arrival).where(eq(arrival.subject, 'Thrice'))).map(({ state }) => state);
    expect(states.sort()).toEqual(['again', 'again', 'waiting']);
    // Another mail under the same identifier is another mail: nobody keeps one from arriving by sending theirs first.
    await arrived({ subject: 'Thrice', text: 'Other words', messageId: '<thrice@lantern.example>' });
    expect(
      (
        await db()
          .select()
          .from(arrival)
          .where(and(eq(arrival.subject, 'Thrice'), eq(arrival.state, 'waiting')))
      ).length,
    ).toBe(2);
  });

  it('goes to the dossier whose reference is the address, and shows whose name is only said', async () => {
    const row = await arrived(
      {
        from: '"Maren" <maren@saltmarrow.example>',
        subject: 'Hello',
        text: 'Hello',
        headers: { 'Auto-Submitted': 'auto-replied' },
      },
      'someone@elsewhere.example',
      ['s-018+spring@library.example'],
    );
    const sheet = await sheetOf(row.id);
    expect(sheet.places[0]?.evidence).toEqual([{ kind: 'address', about: 's-018' }]);
    expect([sheet.senderAddress, sheet.sentBy, sheet.automatic]).toEqual([
      'maren@saltmarrow.example',
      'someone@elsewhere.example',
      true,
    ]);
  });
});

describe('a paper that came by mail', () => {
  it('is destroyed with the mail that it came in, and with the same that arrived again', async () => {
    const raw = await rawOf({ subject: 'To be destroyed', attached: [invoice('6001'), invoice('6002')] });
    await send(raw);
    await send(Buffer.concat([Buffer.from('Received: from a by b; Fri, 1 May 2026 00:00:00 +0000\r\n'), raw]));
    await readArrivals();
    const [row] = await db()
      .select()
      .from(arrival)
      .where(and(eq(arrival.subject, 'To be destroyed'), eq(arrival.state, 'waiting')));
    const arrivalId = row?.id ?? '';
    const parts = [1, 2].map((number) => ({ attachment: number, title: `Destroyed ${number}` }));
    const { documentIds } = await fileArrival(keeper, { arrivalId, revision: 1, placeId: lantern, parts });
    const [gone = '', stays = ''] = documentIds;
    await disposePapers(keeper, { documentIds: [gone] });
    await destroyPapers(keeper, { documentIds: [gone] });
    expect(await db().select().from(arrival).where(eq(arrival.subject, 'To be destroyed'))).toEqual([]);
    const kept = async (content: string) =>
      (
        await db()
          .select()
          .from(blob)
          .where(eq(blob.sha256, sha256Hex(content)))
      ).length;
    expect(await kept(invoice('6001').content)).toBe(0);
    expect(
      (
        await db()
          .select()
          .from(blob)
          .where(eq(blob.sha256, sha256Hex(raw)))
      ).length,
    ).toBe(0);
    // The other paper of the same mail is as it was.
    expect(await kept(invoice('6002').content)).toBe(1);
    expect((await db().select().from(document).where(eq(document.id, stays))).length).toBe(1);
  });
});

describe('who may check', () => {
  it('is whoever may add to the dossier, and keepers; of the rest nobody is told', async () => {
    const mine = await arrived({ subject: 'For Lantern', text: 'About S-017' });
    const theirs = await arrived({ subject: 'For Gull', text: 'About S-018' });
    const nobodys = await arrived({ subject: 'For nobody', text: 'Hello', from: 'x@nowhere.example' });
    const subjects = async (who: Actor) =>
      (await arrivalsOf(who, { which: 'waiting' })).arrivals.map(({ subject }) => subject);
    expect(await subjects(clerk)).toContain('For Lantern');
    expect(await subjects(clerk)).not.toContain('For Gull');
    expect(await subjects(keeper)).toEqual(expect.arrayContaining(['For Lantern', 'For Gull', 'For nobody']));
    expect(await subjects(stranger)).toEqual([]);
    expect((await arrivalsWaiting(stranger)).waiting).toBe(0);
    for (const { id: arrivalId } of [theirs, nobodys]) {
      expect(await refusedAs(sheetOf(arrivalId, clerk))).toBe('not-found');
      expect(await refusedAs(arrivalContent(clerk, arrivalId, null))).toBe('not-found');
      expect(await refusedAs(setArrivalAside(clerk, { arrivalId, revision: 1 }))).toBe('not-found');
    }
    expect(await refusedAs(sheetOf(mine.id, stranger))).toBe('not-found');
    // Nor can it be filed where one may not add.
    const file = fileArrival(clerk, {
      arrivalId: mine.id,
      revision: 1,
      placeId: other,
      parts: [{ attachment: null, title: 'X' }],
    });
    expect(await refusedAs(file)).toBe('not-found');
  });

  it('refuses parts that are none, and the same part twice', async () => {
    const { id: arrivalId } = await arrived({ subject: 'Odd parts', text: 'About S-017' });
    const file = (...numbers: (number | null)[]) =>
      fileArrival(clerk, {
        arrivalId,
        revision: 1,
        placeId: lantern,
        parts: numbers.map((number) => ({ attachment: number, title: 'X' })),
      });
    expect(await refusedAs(file(7))).toBe('invalid');
    expect(await refusedAs(file(null, null))).toBe('invalid');
    await setArrivalAside(clerk, { arrivalId, revision: 1 });
    expect(await refusedAs(file(null))).toBe('conflict');
    await takeArrivalBack(clerk, { arrivalId });
    expect((await sheetOf(arrivalId)).done).toBeNull();
  });
});

describe('the server that takes mail', () => {
  it('refuses what is too large and keeps nothing of it, and lives on after a sender that goes away', async () => {
    const before = await db().$count(arrival);
    const { connect } = await import('node:net');
    await new Promise<void>((gone) => {
      const socket = connect(post.port, '127.0.0.1', () => {
        socket.write('EHLO a\r\nMAIL FROM:<a@b.example>\r\nRCPT TO:<c@d.example>\r\nDATA\r\nSubject: half');
        setTimeout(() => socket.destroy(), 200);
      });
      socket.on('close', () => gone());
    });
    await expect(send(Buffer.alloc(65 * 1024 * 1024, 'a\r\n'))).rejects.toMatchObject({ responseCode: 552 });
    expect(await db().$count(arrival)).toBe(before);
    await send(await rawOf({ subject: 'After' }));
    expect(await db().$count(arrival)).toBe(before + 1);
  });

  it('takes what is no mail at all, for a person to look at', async () => {
    const row = await arrived({});
    expect(row.state).toBe('waiting');
    await send(Buffer.from('\u0000\u0001 not a mail\r\n'));
    await readArrivals();
    const states = await db().select({ state: arrival.state }).from(arrival).where(eq(arrival.state, 'unread'));
    expect(states).toEqual([]);
  });
});
