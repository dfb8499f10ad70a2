/** A place on the page from its top left corner, in points. */
export interface At {
  readonly x: number;
  readonly y: number;
}

/** How a supplier’s bills look. `{number}`, `{day}`, `{due}`, `{net}`, `{tax}`, `{total}`, `{account}`, `{order}`, `{supplier}` are filled in. */
export interface BillLayout {
  readonly name: string;
  /** The weights of the model were not fitted to bills of this look. Labels were mended while looking at them: fresh looks measure worse. */
  readonly heldOut: boolean;
  readonly day: 'long' | 'short' | 'iso' | 'slashes' | 'dots' | 'american';
  readonly money: 'sign' | 'code' | 'bare' | 'continental';
  /** Pieces of text where they stand; those with a `{due}` are left out where there is none. */
  readonly texts: readonly (At & { readonly text: string; readonly size?: number })[];
  /** Where the lines of goods begin, and the columns of quantity, price and sum. */
  readonly goods: At & { readonly quantityX: number; readonly priceX: number; readonly sumX: number };
  /** What stands below the lines: beside it, at `sumX`, its value. */
  readonly sums: readonly { readonly label: string; readonly value: '{net}' | '{tax}' | '{total}' }[];
  /** Where those labels begin. */
  readonly sumsX: number;
}

const threeSums = (net: string, tax: string, total: string): BillLayout['sums'] => [
  { label: net, value: '{net}' },
  { label: tax, value: '{tax}' },
  { label: total, value: '{total}' },
];
const wide = { x: 50, y: 330, quantityX: 330, priceX: 400, sumX: 490 } as const;

