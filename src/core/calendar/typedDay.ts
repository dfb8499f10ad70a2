import { format, isValid, parse } from 'date-fns';
import { enGB } from 'date-fns/locale';
import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';

/**
 * Accepted forms of a day, day before month (common practice in Britain, and CLDR's en-GB short and medium forms); the
 * first is ISO 8601-1, 5.2.2.1. Two-digit years up to 69 are of this century, as in POSIX (`%y` of strptime).
 */
const forms = [
  'yyyy-MM-dd',
  'd MMM yyyy',
  'd MMMM yyyy',
  'd-MMM-yyyy',
  'd MMM yy',
  'd MMMM yy',
  'd/M/yyyy',
  'd.M.yyyy',
  'd-M-yyyy',
  'd/M/yy',
  'd.M.yy',
  'd-M-yy',
  'MMMM d yyyy',
  'MMM d yyyy',
  'yyyy/M/d',
] as const;

/** The reference date that date-fns needs for two-digit years, together with `pivot`. */
const reference = new Date(2000, 0, 1);

/** Reads a day in any common form into ISO 8601 (`2026-07-14`). Refuses days that do not exist. */
export function readDay(raw: string): Result<string> {
  const text = raw
    .trim()
    .replace(/^(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*,?\s+/iu, '')
    .replace(/(?<=\d)(?:st|nd|rd|th)\b/iu, '')
    .replace(/\bsept\b/iu, 'Sep')
    .replace(/,/gu, ' ')
    .replace(/\s+/gu, ' ');
  for (const form of forms) {
    const read = parse(text, form, reference, { locale: enGB });
    if (isValid(read) && read.getFullYear() > 0 && matches(text, form))
      return good(format(withCentury(read, form), 'yyyy-MM-dd'));
  }
  const wrongDay =
    /^(?<day>\d{1,2})[ ./-](?<month>\p{L}+|\d{1,2})[ ./-](?<year>\d{2,4})$/u.test(text) ||
    /^\d{4}-\d{2}-\d{2}$/u.test(text);
  return bad(
    invalidField(
      'value',
      wrongDay ? `There is no day ${raw.trim()}.` : `“${raw.trim()}” is not a day: 14 Jul 2026 is the form.`,
    ),
  );
}

/** date-fns takes `26` for a four-digit year; we do not. */
const matches = (text: string, form: string): boolean => {
  const years = form.includes('yyyy') ? /\d{4}/u : /(?<!\d)\d{2}$/u;
  return years.test(text);
};

function withCentury(read: Date, form: string): Date {
  if (form.includes('yyyy')) return read;
  const two = read.getFullYear() % 100;
  const whole = new Date(read);
  whole.setFullYear(two <= 69 ? 2000 + two : 1900 + two);
  return whole;
}

/** A day for people: `14 Jul 2026`. */
export const writeDay = (day: string): string => {
  const read = parse(day, 'yyyy-MM-dd', reference);
  return isValid(read) ? format(read, 'd MMM yyyy') : day;
};
