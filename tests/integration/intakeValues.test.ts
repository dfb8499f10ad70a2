import { eq, inArray } from 'drizzle-orm';
import MailComposer from 'nodemailer/lib/mail-composer';
import { Chance } from '@/core/chance/chance';
import { plainFields } from '@/core/columns/contract';
import { statedIn } from '@/core/stated/stated';
import type { Stated, StatedKind } from '@/core/stated/model';
import { madeUpBill, type Bill } from '@/demo/bills/bill';
import { drawBill } from '@/demo/bills/drawBill';
import { billLayouts, type BillLayout } from '@/demo/bills/layouts';
import { misread } from '@/demo/bills/misread';
import { contentColumns } from '@/server/blobs/content';
import { defineColumn } from '@/server/columns/define';
import { db } from '@/server/db/client';
import { arrival, attachment, blob, document, version } from '@/server/db/schema';
import { viewOf } from '@/server/extraction/openContent';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { fileArrival } from '@/server/intake/act';
import { arrivalFields } from '@/server/intake/fields';
import { keepMail } from '@/server/intake/keep';
import { arrivalSheet } from '@/server/intake/read';
import { placedWords } from '@/server/reading/placed';
import { readArrivals } from '../arrivals';
import { asWritten, insidePdf } from '../writtenBill';
import { dropLibrary, freshLibrary, furnished, newcomer, refusedAs } from '../library';
import { placeOn, say } from '../sheets';

const until = '2026-11-20';
const chance = new Chance(77);
const names = ['Gull Chandlers', 'Lantern Dredging', 'Brine and Sons', 'Marsh Electrical', 'North Quay Rope'];
const heldOut = billLayouts.filter((each) => each.heldOut);

let keeper: Actor;
let clerk: Actor;
let seriesId: string;
const dossiers = new Map<string, string>();
const columns = new Map<string, string>();

beforeAll(async () => {
  keeper = await freshLibrary();
  clerk = await newcomer(keeper, 'Cle Rk');
  ({
    series: { id: seriesId },
  } = await furnished(keeper, 'Suppliers'));
  for (const [at, name] of names.entries())
    dossiers.set(name, (await createDossier(keeper, { seriesId, name, reference: `S-10${at}` })).id);
  const define = async (name: string, type: 'text' | 'amount' | 'date', currency = '') => {
    const { id } = await defineColumn(keeper, { ...plainFields, name, type, currency, placeId: seriesId });
    columns.set(name, id);
  };
  await define('Invoice number', 'text');
  await define('Document date', 'date');
  await define('Due date', 'date');
  await define('Amount', 'amount', 'GBP');
  await define('Billing period', 'text');
});
afterAll(() => dropLibrary());

let sent = 0;
const billsById = new Map<string, Bill>();
/** Has a bill come by mail, and gives what the library makes of it. */
async function come(bill: Bill, layout: BillLayout, subject: string, fileName: string) {
  const raw = await new MailComposer({
    from: `accounts@${bill.supplier.toLowerCase().replaceAll(/\W+/gu, '-')}.example`,
    to: 'intake@library.example',
    subject,
    text: 'Attached.',
    messageId: `<${(sent += 1)}@bills.example>`,
    attachments: [{ filename: fileName, content: await drawBill(bill, layout) }],
  })
    .compile()
    .build();
  const { arrivalId } = await keepMail(raw, { from: 'accounts@bills.example', to: ['intake@library.example'] });
  billsById.set(arrivalId, bill);
  return { id: arrivalId, bill };
}

const truthOf = ({ number, day, due, totalPence }: Bill): Readonly<Record<StatedKind, string | null>> => ({
  ...{ number, day, due },
  amount: (totalPence / 100).toFixed(2),
  period: null,
});

/** How often what is told of a kind is right, of the papers that state it; and what nobody stated and is told. */
function rightOf(kind: StatedKind, all: readonly { readonly bill: Bill; readonly stated: readonly Stated[] }[]) {
  const stating = all.filter(({ bill }) => truthOf(bill)[kind] !== null);
  const right = stating.filter(
    ({ bill, stated }) => stated.find((each) => each.kind === kind)?.value === truthOf(bill)[kind],
  );
  return right.length / stating.length;
}

