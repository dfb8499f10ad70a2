import { isValidIBAN } from 'ibantools';
import { stdnum } from 'stdnum';

/** A number that identifies who sent a paper. */
export interface Identifier {
  readonly kind: 'bank' | 'tax';
  /** Without blanks, with the letters of its country: `GB82WEST12345698765432`. */
  readonly value: string;
}

interface Checked {
  validate(value: string): { readonly isValid: boolean };
}

/** What checks the VAT number of a country, by the letters before it (Directive 2006/112/EC, article 215; Greece has EL). */
const taxOf: Readonly<Record<string, Checked | undefined>> = {
  ...{ AT: stdnum.AT?.['uid'], BE: stdnum.BE?.['vat'], BG: stdnum.BG?.['vat'], CY: stdnum.CY?.['vat'] },
  ...{ CZ: stdnum.CZ?.['dic'], DE: stdnum.DE?.['vat'], DK: stdnum.DK?.['cvr'], EE: stdnum.EE?.['kmkr'] },
  ...{ EL: stdnum.GR?.['vat'], ES: stdnum.ES?.['nif'], FI: stdnum.FI?.['alv'], FR: stdnum.FR?.['tva'] },
  ...{ GB: stdnum.GB?.['vat'], XI: stdnum.GB?.['vat'], HR: stdnum.HR?.['oib'], HU: stdnum.HU?.['anum'] },
  ...{ IE: stdnum.IE?.['vat'], IT: stdnum.IT?.['iva'], LT: stdnum.LT?.['pvm'], LU: stdnum.LU?.['tva'] },
  ...{ LV: stdnum.LV?.['pvn'], MT: stdnum.MT?.['vat'], NL: stdnum.NL?.['btw'], PL: stdnum.PL?.['nip'] },
  ...{ PT: stdnum.PT?.['nif'], RO: stdnum.RO?.['cui'], SE: stdnum.SE?.['vat'], SI: stdnum.SI?.['ddv'] },
  ...{ SK: stdnum.SK?.['dph'], CH: stdnum.CH?.['vat'], NO: stdnum.NO?.['mva'] },
};

/** So many are told of a text at most: more are a list of many, and say nothing of its sender. */
const mostTold = 6;
/** So many places where one may begin are looked at. */
const mostLooked = 2000;
/** Letters of a country, two signs, then groups: as IBANs (ISO 13616-1) and VAT numbers are written, with blanks or without. */
const started = /(?<![\p{L}\p{N}])[A-Z]{2}[ .-]?[0-9A-Z](?:[ .-]?[0-9A-Z]){5,32}/gu;
const blanks = /[ .-]/gu;

/**
 * The bank accounts and tax numbers that a text names and whose check digits are right (IBAN: ISO 13616 and ISO 7064, MOD 97-10;
 * VAT: what each country has published), each once, in the order of the text.
 */
export function identifiersIn(text: string): Identifier[] {
  const found = new Map<string, Identifier>();
  let looked = 0;
  for (const [match] of text.matchAll(started)) {
    if (found.size >= mostTold || looked >= mostLooked) break;
    looked += 1;
    const each = longestIn(match);
    if (each) found.set(each.value, each);
  }
  return [...found.values()];
}

/** The longest identifier that a run of groups begins with: words may follow it. */
function longestIn(run: string): Identifier | null {
  const ends = [...run.matchAll(/[0-9A-Z](?=[ .-]|$)/gu)].map(({ index }) => index + 1).reverse();
  for (const end of ends) {
    const value = run.slice(0, end).replaceAll(blanks, '');
    if (value.length >= 15 && isValidIBAN(value)) return { kind: 'bank', value };
    const tax = taxOf[value.slice(0, 2)];
    if (tax && value.length <= 16 && /\d/u.test(value) && isTax(tax, value)) return { kind: 'tax', value };
  }
  return null;
}

const isTax = (tax: Checked, value: string): boolean =>
  tax.validate(value.slice(2)).isValid || tax.validate(value).isValid;

/** The same for what is written with blanks or without: for comparison with what stands in a dossier’s details. */
export const bareIdentifier = (text: string): string => text.toUpperCase().replaceAll(blanks, '');
