import { remembered } from '../collections/remembered';
import type { Lexicon } from './lexicon';
import { currencyDecimals } from './currency';
import { writeDay } from '../calendar/typedDay';
import { writeDecimal } from './decimal';
import type { Column, Value } from './model';
import { choiceSign } from './read';

/** Names for ids in values; undefined for those the reader may not know of. */
export interface Names {
  readonly terms: (listId: string) => Lexicon | undefined;
  readonly named: (id: string) => string | undefined;
}

/** Shown in place of a value that refers to something hidden from the reader. */
export const hiddenWords = 'not open to you';

const choiceNames = (column: Column, ids: readonly string[], names: Names): string[] => {
  const lexicon = column.listId === null ? undefined : names.terms(column.listId);
  return ids.flatMap((id) => lexicon?.term(id)?.name ?? []);
};

/** Currencies are few, and making a formatter takes longer than all else of a cell. */
const moneyIn = remembered((currency: string) => {
  const decimals = currencyDecimals(currency) ?? 2;
  return new Intl.NumberFormat('en-GB', {
    style: 'currency',
    currency,
    minimumFractionDigits: decimals,
    maximumFractionDigits: decimals,
  });
});

/** A value for display: `£1,234.50`, `14 Jul 2026`, `Finance, Audit`. */
export function inWords(column: Column, value: Value | null | undefined, names: Names): string {
  if (value === null || value === undefined) return '';
  switch (column.type) {
    case 'choice':
      return choiceNames(column, [String(value)], names).join('');
    case 'choices':
      return Array.isArray(value) ? choiceNames(column, value, names).join(', ') : '';
    case 'number':
      return `${writeDecimal(Number(value), column.decimals)}${column.unit === '' ? '' : ` ${column.unit}`}`;
    case 'amount':
      return moneyIn(column.currency).format(Number(value));
    case 'date':
      return writeDay(String(value));
    case 'yesNo':
      return value === true ? 'Yes' : 'No';
    case 'person':
    case 'dossier':
    case 'document':
      return names.named(String(value)) ?? hiddenWords;
    case 'text':
    case 'longText':
      return String(value);
  }
}

/**
 * A value as text that reads back to the same value, for editing cells, CSV and conversion: choices with their full path
 * where the name alone is ambiguous, days in ISO 8601, plain numbers.
 */
export function asText(column: Column, value: Value | null | undefined, names: Names): string {
  if (value === null || value === undefined) return '';
  switch (column.type) {
    case 'choice':
    case 'choices': {
      const ids = Array.isArray(value) ? (value as readonly string[]) : [String(value)];
      return ids.map((id) => leadingWords(column, id, names)).join(`${choiceSign} `);
    }
    case 'number':
    case 'amount':
      return plainNumber(Number(value));
    case 'date':
      return String(value);
    default:
      return inWords(column, value, names);
  }
}

function leadingWords(column: Column, id: string, names: Names): string {
  const lexicon = column.listId === null ? undefined : names.terms(column.listId);
  const term = lexicon?.term(id);
  if (!lexicon || !term) return '';
  return lexicon.idOf(term.name) === id ? term.name : lexicon.wayTo(id);
}

/** The shortest decimal notation that reads back to the same double, never with an exponent (people do not read `1e21`). */
const plainNumber = (value: number): string =>
  String(value).includes('e')
    ? new Intl.NumberFormat('en-GB', { useGrouping: false, maximumFractionDigits: 20 }).format(value)
    : String(value);
