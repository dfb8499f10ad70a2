import { and, asc, eq } from 'drizzle-orm';
import MailComposer from 'nodemailer/lib/mail-composer';
import sharp from 'sharp';
import { Chance } from '@/core/chance/chance';
import { nameKey } from '@/core/text/fold';
import { db } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { atMoment } from '@/server/base/clock';
import { keepMail } from '@/server/intake/keep';
import { madeUpBill } from './bills/bill';
import { drawBill } from './bills/drawBill';
import { billLayouts, type BillLayout } from './bills/layouts';
import { makers } from './papers';
import { someone, type Places } from './named';

/** A mail that has come in and that nobody has looked at yet. `{name}` and `{reference}` are those of the dossier that it is from, `{domain}` is made of its name. */
interface Come {
  /** Whose dossier: the series, and which of its dossiers, from 0. Null: nobody’s that the library knows. */
  readonly from: readonly [series: string, index: number] | null;
  readonly sender: string;
  readonly subject: string;
  readonly text: string;
  /** What is attached as a PDF: its file name and what it says. */
  readonly paper?: { readonly fileName: string; readonly title: string; readonly says: string };
  /** A bill is attached that looks like this; `{number}` is its number. */
  readonly bill?: { readonly layout: string; readonly fileName: string };
  /** The picture of a signature is attached as well. */
  readonly signed?: true;
  readonly to?: string;
  readonly headers?: Readonly<Record<string, string>>;
  readonly minutesBefore: number;
}

const come: readonly Come[] = [
  {
    from: ['Suppliers', 3],
    sender: '"Accounts" <accounts@{domain}>',
    subject: 'Invoice {number}',
    text: 'Our invoice {number} for the October works is attached. Your account with us: {reference}.\n\nAccounts, {name}',
    bill: { layout: 'beside', fileName: 'INVOICE_{number}.pdf' },
    signed: true,
    minutesBefore: 260,
  },
  {
    from: ['Suppliers', 11],
    sender: '"Ledger desk" <ledger@{domain}>',
    subject: 'Statement to the end of October',
    text: 'The statement of {name} for {reference}.',
    paper: {
      fileName: 'Statement October 2026.pdf',
      title: 'Statement, October 2026',
      says: 'Statement of {name} for {reference}. Nothing is overdue.',
    },
    minutesBefore: 190,
  },
  {
    from: ['Berth tenants', 5],
    sender: '"Berth office" <hello@{domain}>',
    subject: 'Re: Electricity recharge',
    text: 'We have looked at the meter again with your engineer. The reading of 1 October stands.\n\n{name}, berth {reference}',
    minutesBefore: 125,
  },
  {
    from: ['Suppliers', 15],
    sender: '"Accounts receivable" <bills@{domain}>',
    subject: 'Your bill {number}',
    text: 'Please find our bill attached.\n\n{name}',
    bill: { layout: 'right', fileName: 'Bill {number}.pdf' },
    minutesBefore: 96,
  },
  {
    from: ['Suppliers', 20],
    sender: '"{name}" <office@{domain}>',
    subject: 'Rechnung',
    text: 'Anbei unsere Rechnung.\n\n{name}',
    bill: { layout: 'continental', fileName: 'scan_0034.pdf' },
    minutesBefore: 88,
  },
  {
    from: null,
    sender: '"Chart news" <news@charts.example>',
    subject: 'New charts for the estuary',
    text: 'The charts of the estuary are out in a new edition.',
    headers: { 'List-Id': '<news.charts.example>' },
    minutesBefore: 80,
  },
  {
    from: ['Suppliers', 7],
    sender: '"Post room" <post@{domain}>',
    to: '{reference}@saltmarrow.example',
    subject: 'Your order of 2 November',
    text: 'The rope comes on Thursday, before the tide.',
    minutesBefore: 35,
  },
];

/** Mails that wait in the intake. */
export async function layArrivals(places: Places, storyEnds: Date): Promise<void> {
  const mark = await sharp({ create: { width: 120, height: 40, channels: 3, background: '#0d4a50' } })
    .png()
    .toBuffer();
  const chance = new Chance(4417);
  for (const [at, each] of come.entries()) {
    const { from, sender, subject, text, paper, bill: bills, signed, to, headers, minutesBefore } = each;
    const moment = new Date(storyEnds.getTime() - minutesBefore * 60_000);
    const dossier = from ? await dossierAt(someone(places, from[0]), from[1]) : { name: '', reference: '' };
    const bill = bills && madeUpBill(chance, dossier.name, moment.toISOString().slice(0, 10));
    const domain = `${nameKey(dossier.name).replaceAll(/[^a-z]+/gu, '-')}.example`;
    const filled = (words: string) =>
      words
        .replaceAll('{name}', dossier.name)
        .replaceAll('{number}', bill?.number ?? '')
        .replaceAll('{reference}', dossier.reference)
        .replaceAll('{domain}', domain);
    const address = filled(to ?? 'intake@saltmarrow.example').toLowerCase();
    const draft = paper && {
      ...{ title: paper.title, subtitle: dossier.name, written: moment, author: dossier.name, figures: [] },
      paragraphs: [filled(paper.says)],
    };
    const raw = await new MailComposer({
      from: filled(sender),
      to: address,
      subject: filled(subject),
      text: filled(text),
      date: moment,
      messageId: `<arrival-${at}@saltmarrow.example>`,
      headers: { ...headers },
      attachments: [
        ...(bills && bill
          ? [
              {
                filename: filled(bills.fileName).replaceAll('/', '-'),
                content: await drawBill(bill, layoutNamed(bills.layout)),
              },
            ]
          : []),
        ...(paper && draft ? [{ filename: paper.fileName, content: await makers['pdf']?.(draft) }] : []),
        ...(signed ? [{ filename: 'image001.png', content: mark }] : []),
      ],
    })
      .compile()
      .build();
    const envelopeFrom = /<(?<address>[^>]+)>/u.exec(filled(sender))?.groups?.['address'] ?? '';
    await atMoment(moment, () => keepMail(raw, { from: envelopeFrom, to: [address] }));
  }
}

function layoutNamed(name: string): BillLayout {
  const found = billLayouts.find((each) => each.name === name);
  if (!found) throw new Error(`There is no look of bills called ${name}`);
  return found;
}

/** A dossier of a series, by its place in it, from 0. */
export async function dossierAt(seriesId: string, index: number): Promise<{ name: string; reference: string }> {
  const [found] = await db()
    .select({ name: place.name, reference: place.reference })
    .from(place)
    .where(and(eq(place.parentId, seriesId), eq(place.kind, 'dossier'), eq(place.closed, false)))
    .orderBy(asc(place.position), asc(place.name))
    .offset(index)
    .limit(1);
  if (!found?.reference) throw new Error('There are fewer dossiers');
  return { name: found.name, reference: found.reference };
}
