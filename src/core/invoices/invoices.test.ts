import { invoiceFaults } from './check';
import { invoiceMarkup } from './markup';
import { readInvoice } from './read';
import { differingOnPage, statedByData } from './stated';
import { asWritten } from '../../../tests/writtenBill';

describe.each(['UBL', 'CII'] as const)('a bill that an independent library writes as %s', (format) => {
  it('is read with all that it states, and its sums come out', async () => {
    const invoice = readInvoice(await asWritten(format));
    expect(invoice).toEqual({
      ...{ syntax: format, isCredit: false, number: 'INV-4417', day: '2026-11-03', due: '2026-12-03', currency: 'EUR' },
      seller: { name: 'Gull & Sons', taxNumber: 'DE136695976', account: 'DE89370400440532013000' },
      ...{ buyer: 'Trust & Sons', reference: 'S-017', period: '2026-10-01/2026-10-31' },
      lines: [
        { name: 'Rope', quantity: '3', net: 30_150 },
        { name: 'Chain', quantity: '2', net: 76_900 },
      ],
      taxes: [{ rate: 20, base: 107_050, amount: 21_410 }],
      totals: {
        ...{ lines: 107_050, allowances: 0, charges: 0, net: 107_050, tax: 21_410, gross: 128_460 },
        ...{ paid: 8460, rounding: 0, payable: 120_000 },
      },
    });
    expect(invoice && invoiceFaults(invoice)).toEqual([]);
  });

  it('says which sums do not come out once an amount is changed', async () => {
    const xml = await asWritten(format);
    const rulesOf = (changed: string) => {
      const invoice = readInvoice(changed);
      return invoice ? invoiceFaults(invoice).map(({ rule }) => rule) : null;
    };
    expect(rulesOf(xml.replace('769.00', '770.00'))).toEqual(['BR-CO-10']);
    expect(rulesOf(xml.replace('1200.00', '1200.10'))).toEqual(['BR-CO-16']);
    expect(rulesOf(xml.replaceAll('214.10', '214.20'))).toEqual(['BR-CO-15']);
  });
});

describe('a bill as data', () => {
  const read = async (change: (xml: string) => string = (xml) => xml) => {
    const invoice = readInvoice(change(await asWritten('UBL')));
    if (!invoice) throw new Error('It is no bill');
    return invoice;
  };

  it('states its number, days and its total with tax', async () => {
    expect(statedByData(await read()).map(({ kind, value }) => [kind, value])).toEqual([
      ['number', 'INV-4417'],
      ['day', '2026-11-03'],
      ['due', '2026-12-03'],
      ['amount', '1284.60'],
      ['period', '2026-10-01/2026-10-31'],
    ]);
  });

  it('is told where its pages read otherwise, if they are surely read', async () => {
    const data = statedByData(await read());
    const onPage = (value: string, sure: number) => [
      { ...data[3], value, words: `£${value}`, sure } as (typeof data)[number],
    ];
    expect(differingOnPage(data, onPage('9284.60', 0.95))).toEqual([
      'The page reads “£9284.60” as its amount, and its data has 1284.60.',
    ]);
    expect(differingOnPage(data, onPage('9284.60', 0.5))).toEqual([]);
    expect(differingOnPage(data, onPage('1284.60', 0.95))).toEqual([]);
  });

  it('is laid out to be read, with what does not come out, and nothing in it is markup', async () => {
    const markup = invoiceMarkup(
      await read((xml) => xml.replace('1200.00', '1300.00').replace('Rope', '&lt;b&gt;Rope')),
    );
    expect(markup).toContain('<h1>Invoice INV-4417</h1>');
    expect(markup).toContain(
      'Does not come out (BR-CO-16):</strong> What is to be paid: EUR 1300.00 is stated, and it comes to EUR 1200.00.',
    );
    expect(markup).toContain('&#60;b&#62;Rope');
    expect(markup).toContain('<td align="right">EUR 301.50</td>');
  });
});

describe('what is no bill', () => {
  it.each([
    '',
    'plain words',
    '<note><to>x</to></note>',
    '<Invoice/>',
    '<Invoice><ID>1</ID><IssueDate>2026-02-31</IssueDate><DocumentCurrencyCode>EUR</DocumentCurrencyCode></Invoice>',
    '<Invoice><ID>1</ID',
  ])('%s', (text) => {
    expect(readInvoice(text)).toBeNull();
  });

  it('is one with a document type: nothing that it defines is ever looked at', async () => {
    const xml = await asWritten('UBL');
    const bomb = '<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]>';
    expect(readInvoice(xml.replace('?>', `?>${bomb}`))).toBeNull();
  });

  it('is one whose total is no amount', async () => {
    expect(readInvoice((await asWritten('UBL')).replace('1200.00', '12,00,0'))).toBeNull();
  });
});
