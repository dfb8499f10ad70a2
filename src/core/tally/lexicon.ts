import { termOf, tokensIn } from '../search/analyse';
import { termLanguages, type WordLanguages } from '../search/languages';

/** In a name every word counts. */
const noStopWords: ReadonlySet<string> = new Set();

/** Stands between two words that are no neighbours; no word has it. */
export const gap = 0;

/**
 * The distinct words of titles, names, values and remarks, folded and not stemmed, each with a code from 1. A word is found
 * by its stem in any language of the library's texts, since nobody says in which language a title is.
 */
export class Lexicon {
  readonly words: string[] = [''];
  readonly #codes = new Map<string, number>();
  #byTerm = new Map<string, number[]>();
  #stemmedIn = '';
  #stemmed = 1;

  /**
   * The words of a text as codes in their order; behind a gap, what was joined by hyphens as one word, and the keys of days
   * and amounts.
   */
  codesIn(text: string): number[] {
    const codes: number[] = [];
    const beside: number[] = [];
    let last = -1;
    for (const { term, position } of tokensIn(text, null, noStopWords)) {
      const code = this.#codeOf(term);
      // A joined word comes after its parts, at the place of the first of them.
      if (position > last && !/^[#=]/u.test(term)) {
        codes.push(code);
        last = position;
      } else beside.push(code);
    }
    return beside.length === 0 ? codes : [...codes, gap, ...beside];
  }

  /** The words of several texts; no phrase goes from one to the next. */
  codesInAll = (texts: readonly string[]): number[] =>
    texts.filter(Boolean).flatMap((text, at) => [...(at === 0 ? [] : [gap]), ...this.codesIn(text)]);

  #codeOf(word: string): number {
    const there = this.#codes.get(word);
    if (there !== undefined) return there;
    const code = this.words.push(word) - 1;
    this.#codes.set(word, code);
    return code;
  }

  /** The codes of words that are one with a typed word: the same folded, or of the same stem in a language. */
  codesFor(word: string, languages: WordLanguages): readonly number[] {
    const key = languages.join();
    if (key !== this.#stemmedIn) {
      this.#byTerm = new Map();
      this.#stemmedIn = key;
      this.#stemmed = 1;
    }
    for (; this.#stemmed < this.words.length; this.#stemmed += 1) {
      const known = this.words[this.#stemmed] ?? '';
      for (const term of new Set(termLanguages(languages).map((language) => termOf(known, language)))) {
        const codes = this.#byTerm.get(term);
        if (codes) codes.push(this.#stemmed);
        else this.#byTerm.set(term, [this.#stemmed]);
      }
    }
    const terms = new Set(termLanguages(languages).map((language) => termOf(word, language)));
    return [...new Set([...terms].flatMap((term) => this.#byTerm.get(term) ?? []))];
  }

  /** The code of a key or a joined word; null if no text has it. */
  codeOf = (word: string): number | null => this.#codes.get(word) ?? null;

  /** The codes of words that hold a condition, each looked at. */
  codesWith(holds: (word: string) => boolean): number[] {
    const codes: number[] = [];
    for (let code = 1; code < this.words.length; code += 1) if (holds(this.words[code] as string)) codes.push(code);
    return codes;
  }
}