it('bills of looks that the weights were not fitted to: place, number, day and amount are right for 95 of 100', async () => {
  const come30 = [];
  for (const layout of heldOut)
    for (let count = 0; count < 5; count += 1) {
      const bill = madeUpBill(chance, chance.pick(names), until);
      const isNamed = chance.happens(0.5);
      come30.push(
        await come(
          bill,
          layout,
          isNamed ? `Invoice ${bill.number}` : 'Your bill',
          isNamed ? 'scan.pdf' : `${bill.number.replaceAll('/', '-')}.pdf`,
        ),
      );
    }
  await readArrivals();
  const rows = await db()
    .select()
    .from(arrival)
    .where(
      inArray(
        arrival.id,
        come30.map(({ id }) => id),
      ),
    );
  const all = come30.map(({ id, bill }) => {
    const row = rows.find((each) => each.id === id);
    const stated = row?.proposal?.parts.find(({ counts }) => counts)?.stated ?? [];
    return { bill, stated, isThere: row?.dossierId === dossiers.get(bill.supplier) };
  });
  expect(all.filter(({ isThere }) => isThere).length / all.length).toBeGreaterThanOrEqual(0.95);
  const right = Object.fromEntries((['number', 'day', 'amount'] as const).map((kind) => [kind, rightOf(kind, all)]));
  expect(Object.entries(right).filter(([, share]) => share < 0.95)).toEqual([]);
});

it('how sure a value is said to be is how often such a value is right, also on poor scans', async () => {
  const contents = await db()
    .select({
      ...contentColumns,
      number: attachment.number,
      subject: arrival.subject,
      name: attachment.name,
      id: arrival.id,
    })
    .from(arrival)
    .innerJoin(attachment, eq(attachment.mailSha256, arrival.sha256))
    .innerJoin(blob, eq(blob.sha256, attachment.sha256));
  const told: { readonly sure: number; readonly right: boolean }[] = [];
  for (const content of contents) {
    const bill = billsById.get(content.id);
    const [words = []] = await placedWords({ ...content, mediaType: 'application/pdf' }, 1, 1);
    if (!bill) throw new Error('This bill was not made here');
    for (let scan = 0; scan < 12; scan += 1) {
      const read = scan < 6 ? words : misread(words, 0.12, chance);
      const around = { names: `${content.subject} ${content.name}`, arrivedOn: until };
      for (const { kind, value, sure } of statedIn([read], around))
        told.push({ sure, right: truthOf(bill)[kind] === value });
    }
  }
  // In tenths of how sure they are said to be; of few values a share says nothing.
  const tenths = Array.from({ length: 10 }, (_none, at) =>
    told.filter(({ sure }) => Math.min(9, Math.floor(sure * 10)) === at),
  );
  const share = (some: typeof told) => some.filter(({ right }) => right).length / some.length;
  const said = (some: typeof told) => some.reduce((sum, { sure }) => sum + sure, 0) / some.length;
  const off = tenths.filter((some) => some.length > 0).map((some) => Math.abs(share(some) - said(some)) * some.length);
  expect(told.length).toBeGreaterThan(1000);
  // Not all of them are right, else this would show nothing.
  expect(share(told)).toBeLessThan(0.99);
  expect(off.reduce((sum, each) => sum + each, 0) / told.length).toBeLessThan(0.05);
});

const bill: Bill = {
  ...{ supplier: 'Lantern Dredging', number: 'LA-4417', day: '2026-11-03', due: '2026-12-03' },
  ...{ lines: [], netPence: 107_050, taxPence: 21_410, totalPence: 128_460, currency: 'GBP' },
  ...{ account: 'SHT1', order: 'PO-1', notes: [] },
};
const [layout] = billLayouts;
const withPeriod = (plain: BillLayout): BillLayout => ({
  ...plain,
  texts: [...plain.texts, { x: 350, y: 214, text: 'Billing period: 1 to 31 October 2026' }],
});

