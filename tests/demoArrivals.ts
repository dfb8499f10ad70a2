/**
 * Arrivals made as those of the demo are: mails with bills, of suppliers that have dossiers. Of some of the suppliers nothing was ever
 * filed, and some of the looks of bills were kept out of all fitting.
 */
import { eq } from 'drizzle-orm';
import MailComposer from 'nodemailer/lib/mail-composer';
import type { Chance } from '@/core/chance/chance';
import { nameKey } from '@/core/text/fold';
import { sha256Hex } from '@/server/base/sha256';
import { storeBytes } from '@/server/blobs/keep';
import { db, writableDb } from '@/server/db/client';
import { arrival, attachment } from '@/server/db/schema';
import { transaction } from '@/server/db/transaction';
import { createDossier } from '@/server/dossiers/create';
import { readStages } from '@/server/extraction/read';
import type { Actor } from '@/server/gate/actor';
import { keepMail } from '@/server/intake/keep';
import { madeUpBill, type Bill } from '@/demo/bills/bill';
import { drawBill } from '@/demo/bills/drawBill';
import { billLayouts } from '@/demo/bills/layouts';
import { suppliers } from '@/demo/layout';

interface Supplier {
  readonly id: string;
  readonly name: string;
  readonly reference: string;
  readonly domain: string;
  /** Nothing of theirs was filed before. */
  readonly isHeldOut: boolean;
}

/** An arrival with what it is in truth. */
export interface Told {
  readonly arrivalId: string;
  readonly dossierId: string;
  readonly isHeldOut: boolean;
  readonly bill: Bill;
  /** How its bill looks, and whether that look was kept out. */
  readonly layout: string;
  readonly isLookHeldOut: boolean;
}

/** Makes dossiers of thirty suppliers; of every third nothing was filed before, of the others some mails were. */
export async function furnishSuppliers(keeper: Actor, seriesId: string, chance: Chance): Promise<Supplier[]> {
  const made: Supplier[] = [];
  const mail = Buffer.from('filed before');
  await transaction([], (tx) => storeBytes(tx, sha256Hex(mail), mail));
  for (const [at, name] of suppliers(chance).entries()) {
    const reference = `S-${String(at + 1).padStart(3, '0')}`;
    const { id } = await createDossier(keeper, { seriesId, name, reference });
    const domain = `${nameKey(name).replaceAll(/[^a-z]+/gu, '-')}.example`;
    const isHeldOut = at % 3 === 2;
    made.push({ id, name, reference, domain, isHeldOut });
    if (!isHeldOut)
      await writableDb()
        .insert(arrival)
        .values(
          Array.from({ length: chance.whole(1, 6) }, () => ({
            ...{ way: 'mail' as const, arrivedAt: new Date(), sha256: sha256Hex(mail), fileName: 'Mail.eml' },
            ...{ mediaType: 'message/rfc822', envelopeFrom: '', sentTo: [], state: 'filed' as const, dossierId: id },
            senderAddress: `accounts@${domain}`,
          })),
        );
  }
  return made;
}

const subjects = [
  'Invoice {number}',
  'Your bill {number}',
  'Rechnung',
  'Our bill',
  'Statement and bill',
  'For your attention',
];
const texts = [
  'Our invoice {number} is attached. Your account with us: {reference}.\n\nAccounts, {name}',
  'Please find our bill attached.\n\n{name}',
  'Anbei unsere Rechnung.\n\n{name}',
  'Attached.',
  'As agreed with {other}, here is our bill for what we delivered together.\n\n{name}',
];
const fileNames = ['INVOICE_{number}.pdf', 'Bill {number}.pdf', 'scan_0034.pdf', 'document.pdf'];

/** Keeps an arrival, and has all of it read. */
export async function oneArrives(chance: Chance, known: readonly Supplier[]): Promise<Told> {
  const [mine, other] = chance.some(known, 2);
  if (!mine || !other) throw new Error('Two suppliers at least are needed');
  const layout = chance.pick(billLayouts);
  const bill = madeUpBill(chance, mine.name, '2026-11-28');
  const filled = (words: string) =>
    words
      .replaceAll('{name}', mine.name)
      .replaceAll('{other}', other.name)
      .replaceAll('{number}', bill.number)
      .replaceAll('{reference}', mine.reference);
  const from = chance.pick([
    ...[`accounts@${mine.domain}`, `accounts@${mine.domain}`, `ledger@${mine.domain}`],
    `bills${chance.whole(1, 99)}@bookkeepers.example`,
  ]);
  const to = chance.happens(0.1) ? `${mine.reference.toLowerCase()}@library.example` : 'intake@library.example';
  const raw = await new MailComposer({
    ...{ from: `"Accounts" <${from}>`, to, subject: filled(chance.pick(subjects)), text: filled(chance.pick(texts)) },
    messageId: `<${crypto.randomUUID()}@${mine.domain}>`,
    attachments: [
      { filename: filled(chance.pick(fileNames)).replaceAll('/', '-'), content: await drawBill(bill, layout) },
    ],
  })
    .compile()
    .build();
  const { arrivalId } = await keepMail(raw, { from, to: [to] });
  const [row] = await db().select().from(arrival).where(eq(arrival.id, arrivalId));
  const sha256 = row?.sha256 ?? '';
  await readStages(sha256, false);
  for (const each of await db().select().from(attachment).where(eq(attachment.mailSha256, sha256)))
    await readStages(each.sha256, false);
  return {
    ...{ arrivalId, bill, dossierId: mine.id, isHeldOut: mine.isHeldOut },
    ...{ layout: layout.name, isLookHeldOut: layout.heldOut },
  };
}

/** What was made of an arrival, beside what it is in truth: whether each is right; null where the bill does not state it. */
export async function judged({ arrivalId, dossierId, bill, ...rest }: Told) {
  const [row] = await db().select().from(arrival).where(eq(arrival.id, arrivalId));
  const candidates = row?.proposal?.candidates ?? [];
  const stated = row?.proposal?.parts.flatMap((part) => part.stated ?? []) ?? [];
  const of = (kind: string) => stated.find((each) => each.kind === kind && each.sure >= 0.5)?.value ?? null;
  return {
    ...rest,
    candidates,
    place: candidates[0]?.dossierId === dossierId,
    number: of('number') === bill.number,
    day: of('day') === bill.day,
    amount: of('amount') === (bill.totalPence / 100).toFixed(2),
    told: { number: of('number'), truth: bill.number },
  };
}
