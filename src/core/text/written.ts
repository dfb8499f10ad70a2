import { searchKey } from './fold';

/** A day, a month or an amount as a text writes it, and how it is known in whatever way it is written. */
export interface Written {
  /** Where it begins and how long it is, in UTF-16 units. */
  readonly index: number;
  readonly length: number;
  /** `#2026-07-14` and `#2026-07` for a day, `#2026-07` for a month, `=91700.00` for an amount: the exactest first. */
  readonly keys: readonly string[];
}

/** Languages (ISO 639-1) whose names of months are known. */
const monthLanguages = ['en', 'de', 'fr', 'es', 'it', 'nl'] as const;

/** The number of a month by its folded names, long and short, as CLDR has them. */
const monthOf = new Map<string, number>(
  monthLanguages.flatMap((language) =>
    (['long', 'short'] as const).flatMap((month) => {
      const names = new Intl.DateTimeFormat(language, { month, timeZone: 'UTC' });
      return Array.from({ length: 12 }, (_none, at): [string, number] => [
        searchKey(names.format(Date.UTC(2026, at, 1))).replace(/\./gu, ''),
        at + 1,
      ]);
    }),
  ),
);

const gap = String.raw`\.?,?\s{1,3}`;
const month = String.raw`(?<month>\p{L}{3,10})`;
const apart = { before: String.raw`(?<![\p{L}\p{N}.,/-])`, after: String.raw`(?![\p{L}\p{N}]|[.,/-]\p{N})` };

/** Day before month, as British offices write it; the year may have two digits after a slash, a hyphen or a full stop. */
const forms = [
  String.raw`(?<year>\d{4})-(?<m>\d{2})-(?<day>\d{2})`,
  String.raw`(?<day>\d{1,2})(?<joint>[/.-])(?<m>\d{1,2})\k<joint>(?<year>\d{4}|\d{2})`,
  String.raw`(?<day>\d{1,2})(?:st|nd|rd|th|er)?${gap}(?:of\s|de\s)?${month}${gap}(?:de\s)?(?<year>\d{4})`,
  String.raw`${month}${gap}(?<day>\d{1,2})(?:st|nd|rd|th)?${gap}(?<year>\d{4})`,
  String.raw`${month}${gap}(?:de\s)?(?<year>\d{4})`,
].map((form) => new RegExp(`${apart.before}${form}${apart.after}`, 'giu'));

/** Two digits up to this are of this century, as in POSIX (`%y` of strptime). */
const lastTwoDigits = 69;

function dayKeys(groups: Readonly<Record<string, string | undefined>>): string[] {
  const { year = '', day, m } = groups;
  const whole = year.length === 2 ? Number(year) + (Number(year) <= lastTwoDigits ? 2000 : 1900) : Number(year);
  const number = m === undefined ? monthOf.get(searchKey(groups['month'] ?? '')) : Number(m);
  if (number === undefined || number < 1 || number > 12) return [];
  const ofMonth = `#${String(whole).padStart(4, '0')}-${String(number).padStart(2, '0')}`;
  if (day === undefined) return [ofMonth];
  const last = new Date(Date.UTC(whole, number, 0)).getUTCDate();
  return Number(day) < 1 || Number(day) > last ? [] : [`${ofMonth}-${day.padStart(2, '0')}`, ofMonth];
}

/** An amount: with a currency before or behind it, with thousands apart, or with two decimals. */
const amount =
  /(?<![\p{L}\p{N}.,/-])(?<before>[£€$]|EUR|GBP|USD|CHF)?\s?(?<number>\d{1,3}(?:[ .,’'\u00a0\u202f]\d{3})+(?:[.,]\d{2})?|\d{1,12}(?:[.,]\d{2})?)(?:\s?(?<after>[£€$]|EUR|GBP|USD|CHF))?(?![\p{L}\p{N}]|[.,/:-]\p{N})/gu;

function amountKey(groups: Readonly<Record<string, string | undefined>>): string | null {
  const { number = '', before, after } = groups;
  if (before === undefined && after === undefined && !/\D/u.test(number)) return null;
  const decimals = /[.,](?<cents>\d{2})$/u.exec(number)?.groups?.['cents'];
  const whole = (decimals === undefined ? number : number.slice(0, -3)).replace(/\D/gu, '');
  return `=${BigInt(whole)}.${decimals ?? '00'}`;
}

/** The days, months and amounts that a text writes, in its order. */
export function writtenIn(text: string): Written[] {
  // What has no digit writes none of them.
  if (!/\d/u.test(text)) return [];
  const all: Written[] = [];
  for (const form of forms)
    for (const match of text.matchAll(form)) {
      const keys = dayKeys(match.groups ?? {});
      if (keys.length > 0) all.push({ index: match.index, length: match[0].length, keys });
    }
  for (const match of text.matchAll(amount)) {
    const key = amountKey(match.groups ?? {});
    const blanks = match[0].length - match[0].trimStart().length;
    if (key !== null) all.push({ index: match.index + blanks, length: match[0].length - blanks, keys: [key] });
  }
  // Of those that overlap the one that begins first holds: `10 July 2026` is a day, not also a month.
  let end = 0;
  return all
    .sort((one, other) => one.index - other.index)
    .filter(({ index, length }) => {
      if (index < end) return false;
      end = index + length;
      return true;
    });
}

/** The same day or amount as a number or a span: what a value of a column is compared with. */
export const asDayPeriod = (key: string): string | null => (key.startsWith('#') ? key.slice(1) : null);
/** The amount that a key stands for; null for a day. */
export const asAmount = (key: string): number | null => (key.startsWith('=') ? Number(key.slice(1)) : null);
