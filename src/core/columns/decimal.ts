import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';

const wrong = (says: string): Result<never> => bad(invalidField('value', says));

/** Digits that a double represents exactly (IEEE 754 binary64: 15 significant decimal digits always survive). */
const mostDigits = 15;

const british = /^(?<sign>[-−–+]?)(?<whole>\d{1,3}(?:,\d{3})+|\d+)?(?:\.(?<part>\d+))?$/u;
const continental = /^[-−–+]?\d{1,3}(?:[.\u00a0 ’']\d{3})*,\d+$|^[-−–+]?\d{1,3}(?:\.\d{3}){2,}$/u;

/**
 * Reads a number in British notation (CLDR en-GB: comma between thousands, point before decimals); also accepts thin,
 * narrow and plain spaces between thousands (ISO 80000-1, 7.3.1). Brackets make an amount negative (common practice in
 * accounting, no source). Never rounds: refuses more decimals than fit.
 */
export function readDecimal(raw: string, decimals: number | null): Result<number> {
  const bracketed = /^\((?<inner>[^()]+)\)$/u.exec(raw.trim())?.groups?.['inner'];
  const text = (bracketed === undefined ? raw.trim() : `-${bracketed.trim()}`).replace(
    /(?<=\d)[ \u00a0\u2009\u202f](?=\d{3}(?:\D|$))/gu,
    '',
  );
  const parts = british.exec(text)?.groups;
  if (!parts || (parts['whole'] === undefined && parts['part'] === undefined)) {
    if (continental.test(text)) return wrong(`“${raw}” has its comma where a point belongs: write ${asBritish(text)}.`);
    return wrong(`“${raw}” is not a number: 1,234.50 is the form.`);
  }
  const { sign = '', whole = '0', part = '' } = parts;
  if (decimals !== null && part.replace(/0+$/u, '').length > decimals)
    return wrong(
      decimals === 0
        ? `“${raw}” has decimals; only whole numbers fit here.`
        : `“${raw}” has more than ${decimals} decimals.`,
    );
  const digits = `${whole.replaceAll(',', '')}.${part}`;
  if (
    digits
      .replace(/^[0.]+/u, '')
      .replace('.', '')
      .replace(/0+$/u, '').length > mostDigits
  )
    return wrong(`“${raw}” has more than ${mostDigits} digits; it would not be kept exactly.`);
  const value = Number(digits);
  return good(value === 0 ? 0 : sign === '' || sign === '+' ? value : -value);
}

function asBritish(text: string): string {
  const comma = text.lastIndexOf(',');
  const whole = (comma === -1 ? text : text.slice(0, comma)).replace(/[^\d-]/gu, '');
  const grouped = whole.replace(/\B(?=(?:\d{3})+$)/gu, ',');
  return comma === -1 ? grouped : `${grouped}.${text.slice(comma + 1)}`;
}

/** Formats a number (en-GB), with `decimals` digits after the point if given. */
export function writeDecimal(value: number, decimals: number | null): string {
  return new Intl.NumberFormat('en-GB', {
    minimumFractionDigits: decimals ?? 0,
    maximumFractionDigits: decimals ?? 15,
  }).format(value);
}