describe('what a bill states', () => {
  it('is filled in with its reasons, and filed with what was corrected', async () => {
    const { id: arrivalId } = await come(bill, withPeriod(layout as BillLayout), 'Invoice LA-4417', 'scan.pdf');
    await readArrivals();
    const sheet = await arrivalSheet(keeper, { arrivalId });
    const placeId = sheet.places[0]?.placeId ?? '';
    const [, { attachment: number, fields } = { attachment: null, fields: [] }] = await arrivalFields(keeper, {
      arrivalId,
      placeId,
    });
    expect(fields.map(({ name, text, why }) => [name, text, why])).toEqual([
      ['Invoice number', 'LA-4417', '“Invoice number LA-4417”.'],
      ['Document date', '3 Nov 2026', '“Invoice date 3 November 2026”.'],
      ['Due date', '3 Dec 2026', '“Due date 3 December 2026”.'],
      ['Amount', '1,284.60', '“Total due £1,284.60”.'],
      ['Billing period', '1 to 31 October 2026', '“Billing period 1 to 31 October 2026”.'],
    ]);
    expect(fields.every(({ sure, at }) => sure !== null && sure >= 0.9 && at?.spot)).toBe(true);
    const values = Object.fromEntries(fields.map(({ columnId, text }) => [columnId, text]));
    const amount = columns.get('Amount') ?? '';
    const file = (typed: Record<string, string>) =>
      fileArrival(keeper, {
        ...{ arrivalId, revision: sheet.revision, placeId },
        parts: [{ attachment: number, title: 'LA-4417', values: { ...values, ...typed } }],
      });
    // What cannot be read is said with the column that it was for, and nothing is filed.
    await expect(file({ [amount]: '1,28,4.60' })).rejects.toMatchObject({
      issue: { kind: 'invalid', fields: [{ path: `parts.0.values.${amount}` }] },
    });
    expect(await refusedAs(file({ [columns.get('Document date') ?? '']: '31 February 2026' }))).toBe('invalid');
    expect(await refusedAs(file({ [crypto.randomUUID()]: 'x' }))).toBe('gone');
    expect(await db().$count(document, eq(document.title, 'LA-4417'))).toBe(0);
    await file({ [amount]: '£1,300' });
    const [filed] = await db().select().from(document).where(eq(document.title, 'LA-4417'));
    expect(filed?.ownValues).toMatchObject({
      [columns.get('Invoice number') ?? '']: 'LA-4417',
      [columns.get('Document date') ?? '']: '2026-11-03',
      [amount]: 1300,
    });
  });

  it('is told for a place only to whoever may add there', async () => {
    const { id: arrivalId } = await come({ ...bill, number: 'LA-4418' }, layout as BillLayout, 'S-101', 'scan.pdf');
    await readArrivals();
    const lantern = dossiers.get('Lantern Dredging') ?? '';
    const gull = dossiers.get('Gull Chandlers') ?? '';
    expect(await refusedAs(arrivalFields(clerk, { arrivalId, placeId: lantern }))).toBe('not-found');
    await say(keeper, placeOn(lantern), [{ who: clerk, gives: ['see', 'add'] }], false);
    const [, part] = await arrivalFields(clerk, { arrivalId, placeId: lantern });
    expect(part?.fields.map(({ text }) => text === '')).toEqual([false, false, false, false, true]);
    expect(await refusedAs(arrivalFields(clerk, { arrivalId, placeId: gull }))).toBe('not-found');
  });
});

describe('a number that identifies a supplier', () => {
  // The account and the tax number are examples of published registries (see core/stated/identifiers.test.ts).
  const [theirs, ours] = ['NO93 8601 1117 947', 'GB 980 7806 84'];
  const mail = async (text: string) => {
    const raw = await new MailComposer({
      ...{ from: `x${(sent += 1)}@anywhere.example`, to: 'intake@library.example', subject: 'Bill', text },
      messageId: `<${sent}@bills.example>`,
    })
      .compile()
      .build();
    const { arrivalId } = await keepMail(raw, { from: '', to: ['intake@library.example'] });
    await readArrivals();
    return arrivalSheet(keeper, { arrivalId });
  };
  const file = async (text: string, supplier: string) => {
    const { id: arrivalId, revision } = await mail(text);
    const parts = [{ attachment: null, title: `Bill ${sent}` }];
    await fileArrival(keeper, { arrivalId, revision, placeId: dossiers.get(supplier) ?? '', parts });
  };

  it('speaks for the dossier where what names it was filed, whoever sends it; our own does not', async () => {
    await file(`Pay into ${theirs}. Your VAT number: ${ours}`, 'Marsh Electrical');
    await file(`Your VAT number: ${ours}`, 'Gull Chandlers');
    const { places } = await mail(`Account ${theirs.replaceAll(' ', '')}. Your VAT number: ${ours}`);
    expect(places.map(({ path, evidence }) => [path[1], evidence])).toEqual([
      ['Marsh Electrical', [{ kind: 'number', about: 'NO9386011117947', times: 1 }]],
    ]);
  });
});

describe('the domain of a sender', () => {
  const from = async (address: string) => {
    const { id } = await keepFrom(address);
    await readArrivals();
    return arrivalSheet(keeper, { arrivalId: id });
  };
  const keepFrom = async (address: string) => {
    const raw = await new MailComposer({
      ...{
        from: address,
        to: 'intake@library.example',
        subject: 'For the file',
        text: `Kept for the file, ${(sent += 1)}`,
      },
      messageId: `<${sent}@bills.example>`,
    })
      .compile()
      .build();
    return { id: (await keepMail(raw, { from: '', to: ['intake@library.example'] })).arrivalId };
  };
  const file = async (address: string, supplier: string) => {
    const { id: arrivalId, revision } = await from(address);
    const parts = [{ attachment: null, title: `Kept ${sent}` }];
    await fileArrival(keeper, { arrivalId, revision, placeId: dossiers.get(supplier) ?? '', parts });
  };
  const kinds = async (address: string) =>
    (await from(address)).places.map(({ path, evidence }) => [path[1], evidence.map(({ kind }) => kind)]);

  it('speaks for the dossier that is called so, at once; for another once two wrote from it', async () => {
    await file('ann@northquay.example', 'North Quay Rope');
    expect(await kinds('bob@northquay.example')).toEqual([['North Quay Rope', ['domain']]]);
    await file('ann@post-for-all.example', 'North Quay Rope');
    expect(await kinds('bob@post-for-all.example')).toEqual([]);
    await file('cyd@post-for-all.example', 'North Quay Rope');
    expect(await kinds('bob@post-for-all.example')).toEqual([['North Quay Rope', ['domain']]]);
    await file('dan@post-for-all.example', 'Gull Chandlers');
    expect(await kinds('bob@post-for-all.example')).toEqual([]);
  });
});

