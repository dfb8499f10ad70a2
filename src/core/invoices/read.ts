import { XMLParser } from 'fast-xml-parser';
import { invoiceSchema, type Invoice } from './model';

/** An element as it is parsed: its text, or its parts by their names without prefix; attributes begin with `@`. */
type Node = string | { readonly [name: string]: Node | readonly Node[] | undefined };

const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  removeNSPrefix: true,
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: true,
});

/** Larger ones are no bills. In characters. */
const mostXml = 20_000_000;

/**
 * A bill of EN 16931 in one of its two syntaxes (CEN/TS 16931-3-2: UBL 2.1; CEN/TS 16931-3-3: UN/CEFACT Cross Industry Invoice), from
 * its XML; null for any other text, and where what every bill has to have is missing. A document type, which none of them has, is not read.
 */
export function readInvoice(xml: string): Invoice | null {
  if (xml.length > mostXml || /<!DOCTYPE/iu.test(xml)) return null;
  try {
    const tree = parser.parse(xml) as Node;
    const ubl = at(tree, 'Invoice') ?? at(tree, 'CreditNote');
    if (ubl !== undefined) return complete(fromUbl(ubl, at(tree, 'CreditNote') !== undefined));
    const cii = at(tree, 'CrossIndustryInvoice');
    return cii === undefined ? null : complete(fromCii(cii));
  } catch {
    return null;
  }
}

const complete = (invoice: Invoice): Invoice | null =>
  invoice.number !== '' && invoice.day !== '' && invoice.currency !== '' && invoiceSchema.safeParse(invoice).success
    ? invoice
    : null;

/** The first element on a path. */
function at(node: Node | undefined, ...path: readonly string[]): Node | undefined {
  let here: Node | undefined = node;
  for (const name of path) {
    const found: Node | readonly Node[] | undefined = typeof here === 'object' ? here[name] : undefined;
    here = Array.isArray(found) ? (found as readonly Node[])[0] : (found as Node | undefined);
  }
  return here;
}

/** All elements at the end of a path. */
function all(node: Node | undefined, ...path: readonly string[]): readonly Node[] {
  const last = path.at(-1) ?? '';
  const holder = at(node, ...path.slice(0, -1));
  const found = typeof holder === 'object' ? holder[last] : undefined;
  return found === undefined ? [] : Array.isArray(found) ? (found as readonly Node[]) : [found as Node];
}

function textAt(node: Node | undefined, ...path: readonly string[]): string {
  const found = at(node, ...path);
  const text = typeof found === 'object' ? found['#text'] : found;
  return typeof text === 'string' ? text.trim() : '';
}

/** Hundredths; NaN for what is no amount. */
function hundredths(text: string): number {
  const parts = /^(?<sign>-?)(?<whole>\d{1,12})(?:\.(?<part>\d{1,2})0*)?$/u.exec(text)?.groups;
  if (!parts) return Number.NaN;
  const value = Number(parts['whole']) * 100 + Number((parts['part'] ?? '').padEnd(2, '0'));
  return parts['sign'] === '-' && value !== 0 ? -value : value;
}
const amountAt = (node: Node | undefined, ...path: readonly string[]): number => hundredths(textAt(node, ...path));
/** Nothing where it is not stated. */
const amountOr = <T>(none: T, node: Node | undefined, ...path: readonly string[]): number | T =>
  textAt(node, ...path) === '' ? none : amountAt(node, ...path);
const orNull = (text: string): string | null => (text === '' ? null : text);
const rateOf = (text: string): number | null => (text === '' ? null : Number(text));

/** A day that there is, in ISO 8601; '' for any other. */
function day(text: string): string {
  const [, year, month, date] = /^(\d{4})-?(\d{2})-?(\d{2})/u.exec(text) ?? [];
  const iso = `${year}-${month}-${date}`;
  const moment = new Date(`${iso}T00:00:00Z`);
  return Number.isNaN(moment.getTime()) || moment.toISOString().slice(0, 10) !== iso ? '' : iso;
}

/** The interval of two days; null where either is none, and where the last comes before the first (BR-29). */
function interval(first: string, last: string): string | null {
  const [from, until] = [day(first), day(last)];
  return from === '' || until === '' || until < from ? null : `${from}/${until}`;
}

