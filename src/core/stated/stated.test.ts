import { percentSure } from './sureness';
import fc from 'fast-check';
import { searchKey } from '../text/fold';
import { readMoney } from './money';
import { placedLines } from './rows';
import { statedIn } from './stated';

const around = { names: 'Invoice 4417', arrivedOn: '2026-11-20' };
const inText = (text: string, names = around.names) =>
  Object.fromEntries(
    statedIn([placedLines(text)], { ...around, names }).map(({ kind, value, currency }) => [
      kind,
      currency === null ? value : `${currency} ${value}`,
    ]),
  );

describe('an amount of money', () => {
  // CLDR 46 number patterns: en, de, fr (narrow no-break space), de-CH; by hand.
  it.each([
    ['£1,284.60', '1284.60', 'GBP'],
    ['1.284,60 €', '1284.60', 'EUR'],
    ['1\u202f284,60 EUR', '1284.60', 'EUR'],
    ['CHF 1’284.60', '1284.60', 'CHF'],
    ['USD 12', '12.00', 'USD'],
    ['(£40.00)', '-40.00', 'GBP'],
    ['-40.00', '-40.00', null],
    ['1,234,567.89', '1234567.89', null],
    ['0.50', '0.50', null],
  ])('%s', (text, value, currency) => {
    expect(readMoney(text)).toMatchObject({ value, currency });
  });

  it.each(['1,28,4.60', '1,284,60', '12,345,67,8', '£', 'twelve', '1.284.60', '(12.00', 'ABC 12.00', '£12 EUR', ''])(
    '%s is none',
    (text) => {
      expect(readMoney(text)).toBeNull();
    },
  );

  it('is read back however it is written', () => {
    const cents = fc.integer({ min: 0, max: 99_999_999_99 });
    fc.assert(
      fc.property(cents, fc.constantFrom('en-GB', 'de-DE', 'fr-FR', 'de-CH'), (pence, locale) => {
        const form = new Intl.NumberFormat(locale, { minimumFractionDigits: 2 });
        expect(readMoney(form.format(pence / 100))?.value).toBe((pence / 100).toFixed(2));
      }),
      { seed: 7, numRuns: 300 },
    );
  });
});

describe('what a paper states', () => {
  it('is found behind its labels', () => {
    const bill = `Gull Chandlers
Invoice number: 4417
Invoice date: 3 November 2026
Due date: 3 December 2026
Rope 2 100.50 201.00
Subtotal £1,070.50
VAT £214.10
Total due £1,284.60`;
    expect(inText(bill)).toEqual({ number: '4417', day: '2026-11-03', due: '2026-12-03', amount: 'GBP 1284.60' });
  });

  it('is found below its labels, column by column', () => {
    const bill = `Invoice No.          Date                Payment due         Total
4417                 03/11/2026          03/12/2026          1,284.60`;
    expect(inText(bill)).toEqual({ number: '4417', day: '2026-11-03', due: '2026-12-03', amount: '1284.60' });
  });

  it('is not what stands by other labels', () => {
    const bill = `Order no 9921
Account number SHT17
Delivery date: 9 November 2026
Total hours 12.50
Total weight 1,240.50 kg
Bill no. B-88
Dated 3 November 2026`;
    expect(inText(bill)).toEqual({ number: 'B-88', day: '2026-11-03' });
  });

  it('is found without labels where something bears it out', () => {
    const bill = `4417
3 November 2026
1,070.50
214.10
1,284.60`;
    expect(inText(bill)).toEqual({ number: '4417', day: '2026-11-03', amount: '1284.60' });
    expect(inText(bill, 'scan001.pdf')).toEqual({ day: '2026-11-03', amount: '1284.60' });
  });

  it('is nothing where days never were and amounts have commas anywhere', () => {
    expect(inText('Invoice date 31 February 2026, total 1,28,4.60, invoice number --')).toEqual({});
    expect(inText('')).toEqual({});
  });

  it('is surer where it is borne out than where another comes near it', () => {
    const sure = (text: string, names: string) =>
      statedIn([placedLines(text)], { ...around, names }).find(({ kind }) => kind === 'number')?.sure ?? 0;
    const one = 'Invoice number 4417';
    expect(sure(one, 'Invoice 4417')).toBeGreaterThan(sure(one, 'scan'));
    expect(sure(one, 'scan')).toBeGreaterThan(sure(`${one}\nInvoice no 9921`, 'scan'));
  });

  it('says where it stands', () => {
    const [number] = statedIn([[], placedLines('x\nInvoice number 4417')], around);
    expect(number).toMatchObject({ kind: 'number', page: 2, by: 'Invoice number', words: '4417' });
    expect(number?.spot?.left).toBeCloseTo(15 * 0.005);
  });

  it('is looked for on the first pages and the last of a long paper', () => {
    const pages = [...Array.from({ length: 30 }, () => placedLines('Works')), placedLines('Total due £9.00')];
    expect(statedIn(pages, around)).toMatchObject([{ kind: 'amount', value: '9.00', page: 31 }]);
  });

  it('never takes longer than its words', () => {
    const long = placedLines('total invoice number 1,1\n'.repeat(50_000));
    const start = performance.now();
    statedIn([long], around);
    expect(performance.now() - start).toBeLessThan(3000);
  });
});

describe('labels of other trades and tongues', () => {
  // By hand: forms as bills have them. Common practice, no source.
  it.each([
    ['Inv. # GC-1042\nDeadline: 3 December 2026', { number: 'GC-1042', due: '2026-12-03' }],
    ['Invoice # 88213\nPay no later than 3 December 2026', { number: '88213', due: '2026-12-03' }],
    ['Rechnung Nr. 2026/118 vom 03.11.2026\nGesamtsumme 1.284,60 EUR', { number: '2026/118', amount: 'EUR 1284.60' }],
    ['FACTURE N° : 2026-77\nÀ régler avant le 03/12/2026', { number: '2026-77', due: '2026-12-03' }],
    ['Número: F-2211\nVencimiento: 03/12/2026', { number: 'F-2211', due: '2026-12-03' }],
  ])('%s', (text, stated) => {
    expect(inText(text, '')).toMatchObject(stated);
  });

  it('a reference of the library’s own is not the number of a bill', () => {
    const page = [placedLines('Invoice S-017\nOur invoice number is GC-1042')];
    const numbers = (references: readonly string[]) =>
      statedIn(page, { ...around, names: '', references: new Set(references.map(searchKey)) }).flatMap(
        ({ kind, value }) => (kind === 'number' ? [value] : []),
      );
    expect(numbers(['S-017'])).toEqual(['GC-1042']);
    expect(
      statedIn([placedLines('For S-017')], { ...around, names: 'S-017', references: new Set([searchKey('S-017')]) }),
    ).toEqual([]);
  });

  it('a year in a name numbers nothing', () => {
    expect(inText('Statement, October 2026', 'Statement October 2026.pdf')).not.toHaveProperty('number');
    expect(inText('Invoice number 2026', '')).toMatchObject({ number: '2026' });
  });
});

it('nothing is told to be certain', () => {
  expect([1, 0.996, 0.984, 0.5, 0].map(percentSure)).toEqual([99, 99, 98, 50, 1]);
});
