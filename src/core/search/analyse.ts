import { searchKey } from '../text/fold';
import { stopWordsOf } from '../text/stopWords';
import { wordsIn } from '../text/words';
import { writtenIn } from '../text/written';
import { isStemmed, stemOf } from './stem';

/** Longer terms are cut: nobody types more of a word. In UTF-16 units. */
const longestTerm = 60;

/** A word of a text as the index knows it. */
export interface Token {
  /** Folded and stemmed. */
  readonly term: string;
  /** The word's place among the words of the text, from 0; stop words have one too. */
  readonly position: number;
}

/**
 * The words of a text as they are indexed and asked for: by Unicode's boundaries (UAX #29), folded (accents, case,
 * ligatures, apostrophes), and stemmed in the text's own language. Stop words are left out, and keep their positions. What is
 * joined by hyphens, slashes or full stops also stands as one word at the place of its first part: `INV-2023-00471` is
 * found as `inv`, `2023`, `00471` and `inv202300471`, and `e-mail` as `email`. A day, a month or an amount also stands as its
 * key (`core/text/written.ts`), at the place of its first word, so that it is found in whatever way it was written.
 * @param language ISO 639-1; null where it is unknown: words are folded and not stemmed
 */
export function* tokensIn(
  text: string,
  language: string | null,
  stopWords: ReadonlySet<string> = stopWordsOf(language),
): Generator<Token> {
  const written = writtenIn(text);
  let [position, next] = [0, 0];
  for (const { 0: run, index } of text.replace(directions, ' ').matchAll(/\S+/gu)) {
    const first = position;
    for (let here = written[next]; here && here.index < index + run.length; here = written[next]) {
      for (const key of here.keys) yield { term: key, position };
      next += 1;
    }
    let parts = 0;
    for (const word of wordsIn(run)) {
      const said = word.normalize('NFKC').toLowerCase();
      if (!stopWords.has(said)) {
        const term = termOf(said, language);
        if (term !== '') yield { term, position };
      }
      position += 1;
      parts += 1;
    }
    const joined = parts > 1 || joints.test(run) ? joinedOf(run) : null;
    if (joined !== null) yield { term: joined, position: first };
  }
}

/** Marks of direction (UAX #9), which programs that read pages put between words in place of blanks. */
const directions = /[\u200e\u200f\u202a-\u202e\u2066-\u2069]/gu;

/** What one word that was typed is looked for as. @param language as of the texts that it is looked for in */
export function termOf(word: string, language: string | null): string {
  const said = word.normalize('NFKC').toLowerCase();
  return folded(isStemmed(language) && !/\d/u.test(said) ? stemOf(said, language) : said);
}

/** A word without accents, apostrophes and signs, cut to what is kept of it. */
const folded = (word: string): string =>
  searchKey(word)
    .replace(/[^\p{L}\p{N}]+/gu, '')
    .slice(0, longestTerm);

const joints = /[\p{L}\p{N}][-/.‐-―][\p{L}\p{N}]/u;
/** Letters and numbers with single joints between them, whatever stands around them. */
const compound = /[\p{L}\p{N}]+(?:[-/.‐-―'’][\p{L}\p{N}]+)+/u;
/** A compound of more parts is an address or a list. */
const mostParts = 6;

/** What is joined by hyphens, slashes or full stops, as one word; null where nothing is, or the whole of it is a word already. */
export function joinedOf(run: string): string | null {
  const [whole] = compound.exec(run) ?? [];
  if (whole === undefined || !joints.test(whole)) return null;
  if (whole.split(/[-/.‐-―]/u).length > mostParts) return null;
  return folded(whole) || null;
}