function fromUbl(root: Node, isCredit: boolean): Invoice {
  const party = (of: string) => at(root, of, 'Party');
  const seller = party('AccountingSupplierParty');
  const buyer = party('AccountingCustomerParty');
  const nameOf = (of: Node | undefined) =>
    textAt(of, 'PartyLegalEntity', 'RegistrationName') || textAt(of, 'PartyName', 'Name');
  const totals = at(root, 'LegalMonetaryTotal');
  const currency = textAt(root, 'DocumentCurrencyCode');
  // A second one states the tax in the currency in which it is accounted for (BT-111).
  const tax = all(root, 'TaxTotal').find((each) => currencyOf(each, 'TaxAmount') === currency) ?? at(root, 'TaxTotal');
  return {
    ...{ syntax: 'UBL', isCredit, number: textAt(root, 'ID'), day: day(textAt(root, 'IssueDate')), currency },
    due: orNull(day(textAt(root, 'DueDate') || textAt(root, 'PaymentMeans', 'PaymentDueDate'))),
    period: interval(textAt(root, 'InvoicePeriod', 'StartDate'), textAt(root, 'InvoicePeriod', 'EndDate')),
    seller: {
      name: nameOf(seller),
      taxNumber: orNull(textAt(seller, 'PartyTaxScheme', 'CompanyID')),
      account: orNull(textAt(root, 'PaymentMeans', 'PayeeFinancialAccount', 'ID')),
    },
    buyer: nameOf(buyer),
    reference: orNull(textAt(root, 'OrderReference', 'ID') || textAt(root, 'BuyerReference')),
    lines: all(root, isCredit ? 'CreditNoteLine' : 'InvoiceLine').map((line) => ({
      name: textAt(line, 'Item', 'Name'),
      quantity: textAt(line, isCredit ? 'CreditedQuantity' : 'InvoicedQuantity'),
      net: amountAt(line, 'LineExtensionAmount'),
    })),
    taxes: all(tax, 'TaxSubtotal').map((each) => ({
      rate: rateOf(textAt(each, 'TaxCategory', 'Percent')),
      base: amountAt(each, 'TaxableAmount'),
      amount: amountAt(each, 'TaxAmount'),
    })),
    totals: {
      lines: amountAt(totals, 'LineExtensionAmount'),
      allowances: amountOr(0, totals, 'AllowanceTotalAmount'),
      charges: amountOr(0, totals, 'ChargeTotalAmount'),
      net: amountAt(totals, 'TaxExclusiveAmount'),
      tax: amountOr(null, tax, 'TaxAmount'),
      gross: amountAt(totals, 'TaxInclusiveAmount'),
      paid: amountOr(0, totals, 'PrepaidAmount'),
      rounding: amountOr(0, totals, 'PayableRoundingAmount'),
      payable: amountAt(totals, 'PayableAmount'),
    },
  };
}

const currencyOf = (node: Node, name: string): string => textAt(at(node, name), '@currencyID');

/** UNTDID 1001: the codes of credit notes that EN 16931 names. */
const creditCodes = new Set(['81', '83', '261', '262', '296', '308', '381', '396', '420', '458', '532']);

function fromCii(root: Node): Invoice {
  const document = at(root, 'ExchangedDocument');
  const trade = at(root, 'SupplyChainTradeTransaction');
  const agreement = at(trade, 'ApplicableHeaderTradeAgreement');
  const settlement = at(trade, 'ApplicableHeaderTradeSettlement');
  const totals = at(settlement, 'SpecifiedTradeSettlementHeaderMonetarySummation');
  const currency = textAt(settlement, 'InvoiceCurrencyCode');
  const seller = at(agreement, 'SellerTradeParty');
  const taxNumber = all(seller, 'SpecifiedTaxRegistration')
    .map((each) => at(each, 'ID'))
    .find((each) => textAt(each, '@schemeID') === 'VA');
  const taxes = all(totals, 'TaxTotalAmount');
  const tax = taxes.find((each) => textAt(each, '@currencyID') === currency) ?? taxes[0];
  const summation = ['SpecifiedLineTradeSettlement', 'SpecifiedTradeSettlementLineMonetarySummation'] as const;
  return {
    ...{ syntax: 'CII', isCredit: creditCodes.has(textAt(document, 'TypeCode')), number: textAt(document, 'ID') },
    ...{ day: day(textAt(document, 'IssueDateTime', 'DateTimeString')), currency },
    due: orNull(day(textAt(settlement, 'SpecifiedTradePaymentTerms', 'DueDateDateTime', 'DateTimeString'))),
    period: interval(
      textAt(settlement, 'BillingSpecifiedPeriod', 'StartDateTime', 'DateTimeString'),
      textAt(settlement, 'BillingSpecifiedPeriod', 'EndDateTime', 'DateTimeString'),
    ),
    seller: {
      name: textAt(seller, 'Name'),
      taxNumber: orNull(textAt(taxNumber)),
      account: orNull(
        textAt(settlement, 'SpecifiedTradeSettlementPaymentMeans', 'PayeePartyCreditorFinancialAccount', 'IBANID'),
      ),
    },
    buyer: textAt(agreement, 'BuyerTradeParty', 'Name'),
    reference: orNull(
      textAt(agreement, 'BuyerOrderReferencedDocument', 'IssuerAssignedID') || textAt(agreement, 'BuyerReference'),
    ),
    lines: all(trade, 'IncludedSupplyChainTradeLineItem').map((line) => ({
      name: textAt(line, 'SpecifiedTradeProduct', 'Name'),
      quantity: textAt(line, 'SpecifiedLineTradeDelivery', 'BilledQuantity'),
      net: amountAt(line, ...summation, 'LineTotalAmount'),
    })),
    taxes: all(settlement, 'ApplicableTradeTax').map((each) => ({
      rate: rateOf(textAt(each, 'RateApplicablePercent')),
      base: amountAt(each, 'BasisAmount'),
      amount: amountAt(each, 'CalculatedAmount'),
    })),
    totals: {
      lines: amountAt(totals, 'LineTotalAmount'),
      allowances: amountOr(0, totals, 'AllowanceTotalAmount'),
      charges: amountOr(0, totals, 'ChargeTotalAmount'),
      net: amountAt(totals, 'TaxBasisTotalAmount'),
      tax: tax === undefined ? null : hundredths(textAt(tax)),
      gross: amountAt(totals, 'GrandTotalAmount'),
      paid: amountOr(0, totals, 'TotalPrepaidAmount'),
      rounding: amountOr(0, totals, 'RoundingAmount'),
      payable: amountAt(totals, 'DuePayableAmount'),
    },
  };
}