describe('a bill with its data (EN 16931), as an independent library writes it', () => {
  const mail = async (filename: string, content: string | Buffer) => {
    const raw = await new MailComposer({
      ...{ from: `y${(sent += 1)}@anywhere.example`, to: 'intake@library.example', subject: 'Bill', text: 'Attached' },
      ...{ messageId: `<${sent}@bills.example>`, attachments: [{ filename, content }] },
    })
      .compile()
      .build();
    const { arrivalId } = await keepMail(raw, { from: '', to: ['intake@library.example'] });
    await readArrivals();
    const [row] = await db().select().from(arrival).where(eq(arrival.id, arrivalId));
    const sheet = await arrivalSheet(keeper, { arrivalId });
    const at = sheet.parts.find(({ attachment: number }) => number === 1);
    const { stated = [] } = row?.proposal?.parts.find(({ attachment: number }) => number === 1) ?? {};
    return { row, sheet, at, stated: stated.map(({ kind, value, isData }) => [kind, value, isData]) };
  };
  const fromData = [
    ['number', 'INV-4417', true],
    ['day', '2026-11-03', true],
    ['due', '2026-12-03', true],
    ['amount', '1284.60', true],
    ['period', '2026-10-01/2026-10-31', true],
  ];

  it.each(['UBL', 'CII'] as const)(
    'as %s: its values are taken from it, it is filed, and can be read',
    async (format) => {
      const { row, sheet, at, stated } = await mail(`${format}.xml`, await asWritten(format));
      expect(stated).toEqual(fromData);
      expect([at?.counts, at?.billFaults]).toEqual([true, []]);
      expect(row?.identifiers).toEqual(expect.arrayContaining(['DE136695976', 'DE89370400440532013000']));
      const placeId = dossiers.get('Gull Chandlers') ?? '';
      const parts = [{ attachment: 1, title: `${format} 4417` }];
      const { documentIds } = await fileArrival(keeper, {
        arrivalId: sheet.id,
        revision: sheet.revision,
        placeId,
        parts,
      });
      const [paper] = await db()
        .select({ sha256: version.sha256, mediaType: version.mediaType })
        .from(version)
        .where(eq(version.documentId, documentIds[0] ?? ''));
      expect(paper?.mediaType).toBe('application/xml');
      const view = await viewOf(paper?.sha256 ?? '');
      expect(view).toMatchObject({ form: 'markup', markup: expect.stringContaining('<h1>Invoice INV-4417</h1>') });
    },
  );

  it('that does not add up is said so', async () => {
    const { at } = await mail('wrong.xml', (await asWritten('UBL')).replace('1200.00', '1300.00'));
    expect(at?.billFaults).toEqual([
      'What is to be paid: EUR 1300.00 is stated, and it comes to EUR 1200.00. (BR-CO-16)',
    ]);
  });

  it('inside of a PDF is taken from there, and what its page reads otherwise is said', async () => {
    const shown = { ...bill, number: 'INV-4417', totalPence: 928_460, netPence: 907_050, currency: 'EUR' } as const;
    const { at, stated } = await mail('bill.pdf', await insidePdf(await drawBill(shown, layout as BillLayout)));
    expect(stated).toEqual(fromData);
    expect(at?.billFaults).toEqual(['The page reads “€9,284.60” as its amount, and its data has 1284.60.']);
  });

  it('is no bill with a document type, or in other XML: it is kept in the mail, and not taken as a paper', async () => {
    const bomb = (await asWritten('UBL')).replace('?>', '?><!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>');
    const { at, stated, sheet } = await mail('bomb.xml', bomb);
    expect([stated, at?.billFaults]).toEqual([[], null]);
    const file = fileArrival(keeper, {
      ...{ arrivalId: sheet.id, revision: sheet.revision, placeId: dossiers.get('Gull Chandlers') ?? '' },
      parts: [{ attachment: 1, title: 'Bomb' }],
    });
    expect(await refusedAs(file)).toBe('kind-refused');
  });
});
