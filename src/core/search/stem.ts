import { newStemmer } from 'snowball-stemmers';

/** Languages (ISO 639-1) whose words are stemmed, by the names that Snowball gives them. */
const algorithms = {
  da: 'danish',
  de: 'german',
  en: 'english',
  es: 'spanish',
  fi: 'finnish',
  fr: 'french',
  it: 'italian',
  nl: 'dutch',
  no: 'norwegian',
  pt: 'portuguese',
  sv: 'swedish',
} as const;
export type StemmedLanguage = keyof typeof algorithms;

/** Whether words of a language are stemmed. */
export const isStemmed = (language: string | null): language is StemmedLanguage =>
  language !== null && Object.hasOwn(algorithms, language);

/** How many stems of a language are remembered: a text repeats its words. */
const mostRemembered = 50_000;
/** A longer word is none of any language: a key, or what is left of a picture. */
const longestWord = 40;

const stemmers = new Map<
  StemmedLanguage,
  { readonly stem: (word: string) => string; readonly known: Map<string, string> }
>();

/** The stem of a word in lower case (M. F. Porter, "Snowball: A language for stemming algorithms", 2001). */
export function stemOf(word: string, language: StemmedLanguage): string {
  if (word.length > longestWord) return word;
  const found = stemmers.get(language) ?? begin(language);
  const known = found.known.get(word);
  if (known !== undefined) return known;
  const stem = found.stem(word);
  if (found.known.size >= mostRemembered) found.known.clear();
  found.known.set(word, stem);
  return stem;
}

function begin(language: StemmedLanguage) {
  const stemmer = newStemmer(algorithms[language]);
  const made = { stem: (word: string) => stemmer.stem(word), known: new Map<string, string>() };
  stemmers.set(language, made);
  return made;
}
