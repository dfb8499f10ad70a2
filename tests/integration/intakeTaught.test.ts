import { eq } from 'drizzle-orm';
import MailComposer from 'nodemailer/lib/mail-composer';
import { Chance } from '@/core/chance/chance';
import { plainFields } from '@/core/columns/contract';
import type { SureRow } from '@/core/intake/howSure';
import type { SingleKind } from '@/core/stated/model';
import { isSame } from '@/core/stated/taught';
import { madeUpBill, type Bill } from '@/demo/bills/bill';
import { drawBill } from '@/demo/bills/drawBill';
import type { BillLayout } from '@/demo/bills/layouts';
import { defineColumn } from '@/server/columns/define';
import { setValues } from '@/server/columns/setValues';
import { db } from '@/server/db/client';
import { arrival } from '@/server/db/schema';
import { destroyPapers } from '@/server/disposal/destroy';
import { disposePapers } from '@/server/disposal/dispose';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { fileArrival } from '@/server/intake/act';
import { arrivalFields } from '@/server/intake/fields';
import { keepMail } from '@/server/intake/keep';
import { intakeNumbers } from '@/server/intake/numbers';
import { arrivalSheet } from '@/server/intake/read';
import { readArrivals } from '../arrivals';
import { dropLibrary, freshLibrary, furnished, newcomer } from '../library';
import { paperOn, say } from '../sheets';

const until = '2026-11-20';
const chance = new Chance(91);
const goods = { x: 50, y: 330, quantityX: 330, priceX: 400, sumX: 490 } as const;
const name = { x: 50, y: 60, text: '{supplier}', size: 18 } as const;

/** Looks with words that no list of labels has. */
const odd: Readonly<Record<string, BillLayout>> = {
  'Gull Chandlers': {
    ...{ name: 'docket', heldOut: true, day: 'long', money: 'sign', goods, sumsX: 380 },
    texts: [name, { x: 350, y: 150, text: 'Docket: {number}' }, { x: 350, y: 166, text: 'Written up: {day}' }],
    sums: [{ label: 'All in all', value: '{total}' }],
  },
  'Marsh Electrical': {
    ...{ name: 'heads', heldOut: true, day: 'slashes', money: 'bare', goods, sumsX: 380 },
    texts: [
      name,
      { x: 50, y: 130, text: 'Worksheet' },
      { x: 200, y: 130, text: 'Closed' },
      { x: 350, y: 130, text: 'Yours' },
      { x: 50, y: 146, text: '{number}' },
      { x: 200, y: 146, text: '{day}' },
      { x: 350, y: 146, text: '{order}' },
    ],
    sums: [{ label: 'Comes to', value: '{total}' }],
  },
  'North Quay Rope': {
    ...{ name: 'vorgang', heldOut: true, day: 'dots', money: 'continental', goods, sumsX: 360 },
    texts: [name, { x: 50, y: 200, text: 'Vorgang: {number}' }, { x: 300, y: 200, text: 'vom {day}' }],
    sums: [{ label: 'Zusammen', value: '{total}' }],
  },
  'Brine and Sons': {
    ...{ name: 'letter', heldOut: true, day: 'long', money: 'sign', goods: { ...goods, y: 420 }, sumsX: 380 },
    texts: [
      name,
      { x: 50, y: 160, text: 'Dear all, the works of your commission {number} came to their end.' },
      { x: 50, y: 176, text: 'Hartmouth, {day}' },
    ],
    sums: [{ label: 'We receive', value: '{total}' }],
  },
};

let keeper: Actor;
const dossiers = new Map<string, string>();
const columns = new Map<string, string>();

beforeAll(async () => {
  keeper = await freshLibrary();
  const { series } = await furnished(keeper, 'Suppliers');
  for (const [at, supplier] of Object.keys(odd).entries()) {
    const { id } = await createDossier(keeper, { seriesId: series.id, name: supplier, reference: `S-20${at}` });
    dossiers.set(supplier, id);
  }
  const define = async (column: string, type: 'text' | 'amount' | 'date', currency = '') => {
    const fields = { ...plainFields, name: column, type, currency, placeId: series.id };
    columns.set(column, (await defineColumn(keeper, fields)).id);
  };
  await define('Invoice number', 'text');
  await define('Document date', 'date');
  await define('Amount', 'amount', 'GBP');
});
afterAll(() => dropLibrary());

const billOf = (supplier: string): Bill => ({
  ...madeUpBill(chance, supplier, until),
  ...{ notes: [], currency: 'GBP' },
});
let sent = 0;
/** Has a bill come by mail, and gives its arrival. */
async function come(bill: Bill, from = 'accounts', subject = 'From the yard'): Promise<string> {
  const layout = odd[bill.supplier];
  if (!layout) throw new Error('There is no such look');
  const raw = await new MailComposer({
    from: `${from}@${bill.supplier.toLowerCase().replaceAll(/\W+/gu, '-')}.example`,
    ...{ to: 'intake@library.example', subject, text: 'Attached.' },
    messageId: `<${(sent += 1)}@bills.example>`,
    attachments: [{ filename: 'scan.pdf', content: await drawBill(bill, layout) }],
  })
    .compile()
    .build();
  const { arrivalId } = await keepMail(raw, { from: '', to: ['intake@library.example'] });
  await readArrivals();
  return arrivalId;
}
const truth = ({ number, day, totalPence }: Bill) => ({ number, day, amount: (totalPence / 100).toFixed(2) }) as const;
const statedOf = async (id: string) => {
  const [row] = await db().select().from(arrival).where(eq(arrival.id, id));
  return row?.proposal?.parts.find(({ counts }) => counts)?.stated ?? [];
};
const told = async (id: string, kind: SingleKind) => (await statedOf(id)).find((each) => each.kind === kind)?.value;
/** Files an arrival as a person would who types what stands on the paper. */
async function file(arrivalId: string, bill: Bill, number = bill.number): Promise<string> {
  const { revision, parts } = await arrivalSheet(keeper, { arrivalId });
  const part = parts.find(({ counts }) => counts);
  const values = {
    [columns.get('Invoice number') ?? '']: number,
    [columns.get('Document date') ?? '']: bill.day,
    [columns.get('Amount') ?? '']: truth(bill).amount,
  };
  const placeId = dossiers.get(bill.supplier) ?? '';
  const { documentIds } = await fileArrival(keeper, {
    ...{ arrivalId, revision, placeId },
    parts: [{ attachment: part?.attachment ?? null, title: `Bill ${(sent += 1)}`, values }],
  });
  return documentIds[0] ?? '';
}

