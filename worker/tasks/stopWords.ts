import lists from 'stopword';

/** Languages by ISO 639-1, and the name of their list. (The lists are those of the package `stopword`.) */
const listOf: Readonly<Record<string, readonly string[]>> = {
  en: lists.eng,
  de: lists.deu,
  fr: lists.fra,
  es: lists.spa,
  it: lists.ita,
  nl: lists.nld,
  pt: lists.por,
  sv: lists.swe,
  da: lists.dan,
  no: lists.nob,
  fi: lists.fin,
  pl: lists.pol,
};

/** Words of a language that say nothing of what a text is about, in lower case; the English ones where it is unknown. */
export const stopWordsOf = (language: string | null): ReadonlySet<string> =>
  new Set(listOf[language ?? 'en'] ?? lists.eng);
