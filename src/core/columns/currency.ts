import { code as lookUp } from 'currency-codes';

/**
 * How many digits an amount of a currency has after its point, by its ISO 4217 code: the standard's minor unit. Null for
 * a code that is none. (Intl cannot be asked: CLDR gives the digits in use, for some currencies fewer than the standard's.)
 */
export const currencyDecimals = (code: string): number | null => lookUp(code)?.digits ?? null;

/** The currency's sign as Britain writes it: `£`, `US$`; the code itself where it has none. */
export const currencySign = (currency: string): string =>
  currency === ''
    ? ''
    : (new Intl.NumberFormat('en-GB', { style: 'currency', currency })
        .formatToParts(0)
        .find((part) => part.type === 'currency')?.value ?? currency);