it('one bill that was filed teaches where the next of its sender state what', async () => {
  const right = { before: 0, after: 0, each: 0 };
  for (const supplier of Object.keys(odd)) {
    const first = billOf(supplier);
    const firstId = await come(first);
    const comeTwice = async () => {
      const found = [];
      for (const bill of [billOf(supplier), billOf(supplier)]) found.push([bill, await come(bill)] as const);
      return found;
    };
    const before = await comeTwice();
    await file(firstId, first);
    const after = await comeTwice();
    for (const kind of ['number', 'day', 'amount'] as const) {
      const isRight = async ([bill, id]: readonly [Bill, string]) => {
        const value = await told(id, kind);
        return Number(value !== undefined && isSame(kind, value, truth(bill)[kind]));
      };
      for (const each of before) right.before += await isRight(each);
      for (const each of after) right.after += await isRight(each);
      right.each += after.length;
    }
  }
  expect(right.before / right.each).toBeLessThan(0.75);
  expect(right.after / right.each).toBeGreaterThanOrEqual(0.95);
});

it('how sure values were said to be, and how often they were right, is told to keepers', async () => {
  const { sure } = await intakeNumbers(keeper, {});
  const count = (rows: readonly SureRow[], what: 'of' | 'right') => rows.reduce((sum, each) => sum + each[what], 0);
  // Of the bills that were filed by now, one of each sender, some values were told; all that was typed was as they stand there.
  const filed = await db().select().from(arrival).where(eq(arrival.state, 'filed'));
  const told = filed.flatMap(({ proposal }) =>
    (proposal?.parts ?? []).flatMap(({ stated = [] }) => stated.filter((each) => each.sure >= 0.5)),
  );
  expect(filed).toHaveLength(4);
  expect(count(sure.values, 'of')).toBe(told.length);
  expect(count(sure.values, 'right')).toBeGreaterThan(0);
  expect(count(sure.places, 'of')).toBe(4);
  expect(count(sure.places, 'right')).toBe(4);
});

describe('what is taught', () => {
  const supplier = 'Gull Chandlers';

  it('is said with its reason, and holds when it was right many times', async () => {
    const bill = billOf(supplier);
    let id = await come(bill);
    const fieldsOf = async () =>
      (await arrivalFields(keeper, { arrivalId: id, placeId: dossiers.get(supplier) ?? '' })).at(-1)?.fields ?? [];
    const [number] = await fieldsOf();
    expect([number?.text, number?.why]).toEqual([bill.number, `“Docket ${bill.number}”, where it stood before.`]);
    for (let times = 0; times < 7; times += 1) {
      const next = billOf(supplier);
      id = await come(next);
      expect(await told(id, 'number')).toBe(next.number);
      await file(id, next);
    }
  });

  it('is also what was known only because the subject named it', async () => {
    const named = billOf(supplier);
    const id = await come(named, 'named', `Docket ${named.number}`);
    expect(await told(id, 'number')).toBe(named.number);
    await file(id, named);
    const bill = billOf(supplier);
    expect(await told(await come(bill, 'named'), 'number')).toBe(bill.number);
  });

  it('is of that sender, and not of another who is filed there', async () => {
    expect(await told(await come(billOf(supplier), 'another'), 'number')).toBeUndefined();
  });

  it('goes with the papers that taught it, is mended with their values, and is not of papers with access of their own', async () => {
    const teach = async (from: string) => {
      const bill = billOf(supplier);
      return file(await come(bill, from), bill);
    };
    const knows = async (from: string) => {
      const bill = billOf(supplier);
      return (await told(await come(bill, from), 'number')) === bill.number;
    };
    const destroyed = await teach('first');
    expect(await knows('first')).toBe(true);
    await disposePapers(keeper, { documentIds: [destroyed] });
    expect(await knows('first')).toBe(false);
    await destroyPapers(keeper, { documentIds: [destroyed] });
    expect(await knows('first')).toBe(false);

    const bill = billOf(supplier);
    const wrong = await file(await come(bill, 'second'), bill, 'Nowhere 1');
    expect(await knows('second')).toBe(false);
    const columnId = columns.get('Invoice number') ?? '';
    await setValues(keeper, { documentIds: [wrong], values: { [columnId]: bill.number } });
    expect(await knows('second')).toBe(true);

    const clerk = await newcomer(keeper, 'Cle Rk');
    const apart = await teach('third');
    expect(await knows('third')).toBe(true);
    await say(keeper, paperOn(apart), [{ who: clerk, gives: ['see'] }], false);
    expect(await knows('third')).toBe(false);
  });
});
