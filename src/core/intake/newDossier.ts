import type { DetailField } from '../dossiers/details';
import { searchKey } from '../text/fold';

/** What an arrival says of a sender whom the library does not know. */
export interface Newcomer {
  readonly name: string;
  readonly address: string;
  /** Bank accounts and tax numbers that it names, whose check digits are right. */
  readonly identifiers: readonly string[];
}

/** ISO 13616: a country, two check digits, and up to thirty letters and digits. */
const bankAccount = /^[A-Z]{2}\d{2}[A-Z0-9]{11,30}$/u;
const accountNames = /\b(?:bank|iban|account)\b/u;
const taxNames = /\b(?:vat|tax)\b/u;

/** The details of a new dossier, as far as what arrived says them, by the ids of their fields. */
export function detailsOf(
  fields: readonly Pick<DetailField, 'id' | 'name' | 'kind'>[],
  { address, identifiers }: Newcomer,
): Readonly<Record<string, string>> {
  const account = identifiers.find((each) => bankAccount.test(each));
  const tax = identifiers.find((each) => !bankAccount.test(each));
  const mail = fields.find(({ kind }) => kind === 'email');
  const named = (names: RegExp) => fields.find(({ kind, name }) => kind === 'text' && names.test(searchKey(name)));
  const [accountField, taxField] = [named(accountNames), named(taxNames)];
  return {
    ...(mail && address !== '' ? { [mail.id]: address } : {}),
    ...(accountField && account !== undefined ? { [accountField.id]: account } : {}),
    ...(taxField && taxField !== accountField && tax !== undefined ? { [taxField.id]: tax } : {}),
  };
}
