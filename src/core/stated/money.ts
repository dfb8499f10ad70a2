import { code as currencyOf } from 'currency-codes';

/** An amount as a text writes it. */
export interface Money {
  /** Digits with a point before the decimals: `1284.60`; negative in brackets or behind a minus. */
  readonly value: string;
  /** ISO 4217; null where none stands by it. */
  readonly currency: string | null;
  /** It has the two decimals that bills have. */
  readonly exact: boolean;
}

/** The signs that stand for one currency in most papers of Europe (common practice, no source). */
const signs: Readonly<Record<string, string>> = { '£': 'GBP', '€': 'EUR', $: 'USD' };

const sign = String.raw`[£€$]|[A-Z]{3}`;
const whole = new RegExp(
  String.raw`^(?<open>\()?(?<minus>[-−–])?(?:(?<before>${sign})\s?)?(?<minusToo>[-−–])?(?<number>\d[\d .,’'\u00a0\u202f]*)(?:\s?(?<after>${sign}))?(?<close>\))?$`,
  'u',
);
/** Thousands apart by one sign throughout, decimals by another (CLDR: the forms of en, de, fr, de-CH). */
const grouped =
  /^(?<first>\d{1,3})(?<groups>(?<apart>[ .,’'\u00a0\u202f])\d{3}(?:\k<apart>\d{3})*)(?:(?<point>[.,])(?<cents>\d{2}))?$/u;
const plain = /^(?<first>\d{1,12})(?:[.,](?<cents>\d{2}))?$/u;

/** Reads an amount of money; null for what is none, such as one with commas where none belong: `1,28,4.60`. */
export function readMoney(text: string): Money | null {
  const { open, close, minus, minusToo, before, after, number = '' } = whole.exec(text.trim())?.groups ?? {};
  if (number === '' || (open === undefined) !== (close === undefined)) return null;
  const named = [before, after].filter((each) => each !== undefined);
  const currency = named.map((each) => signs[each] ?? currencyOf(each)?.code ?? null);
  if (named.length > 1 || currency.includes(null)) return null;
  const bare = number.trim();
  const { first, groups = '', apart, point, cents } = grouped.exec(bare)?.groups ?? plain.exec(bare)?.groups ?? {};
  if (first === undefined || (apart !== undefined && apart === point)) return null;
  const digits = `${first}${groups.replaceAll(/\D/gu, '')}`.replace(/^0+(?=\d)/u, '');
  const isNegative = open !== undefined || minus !== undefined || minusToo !== undefined;
  return {
    value: `${isNegative ? '-' : ''}${digits}.${cents ?? '00'}`,
    currency: currency[0] ?? null,
    exact: cents !== undefined,
  };
}
