import { code as lookUp } from 'currency-codes';

/**
 * Decimal digits of a currency, by its ISO 4217 code: the standard's minor unit. Null for an unknown code. (Not from
 * Intl: CLDR has the digits in use, for some currencies fewer than the standard.)
 */
export const currencyDecimals = (code: string): number | null => lookUp(code)?.digits ?? null;

/** The currency's symbol in British usage: `£`, `US$`; the code if it has none. */
export const currencySign = (currency: string): string =>
  currency === ''
    ? ''
    : (new Intl.NumberFormat('en-GB', { style: 'currency', currency })
        .formatToParts(0)
        .find((part) => part.type === 'currency')?.value ?? currency);
