import { InvoiceService, type Invoice as Written } from '@e-invoice-eu/core';

/**
 * A bill as the independent library @e-invoice-eu/core takes it. It writes both syntaxes of it, by its own mapping of EN 16931. By hand: 3 × 100.50
 * + 2 × 384.50 = 301.50 + 769.00 = 1070.50, of which 20 % are 214.10; together 1284.60, of which 84.60 are paid.
 */
const line = (id: string, name: string, quantity: string, price: string, net: string) => ({
  'cbc:ID': id,
  'cbc:InvoicedQuantity': quantity,
  'cbc:InvoicedQuantity@unitCode': 'C62',
  'cbc:LineExtensionAmount': net,
  'cbc:LineExtensionAmount@currencyID': 'EUR',
  'cac:Item': {
    'cbc:Name': name,
    'cac:ClassifiedTaxCategory': { 'cbc:ID': 'S', 'cbc:Percent': '20', 'cac:TaxScheme': { 'cbc:ID': 'VAT' } },
  },
  'cac:Price': { 'cbc:PriceAmount': price, 'cbc:PriceAmount@currencyID': 'EUR' },
});
const inTax = { 'cbc:CompanyID': 'DE136695976', 'cac:TaxScheme': { 'cbc:ID': 'VAT' } };
const party = (name: string, taxScheme: object) => ({
  'cac:Party': {
    'cbc:EndpointID': '1234567',
    'cbc:EndpointID@schemeID': '0088',
    'cac:PartyName': { 'cbc:Name': name },
    'cac:PostalAddress': {
      'cbc:CityName': 'Quay',
      'cbc:PostalZone': '1010',
      'cac:Country': { 'cbc:IdentificationCode': 'DE' },
    },
    'cac:PartyTaxScheme': taxScheme,
    'cac:PartyLegalEntity': { 'cbc:RegistrationName': `${name} & Sons` },
  },
});
const money = (name: string, amount: string) => ({ [`cbc:${name}`]: amount, [`cbc:${name}@currencyID`]: 'EUR' });
const written = {
  'ubl:Invoice': {
    'cbc:CustomizationID': 'urn:cen.eu:en16931:2017',
    'cbc:ID': 'INV-4417',
    'cbc:IssueDate': '2026-11-03',
    'cbc:DueDate': '2026-12-03',
    'cbc:InvoiceTypeCode': '380',
    'cbc:DocumentCurrencyCode': 'EUR',
    'cbc:BuyerReference': 'S-017',
    'cac:InvoicePeriod': { 'cbc:StartDate': '2026-10-01', 'cbc:EndDate': '2026-10-31' },
    'cac:AccountingSupplierParty': party('Gull', [inTax]),
    'cac:AccountingCustomerParty': party('Trust', inTax),
    'cac:PaymentMeans': [
      { 'cbc:PaymentMeansCode': '58', 'cac:PayeeFinancialAccount': { 'cbc:ID': 'DE89370400440532013000' } },
    ],
    'cac:TaxTotal': [
      {
        ...money('TaxAmount', '214.10'),
        'cac:TaxSubtotal': [
          {
            ...money('TaxableAmount', '1070.50'),
            ...money('TaxAmount', '214.10'),
            'cac:TaxCategory': { 'cbc:ID': 'S', 'cbc:Percent': '20', 'cac:TaxScheme': { 'cbc:ID': 'VAT' } },
          },
        ],
      },
    ],
    'cac:LegalMonetaryTotal': {
      ...money('LineExtensionAmount', '1070.50'),
      ...money('TaxExclusiveAmount', '1070.50'),
      ...money('TaxInclusiveAmount', '1284.60'),
      ...money('PrepaidAmount', '84.60'),
      ...money('PayableAmount', '1200.00'),
    },
    'cac:InvoiceLine': [line('1', 'Rope', '3', '100.50', '301.50'), line('2', 'Chain', '2', '384.50', '769.00')],
  },
};
const quiet = { log: () => undefined, warn: () => undefined, error: () => undefined };

/** It as XML. */
export const asWritten = async (format: 'UBL' | 'CII'): Promise<string> =>
  String(await new InvoiceService(quiet).generate(written as unknown as Written, { format, lang: 'en' }));

/** It inside of a PDF (Factur-X), whose pages are those of another. */
export async function insidePdf(pdf: Buffer): Promise<Buffer> {
  const file = { buffer: pdf, filename: 'bill.pdf', mimetype: 'application/pdf' };
  const options = { format: 'Factur-X-EN16931', lang: 'en', pdf: file };
  return Buffer.from((await new InvoiceService(quiet).generate(written as unknown as Written, options)) as Uint8Array);
}
