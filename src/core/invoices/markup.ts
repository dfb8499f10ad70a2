import { escapedMarkup } from '../text/markup';
import { invoiceFaults } from './check';
import type { Invoice } from './model';

const cell = (text: string, isNumber = false): string =>
  `<td${isNumber ? ' align="right"' : ''}>${escapedMarkup(text)}</td>`;
const head = (...names: readonly string[]): string => `<tr>${names.map((each) => `<th>${each}</th>`).join('')}</tr>`;

/** A bill as data in a form that one reads: who, what, how much; and what does not come out. */
export function invoiceMarkup(invoice: Invoice): string {
  const { isCredit, number, day, due, period, currency, seller, buyer, reference, lines, taxes, totals } = invoice;
  const money = (amount: number) => `${currency} ${(amount / 100).toFixed(2)}`;
  const facts: readonly (readonly [string, string | null])[] = [
    ['From', seller.name],
    ['Tax number', seller.taxNumber],
    ['To', buyer],
    ['Date', day],
    ['Due', due],
    ['For', period?.replace('/', ' – ') ?? null],
    ['Reference', reference],
    ['Pay into', seller.account],
  ];
  const sums: readonly (readonly [string, number | null])[] = [
    ['Lines', totals.lines],
    ['Less', totals.allowances || null],
    ['And', totals.charges || null],
    ['Before tax', totals.net],
    ...taxes.map(({ rate, base, amount }) => [`${rate ?? 0} % of ${money(base)}`, amount] as const),
    ['With tax', totals.gross],
    ['Paid already', totals.paid || null],
    ['Rounded by', totals.rounding || null],
    ['To be paid', totals.payable],
  ];
  const faults = invoiceFaults(invoice);
  return [
    `<h1>${isCredit ? 'Credit note' : 'Invoice'} ${escapedMarkup(number)}</h1>`,
    ...faults.map(({ rule, says }) => `<p><strong>Does not come out (${rule}):</strong> ${escapedMarkup(says)}</p>`),
    `<table>${facts.flatMap(([name, value]) => (value ? [`<tr>${cell(name)}${cell(value)}</tr>`] : [])).join('')}</table>`,
    `<h2>What for</h2><table>${head('What', 'How many', 'Amount')}`,
    ...lines.map((line) => `<tr>${cell(line.name)}${cell(line.quantity, true)}${cell(money(line.net), true)}</tr>`),
    `</table><h2>How much</h2><table>`,
    ...sums.flatMap(([name, amount]) =>
      amount === null ? [] : [`<tr>${cell(name)}${cell(money(amount), true)}</tr>`],
    ),
    '</table>',
  ].join('\n');
}
