import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';

/**
 * A reference pattern: plain text with one run of `#`, each a digit of a running number (`T-###`), and
 * `{yy}` for the last two digits of the filing year's first year (`W-{yy}-##`).
 */
export interface ReferencePattern {
  readonly before: string;
  readonly digits: number;
  readonly after: string;
}

const patternShape = /^(?<before>[^#]*)(?<digits>#+)(?<after>[^#]*)$/u;
const allowed = /^[\p{L}\p{N} ./{}#_-]*$/u;

/** Reads a pattern for a filing year; refuses text without exactly one run of `#`, or with unknown parts. */
export function readPattern(raw: string, startYear: number): Result<ReferencePattern> {
  const text = raw.trim();
  const field = 'referencePattern';
  if ([...text].length > 40) return bad(invalidField(field, 'The pattern is too long; at most 40 characters fit.'));
  if (!allowed.test(text)) {
    return bad(invalidField(field, 'A pattern takes letters, digits, blanks and - . / _ besides # and {yy}.'));
  }
  const filled = text.replaceAll('{yy}', String(startYear % 100).padStart(2, '0'));
  if (/[{}]/u.test(filled)) return bad(invalidField(field, 'The only part in braces a pattern knows is {yy}.'));
  const parts = patternShape.exec(filled)?.groups;
  if (!parts) {
    return bad(invalidField(field, 'A pattern needs one run of # for its number, as in T-###.'));
  }
  const { before = '', digits = '', after = '' } = parts;
  if (digits.length > 9) return bad(invalidField(field, 'A number of at most nine digits fits.'));
  return good({ before, digits: digits.length, after });
}

/** A reference by its pattern, for this running number. */
export const formatReference = (pattern: ReferencePattern, number: number): string =>
  `${pattern.before}${String(number).padStart(pattern.digits, '0')}${pattern.after}`;

/** The number of a reference under a pattern; null if it does not follow the pattern. */
export function numberIn(pattern: ReferencePattern, reference: string): number | null {
  const { before, after, digits } = pattern;
  if (reference.length < before.length + after.length + digits) return null;
  if (!reference.startsWith(before) || !reference.endsWith(after)) return null;
  const middle = reference.slice(before.length, reference.length - after.length);
  return /^\d{1,15}$/u.test(middle) ? Number(middle) : null;
}

/**
 * The next free reference: one above the highest in use, so that the number of a removed dossier is not given to another.
 * Uses more digits than the pattern if necessary.
 */
export function nextReference(pattern: ReferencePattern, taken: readonly string[]): string {
  const highest = taken.reduce((most, reference) => Math.max(most, numberIn(pattern, reference) ?? 0), 0);
  return formatReference(pattern, highest + 1);
}

const referenceShape = /^[\p{L}\p{N}][\p{L}\p{N} ./_-]{0,39}$/u;

/** Reads a typed reference: 1 to 40 letters, digits, spaces and `- . / _`. */
export function readReference(raw: string): Result<string> {
  const text = raw.normalize('NFC').trim();
  if (referenceShape.test(text)) return good(text);
  return bad(invalidField('reference', 'A reference takes 1 to 40 letters, digits, blanks and - . / _.'));
}
