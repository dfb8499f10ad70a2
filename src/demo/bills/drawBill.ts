import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import type { Bill } from './bill';
import type { BillLayout } from './layouts';

const page = { width: 595, height: 842 } as const;
const lineHeight = 18;

const inForms: Readonly<Record<BillLayout['day'], (day: string) => string>> = {
  long: (day) => written(day, { day: 'numeric', month: 'long', year: 'numeric' }),
  short: (day) => written(day, { day: 'numeric', month: 'short', year: 'numeric' }),
  iso: (day) => day,
  slashes: (day) => day.split('-').toReversed().join('/'),
  dots: (day) => day.split('-').toReversed().join('.'),
  american: (day) => written(day, { day: 'numeric', month: 'long', year: 'numeric' }, 'en-US'),
};
const written = (day: string, form: Intl.DateTimeFormatOptions, locale = 'en-GB'): string =>
  new Intl.DateTimeFormat(locale, { ...form, timeZone: 'UTC' }).format(new Date(day));

/** An amount as a bill of that look writes it. */
export function moneyOn(layout: BillLayout, currency: Bill['currency'], pence: number): string {
  const locale = layout.money === 'continental' ? 'de-DE' : 'en-GB';
  const number = (pence / 100).toLocaleString(locale, { minimumFractionDigits: 2, maximumFractionDigits: 2 });
  if (layout.money === 'bare') return number;
  if (layout.money === 'code') return `${currency} ${number}`;
  return layout.money === 'sign'
    ? `${currency === 'GBP' ? '£' : '€'}${number}`
    : `${number} ${currency === 'GBP' ? '£' : '€'}`;
}

/** A bill as a PDF of one page. */
export async function drawBill(bill: Bill, layout: BillLayout): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  const moment = new Date(bill.day);
  pdf.setCreationDate(moment);
  pdf.setModificationDate(moment);
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const sheet = pdf.addPage([page.width, page.height]);
  const put = (x: number, y: number, text: string, size = 10) =>
    sheet.drawText(text, { x, y: page.height - y, size, font });
  const money = (pence: number) => moneyOn(layout, bill.currency, pence);
  const fills: Readonly<Record<string, string>> = {
    supplier: bill.supplier,
    number: bill.number,
    day: inForms[layout.day](bill.day),
    due: bill.due === null ? '' : inForms[layout.day](bill.due),
    net: money(bill.netPence),
    tax: money(bill.taxPence),
    total: money(bill.totalPence),
    account: bill.account,
    order: bill.order,
  };
  const filled = (text: string) => text.replaceAll(/\{(\w+)\}/gu, (_all, name: string) => fills[name] ?? '');
  // A label above or beside what is not there goes with it.
  const isLeftOut = (at: number) =>
    bill.due === null &&
    (layout.texts[at]?.text.includes('{due}') === true ||
      (layout.texts[at + 1]?.text === '{due}' && layout.texts[at]?.text.includes('{') === false));
  for (const [at, { x, y, text, size }] of layout.texts.entries()) if (!isLeftOut(at)) put(x, y, filled(text), size);
  const { x, y, quantityX, priceX, sumX } = layout.goods;
  bill.lines.forEach(({ what, quantity, pence }, line) => {
    const at = y + line * lineHeight;
    put(x, at, what);
    put(quantityX, at, String(quantity));
    put(priceX, at, money(pence));
    put(sumX, at, money(quantity * pence));
  });
  layout.sums.forEach(({ label, value }, line) => {
    const at = y + (bill.lines.length + 1 + line) * lineHeight;
    put(layout.sumsX, at, label);
    put(sumX, at, filled(value));
  });
  bill.notes.forEach((text, line) => put(50, 690 + line * 15, text, 8));
  return Buffer.from(await pdf.save());
}