/** The looks of bills, made up; no two have their labels and places alike. */
export const billLayouts: readonly BillLayout[] = [
  {
    ...{ name: 'beside', heldOut: false, day: 'long', money: 'sign', goods: wide, sumsX: 380 },
    texts: [
      { x: 50, y: 60, text: '{supplier}', size: 18 },
      { x: 380, y: 60, text: 'INVOICE', size: 20 },
      { x: 50, y: 150, text: 'Saltmarrow Harbour Trust' },
      { x: 350, y: 150, text: 'Invoice number: {number}' },
      { x: 350, y: 166, text: 'Invoice date: {day}' },
      { x: 350, y: 182, text: 'Due date: {due}' },
      { x: 350, y: 198, text: 'Account number: {account}' },
    ],
    sums: threeSums('Subtotal', 'VAT at 20 %', 'Total due'),
  },
  {
    ...{ name: 'columns', heldOut: false, day: 'slashes', money: 'bare', goods: wide, sumsX: 380 },
    texts: [
      { x: 50, y: 50, text: '{supplier}', size: 16 },
      { x: 50, y: 130, text: 'Invoice No.' },
      { x: 170, y: 130, text: 'Date' },
      { x: 290, y: 130, text: 'Your order' },
      { x: 410, y: 130, text: 'Payment due' },
      { x: 50, y: 146, text: '{number}' },
      { x: 170, y: 146, text: '{day}' },
      { x: 290, y: 146, text: '{order}' },
      { x: 410, y: 146, text: '{due}' },
    ],
    sums: threeSums('Net', 'VAT', 'Total GBP'),
  },
  {
    ...{ name: 'letter', heldOut: false, day: 'long', money: 'sign', goods: { ...wide, y: 420 }, sumsX: 380 },
    texts: [
      { x: 50, y: 60, text: '{supplier}', size: 14 },
      { x: 50, y: 120, text: '{day}' },
      { x: 50, y: 160, text: 'Dear Treasurer,' },
      { x: 50, y: 184, text: 'Please find below our bill no. {number} for works under your order {order}.' },
      { x: 50, y: 200, text: 'We ask for payment by {due}.' },
    ],
    sums: threeSums('Works', 'Tax', 'Amount payable'),
  },
  {
    ...{ name: 'box', heldOut: false, day: 'short', money: 'code', goods: wide, sumsX: 330 },
    texts: [
      { x: 50, y: 60, text: '{supplier}', size: 18 },
      { x: 330, y: 110, text: 'Document no' },
      { x: 470, y: 110, text: '{number}' },
      { x: 330, y: 128, text: 'Date of issue' },
      { x: 470, y: 128, text: '{day}' },
      { x: 330, y: 146, text: 'Pay by' },
      { x: 470, y: 146, text: '{due}' },
      { x: 330, y: 164, text: 'Customer no' },
      { x: 470, y: 164, text: '{account}' },
    ],
    sums: threeSums('Total net', 'Tax 20 %', 'Grand total'),
  },
  {
    ...{ name: 'continental', heldOut: false, day: 'dots', money: 'continental', goods: wide, sumsX: 360 },
    texts: [
      { x: 50, y: 60, text: '{supplier}', size: 18 },
      { x: 50, y: 180, text: 'Rechnung / Invoice', size: 15 },
      { x: 50, y: 210, text: 'Rechnungsnummer: {number}' },
      { x: 250, y: 210, text: 'Rechnungsdatum: {day}' },
      { x: 430, y: 210, text: 'Zahlbar bis: {due}' },
    ],
    sums: threeSums('Nettobetrag', 'MwSt.', 'Gesamtbetrag'),
  },
  {
    ...{ name: 'foot', heldOut: false, day: 'iso', money: 'sign', goods: { ...wide, y: 240 }, sumsX: 300 },
    texts: [
      { x: 50, y: 60, text: 'Invoice {number}', size: 20 },
      { x: 50, y: 90, text: 'Dated {day}, order {order}' },
      { x: 50, y: 780, text: '{supplier}. Registered number 04471823. VAT no GB 104 2283 17.' },
      { x: 50, y: 796, text: 'Due {due}' },
    ],
    sums: threeSums('Sub total', 'VAT', 'Invoice total'),
  },
  {
    ...{ name: 'loose', heldOut: false, day: 'slashes', money: 'bare', goods: { ...wide, y: 300 }, sumsX: 380 },
    texts: [
      { x: 50, y: 60, text: '{supplier}', size: 18 },
      { x: 380, y: 90, text: '{number}' },
      { x: 380, y: 106, text: '{day}' },
      { x: 50, y: 130, text: 'For goods as listed, order {order}' },
      { x: 50, y: 150, text: 'Kindly remit before {due}' },
    ],
    sums: threeSums('', '', ''),
  },
  {
    ...{ name: 'halfSaid', heldOut: false, day: 'short', money: 'sign', goods: { ...wide, y: 300 }, sumsX: 380 },
    texts: [
      { x: 50, y: 60, text: '{supplier}', size: 18 },
      { x: 50, y: 110, text: 'Number' },
      { x: 150, y: 110, text: '{number}' },
      { x: 50, y: 126, text: 'Our ref' },
      { x: 150, y: 126, text: '{account}' },
      { x: 50, y: 142, text: 'Raised' },
      { x: 150, y: 142, text: '{day}' },
      { x: 50, y: 158, text: 'Payment date' },
      { x: 150, y: 158, text: '{due}' },
    ],
    sums: threeSums('Amount', 'VAT', 'Amount with VAT'),
  },
  {
    ...{ name: 'above', heldOut: true, day: 'short', money: 'sign', goods: wide, sumsX: 380 },
    texts: [
      { x: 330, y: 60, text: '{supplier}', size: 18 },
      { x: 50, y: 120, text: 'INVOICE NO' },
      { x: 50, y: 136, text: '{number}' },
      { x: 50, y: 164, text: 'ISSUED' },
      { x: 50, y: 180, text: '{day}' },
      { x: 50, y: 208, text: 'DUE' },
      { x: 50, y: 224, text: '{due}' },
      { x: 50, y: 252, text: 'ORDER NO' },
      { x: 50, y: 268, text: '{order}' },
    ],
    sums: threeSums('Subtotal', 'VAT 20 %', 'Balance due'),
  },
  {
    ...{ name: 'plain', heldOut: true, day: 'slashes', money: 'bare', goods: { ...wide, y: 300 }, sumsX: 420 },
    texts: [
      { x: 50, y: 80, text: '{supplier}' },
      { x: 50, y: 110, text: 'TAX INVOICE' },
      { x: 50, y: 140, text: 'To: Saltmarrow Harbour Trust, account {account}' },
      { x: 50, y: 170, text: 'No. {number}' },
      { x: 50, y: 186, text: 'Tax point {day}' },
      { x: 50, y: 202, text: 'Please pay by {due}' },
    ],
    sums: threeSums('Goods', 'VAT', 'Total'),
  },
  {
    ...{ name: 'right', heldOut: true, day: 'long', money: 'code', goods: { ...wide, y: 380 }, sumsX: 340 },
    texts: [
      { x: 60, y: 70, text: '{supplier}', size: 22 },
      { x: 300, y: 200, text: 'Bill number' },
      { x: 430, y: 200, text: '{number}' },
      { x: 300, y: 220, text: 'Bill date' },
      { x: 430, y: 220, text: '{day}' },
      { x: 300, y: 240, text: 'Settle before' },
      { x: 430, y: 240, text: '{due}' },
      { x: 300, y: 260, text: 'Your reference' },
      { x: 430, y: 260, text: '{order}' },
    ],
    sums: threeSums('Before tax', 'Tax', 'To pay'),
  },
  {
    ...{ name: 'french', heldOut: true, day: 'slashes', money: 'continental', goods: wide, sumsX: 360 },
    texts: [
      { x: 50, y: 60, text: '{supplier}', size: 18 },
      { x: 50, y: 150, text: 'Facture n° {number}' },
      { x: 50, y: 168, text: 'Date de facture : {day}' },
      { x: 50, y: 186, text: 'Échéance : {due}' },
      { x: 50, y: 204, text: 'Commande : {order}' },
    ],
    sums: threeSums('Total HT', 'TVA', 'Total TTC'),
  },
  {
    ...{ name: 'scanty', heldOut: true, day: 'short', money: 'bare', goods: { ...wide, y: 260 }, sumsX: 390 },
    texts: [
      { x: 50, y: 60, text: '{supplier}', size: 18 },
      { x: 300, y: 100, text: 'Ref. {number}' },
      { x: 300, y: 116, text: '{day}' },
      { x: 50, y: 230, text: 'Job {order}, terms: {due}' },
    ],
    sums: threeSums('', 'VAT', 'All in'),
  },
  {
    ...{ name: 'sentence', heldOut: true, day: 'long', money: 'sign', goods: { ...wide, y: 460 }, sumsX: 380 },
    texts: [
      { x: 50, y: 60, text: '{supplier}', size: 16 },
      { x: 50, y: 130, text: 'Invoice {number} of {day}' },
      { x: 50, y: 160, text: 'The total of {total} is due by {due}. Our terms are those of your order {order}.' },
    ],
    sums: threeSums('Sum', 'VAT', 'Sum with VAT'),
  },
];
