import type { Chance } from '@/core/chance/chance';

/** A bill as its sender means it: what a reader should find in it. */
export interface Bill {
  readonly supplier: string;
  readonly number: string;
  /** ISO 8601. */
  readonly day: string;
  /** Null: it does not say when it is to be paid. */
  readonly due: string | null;
  readonly lines: readonly { readonly what: string; readonly quantity: number; readonly pence: number }[];
  readonly netPence: number;
  readonly taxPence: number;
  readonly totalPence: number;
  readonly currency: 'GBP' | 'EUR';
  /** Of whoever it is sent to, at the supplier: looks like a number of the bill and is none. */
  readonly account: string;
  readonly order: string;
  /** What else stands at its foot: days, numbers and amounts that are not its own. */
  readonly notes: readonly string[];
}

const notes = [
  'Prices hold until 31 January 2027.',
  'Founded 1 May 1984. Registered number 04471823.',
  'Deposit received 100.00, with thanks.',
  'Balance brought forward £480.00',
  'Last invoice: 10442 of 2 August 2026',
  'The yard is closed from 21 December 2026.',
  'VAT number GB 104 2283 17',
  'Delivery date: 9 November 2026',
  'Total weight 1,240.50 kg',
  'Total hours 12.50',
  'Account no 40718822, sort code 20-00-10',
  'Interest is 8.00 a year for each 100.00 that is overdue.',
] as const;

const goods = [
  'Galvanised chain, 16 mm',
  'Mooring buoys',
  'Fender timber, treated',
  'Diver, half day',
  'Work boat with crew',
  'Marine diesel, litres',
  'Rope, 24 mm, three strand',
  'Anodes, zinc',
  'Survey of piles',
  'Hire of a barge, days',
] as const;

const plusDays = (day: string, days: number): string =>
  new Date(Date.parse(day) + days * 86_400_000).toISOString().slice(0, 10);

/** A bill of a supplier, made up; its day lies in the months before `until` (ISO 8601). */
export function madeUpBill(chance: Chance, supplier: string, until: string): Bill {
  const day = plusDays(until, -chance.whole(2, 60));
  const lines = chance.some(goods, chance.whole(1, 6)).map((what) => ({
    what,
    quantity: chance.whole(1, 12),
    pence: chance.whole(450, 48_000),
  }));
  const netPence = lines.reduce((sum, { quantity, pence }) => sum + quantity * pence, 0);
  const taxPence = Math.round(netPence * 0.2);
  const serial = chance.whole(1, 9999);
  const number = chance.pick([
    `${serial + 10_000}`,
    `INV-${String(serial).padStart(5, '0')}`,
    `${day.slice(0, 4)}/${String(serial).padStart(4, '0')}`,
    `${supplier.replaceAll(/\P{L}/gu, '').slice(0, 2).toUpperCase()}${serial + 100}`,
    `${day.slice(2, 4)}${day.slice(5, 7)}-${serial}`,
  ]);
  return {
    supplier,
    number,
    day,
    due: chance.happens(0.75) ? plusDays(day, chance.pick([14, 21, 30])) : null,
    lines,
    netPence,
    taxPence,
    totalPence: netPence + taxPence,
    currency: chance.happens(0.15) ? 'EUR' : 'GBP',
    account: `SHT${chance.whole(100, 999)}`,
    order: `PO-${chance.whole(1000, 9999)}`,
    notes: chance.some(notes, chance.whole(0, 4)),
  };
}
