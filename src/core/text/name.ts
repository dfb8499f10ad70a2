import { z } from 'zod';
import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';

/** The most characters of a name. */
export const nameMaxLength = 200;

/**
 * Characters not allowed in names: controls (Cc), lone surrogates (Cs), line and paragraph separators, and the
 * bidirectional overrides and isolates of Unicode UAX #9, which make a name read as another. Right-to-left letters and
 * the joiners in emoji are allowed.
 */
const unwelcome = /[\p{Cc}\p{Cs}\u2028\u2029\u202A-\u202E\u2066-\u2069]/u;

/** Invisible characters: a name with nothing else looks empty. */
const invisible = /[\s\p{Cf}\u115F\u1160\u3164\uFFA0\u2800]/gu;

/**
 * Reads the name of a place or the title of a paper: NFC, trimmed, 1 to 200 characters (code points). Allows `..` and
 * slashes, since names are never used as paths; refuses only names that could not be displayed or distinguished.
 */
export function readName(raw: string, path = 'name'): Result<string> {
  const name = raw.normalize('NFC').trim();
  if (name.replace(invisible, '') === '')
    return bad(invalidField(path, 'A name is needed: at least one visible letter.'));
  if (unwelcome.test(name)) {
    return bad(invalidField(path, 'The name holds a character that cannot be shown. Type it again without it.'));
  }
  const length = [...name].length;
  if (length > nameMaxLength) {
    return bad(invalidField(path, `The name has ${length} characters; at most ${nameMaxLength} fit. Shorten it.`));
  }
  return good(name);
}

/** `readName` as a Zod schema, for the edge. */
export const nameSchema = z
  .string()
  .max(20_000, `The name is far too long; at most ${nameMaxLength} characters fit. Shorten it.`)
  .transform((raw, context) => {
    const read = readName(raw);
    if (read.ok) return read.value;
    context.addIssue({ code: 'custom', message: read.issue.says });
    return z.NEVER;
  });
