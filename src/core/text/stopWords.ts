import { dan, deu, eng, fin, fra, ita, nld, nob, pol, por, spa, swe } from 'stopword';

/** Languages by ISO 639-1, and the name of their list. (The lists are those of the package `stopword`.) */
const listOf: Readonly<Record<string, readonly string[]>> = {
  en: eng,
  de: deu,
  fr: fra,
  es: spa,
  it: ita,
  nl: nld,
  pt: por,
  sv: swe,
  da: dan,
  no: nob,
  fi: fin,
  pl: pol,
};

const kept = new Map<string, ReadonlySet<string>>();

/**
 * Words of a language (ISO 639-1) that say nothing of what a text is about, in lower case; the English ones where it is
 * unknown.
 */
export function stopWordsOf(language: string | null): ReadonlySet<string> {
  const code = language !== null && Object.hasOwn(listOf, language) ? language : 'en';
  const words = kept.get(code) ?? new Set(listOf[code]);
  kept.set(code, words);
  return words;
}
