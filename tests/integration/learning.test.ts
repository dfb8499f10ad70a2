import { eq } from 'drizzle-orm';
import MailComposer from 'nodemailer/lib/mail-composer';
import { db, writableDb } from '@/server/db/client';
import { arrival, library } from '@/server/db/schema';
import { disposePapers } from '@/server/disposal/dispose';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { fileArrival } from '@/server/intake/act';
import { keepMail } from '@/server/intake/keep';
import { likePapers } from '@/server/intake/learnt';
import { intakeNumbers } from '@/server/intake/numbers';
import { arrivalSheet } from '@/server/intake/read';
import { sendNextReceipt } from '@/server/intake/receipts';
import { answerSenders, waysIn } from '@/server/intake/ways/ways';
import { atMoment } from '@/server/base/clock';
import { readArrivals } from '../arrivals';
import { dropLibrary, freshLibrary, furnished, newcomer, refusedAs } from '../library';
import { mailsTo } from '../mails';
import { paperOn, say } from '../sheets';

let keeper: Actor;
let clerk: Actor;
let gull: string;
let lantern: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  clerk = await newcomer(keeper, 'Cle Rk');
  const { series } = await furnished(keeper, 'Suppliers');
  const dossier = async (name: string, reference: string) =>
    (await createDossier(keeper, { seriesId: series.id, name, reference })).id;
  [gull, lantern] = [await dossier('Gull Chandlers', 'S-018'), await dossier('Lantern Works', 'S-017')];
});
afterAll(dropLibrary);

let sent = 0;
interface Sent {
  readonly from?: string;
  readonly by?: string;
  readonly subject?: string;
  readonly headers?: Readonly<Record<string, string>>;
}
async function comes(text: string, { subject = 'Hello', headers = {}, ...more }: Sent = {}): Promise<string> {
  const from = more.from ?? `someone${(sent += 1)}@elsewhere.example`;
  const messageId = `<${sent}-${text.length}@elsewhere.example>`;
  const raw = await new MailComposer({ from, to: 'intake@library.example', subject, text, messageId, headers })
    .compile()
    .build();
  const { arrivalId } = await keepMail(raw, { from: more.by ?? from, to: ['intake@library.example'] });
  await readArrivals();
  return arrivalId;
}
async function filed(text: string, placeId: string): Promise<string> {
  const arrivalId = await comes(text);
  const { revision } = await arrivalSheet(keeper, { arrivalId });
  const parts = [{ attachment: null, title: `Paper ${sent}` }];
  return (await fileArrival(keeper, { arrivalId, revision, placeId, parts })).documentIds[0] ?? '';
}
const placesOf = async (arrivalId: string) => (await arrivalSheet(keeper, { arrivalId })).places;

describe('words of papers that are filed', () => {
  it('speak for a dossier, are told, and speak no more once its papers are gone', async () => {
    const papers = [
      await filed('The dredger lifted spoil from the channel. Silt was sounded twice.', gull),
      await filed('Spoil again, and the dredger waited for the tide over the silt.', gull),
      await filed('A dredger, a barge and much spoil.', gull),
    ];
    for (let at = 0; at < 12; at += 1) await filed(`Door ${at} of the office had varnish over its primer.`, lantern);
    const [place] = await placesOf(await comes('More spoil and silt was lifted by the dredger this week.'));
    expect(place?.evidence).toEqual([{ kind: 'words', about: 'dredger, spoil', times: 3 }]);
    expect(place?.path.join()).toContain('Gull');
    expect(await placesOf(await comes('Nothing of that kind at all.'))).toEqual([]);
    await disposePapers(keeper, { documentIds: papers });
    expect(await placesOf(await comes('The dredger has lifted yet more spoil and silt.'))).toEqual([]);
  });
});

it('papers that are kept from those who see their dossier tell nothing of what they say', async () => {
  const secret: string[] = [];
  for (const word of ['first', 'second', 'third'])
    secret.push(await filed(`Antifouling and keel bolts, the ${word}.`, gull));
  const like = () => likePapers('Antifouling for the keel bolts', []);
  expect(await like()).toMatchObject({ dossierId: gull, times: 3 });
  for (const id of secret) await say(keeper, paperOn(id), [{ who: keeper, gives: ['see'] }], false);
  expect(await like()).toBeNull();
});

