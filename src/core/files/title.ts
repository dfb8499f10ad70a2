import { nameMaxLength } from '../text/name';

/** The ending of a file name in lower case without its dot (`pdf`); '' if there is none. */
export function endingOf(fileName: string): string {
  return /[^.]\.(?<ending>[\p{L}\p{N}]{1,10})$/u.exec(fileName)?.groups?.['ending']?.toLowerCase() ?? '';
}

/** Control characters, lone surrogates, line separators, and bidirectional controls (UAX #9), which make a name read as another. */
const unwelcome = /[\p{Cc}\p{Cs}\u2028\u2029\u200E\u200F\u061C\u202A-\u202E\u2066-\u2069]/gu;

/** A file's name as stored and given out: the last part of its path, without invisible characters. */
export function tidyFileName(fileName: string): string {
  const last = fileName.split(/[/\\]/u).at(-1) ?? '';
  return visible(last).slice(0, 255) || 'paper';
}

/** A name without characters that are not seen, or turn others round. */
export const visible = (name: string): string => name.normalize('NFC').replace(unwelcome, '').trim();

/**
 * Makes a title from a file name: removes the ending, underscores, repeated spaces and the marks of downloads and copies
 * (`(1)`, `- Copy`); turns capitals into a sentence. Removes `..`, control characters and slashes.
 */
export function tidyTitle(fileName: string): string {
  const base = fileName.split(/[/\\]/u).at(-1) ?? '';
  const ending = endingOf(base);
  const bare = ending === '' ? base : base.slice(0, -(ending.length + 1));
  const plain = bare
    .normalize('NFC')
    .replace(/[\p{Cc}\p{Cs}\u2028\u2029\u202A-\u202E\u2066-\u2069]/gu, ' ')
    .replace(/[_+]+/gu, ' ')
    .replace(/(?:\s*-\s*copy|\s*\(\d{1,3}\))+$/iu, '')
    .replace(/\s+/gu, ' ')
    .replace(/^[\s.]+|\s+$/gu, '');
  const words = plain === plain.toUpperCase() && /\p{Lu}{4}/u.test(plain) ? sentenceCase(plain) : plain;
  return [...words].slice(0, nameMaxLength).join('').trim() || 'Untitled paper';
}

const sentenceCase = (text: string): string => text.charAt(0) + text.slice(1).toLowerCase();

/** A title that is not taken (compared by `keyOf`): itself, or with ` (2)`, ` (3)` … appended. */
export function freeTitle(title: string, takenKeys: ReadonlySet<string>, keyOf: (title: string) => string): string {
  if (!takenKeys.has(keyOf(title))) return title;
  for (let number = 2; ; number += 1) {
    const suffix = ` (${number})`;
    const next = [...title].slice(0, nameMaxLength - suffix.length).join('') + suffix;
    if (!takenKeys.has(keyOf(next))) return next;
  }
}