describe('receipts', () => {
  const receiptsTo = async (address: string) =>
    (await mailsTo(address)).filter((mail) => mail.includes('Auto-Submitted: auto-replied'));
  // What went out in other runs lies in the same folder.
  const run = crypto.randomUUID().slice(0, 8);
  const at = (name: string) => `${name}@${run}.example`;
  const evil = `evil@elsewhere-${run}.example`;
  const sendAll = async () => {
    while (await sendNextReceipt());
  };

  it('are sent where the library wishes them, once a day to each, as an answer that no program answers', async () => {
    await comes('Before it was wished', { from: at('early') });
    await sendAll();
    expect(await receiptsTo(at('early'))).toEqual([]);
    expect(await refusedAs(answerSenders(clerk, { on: true }))).toBe('not-allowed');
    await answerSenders(keeper, { on: true });
    // What came before is not answered when it is proposed anew.
    await writableDb()
      .update(arrival)
      .set({ state: 'unread' })
      .where(eq(arrival.senderAddress, at('early')));
    await readArrivals();
    await sendAll();
    expect(await receiptsTo(at('early'))).toEqual([]);
    expect((await waysIn(keeper, {})).answersSenders).toBe(true);
    for (const text of ['One', 'Two', 'Two']) await comes(text, { from: at('bills'), subject: 'Rope' });
    await sendAll();
    const [receipt, ...more] = await receiptsTo(at('bills'));
    expect(more).toEqual([]);
    expect(receipt).toMatch(/^Subject: Auto: Rope\r?$/mu);
    expect(receipt).toMatch(/^In-Reply-To: <.*@elsewhere\.example>\r?$/mu);
    await atMoment(new Date(Date.now() + 25 * 60 * 60 * 1000), async () => {
      await comes('The next day', { from: at('bills') });
      await sendAll();
    });
    expect(await receiptsTo(at('bills'))).toHaveLength(2);
  });

  it('never answer programs, lists, reports, those who write in another’s name, or their own like', async () => {
    await writableDb().update(library).set({ answersSenders: true });
    await comes('Away', { from: at('away'), headers: { 'Auto-Submitted': 'auto-replied' } });
    await comes('News', { from: at('news'), headers: { 'List-Id': '<news.gull.example>' } });
    await comes('Forged', { from: at('forged'), by: evil });
    await comes('Undeliverable', { from: at('postmaster'), by: '' });
    await sendAll();
    for (const name of ['away', 'news', 'forged', 'postmaster']) expect(await receiptsTo(at(name))).toEqual([]);
    expect(await receiptsTo(evil)).toEqual([]);
  });

  it('two workers, or one that dies after it was noted, send no second one', async () => {
    const id = await comes('Race', { from: at('race') });
    await Promise.all([sendNextReceipt(), sendNextReceipt(), sendNextReceipt()]);
    expect(await receiptsTo(at('race'))).toHaveLength(1);
    const [row] = await db().select().from(arrival).where(eq(arrival.id, id));
    expect(row?.receipt).toBe('sent');
    await sendAll();
    expect(await receiptsTo(at('race'))).toHaveLength(1);
  });
});

describe('the numbers of the intake', () => {
  it('count what arrived by month and way, and what was filed as proposed; for keepers', async () => {
    const { months, known, corrected, byRule, waited, sure } = await intakeNumbers(keeper, {});
    expect(months).toHaveLength(12);
    const isNow = (at: Date) => at.toISOString().slice(0, 7) === months.at(-1)?.month;
    const all = await db().select().from(arrival);
    const mail = all.filter(({ state, arrivedAt }) => state !== 'again' && isNow(arrivedAt)).length;
    expect(months.at(-1)?.ways).toEqual({ mail, scan: 0, hand: 0, store: 0 });
    const proposed = all.filter(({ state, proposal }) => state === 'filed' && proposal?.candidates.length).length;
    expect(known).toBe(18);
    expect(byRule).toBe(0);
    expect(corrected[0]).toEqual({ field: 'Place', count: expect.any(Number) as number });
    expect(waited?.half).toBeGreaterThanOrEqual(0);
    // Every place that was proposed was looked at by somebody, and filed there or elsewhere.
    expect(sure.places.reduce((sum, { of }) => sum + of, 0)).toBe(proposed);
    expect(await refusedAs(intakeNumbers(clerk, {}))).toBe('not-allowed');
  });
});
