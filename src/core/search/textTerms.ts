import { tokensIn } from './analyse';

/** So far apart are the last word of a page and the first of the next: no phrase goes from one page to the other. */
const pageGap = 10;

/** What a text is found by: its terms with their positions, ascending, and how many words it has. */
export interface TextTerms {
  readonly length: number;
  readonly terms: ReadonlyMap<string, readonly number[]>;
}

/** The terms of a text by page. @param language ISO 639-1, in which its words are stemmed */
export function termsOfPages(pages: readonly string[], language: string): TextTerms {
  const terms = new Map<string, number[]>();
  let length = 0;
  for (const page of pages) {
    let last = -1;
    for (const { term, position } of tokensIn(page, language)) {
      const at = length + position;
      const positions = terms.get(term);
      // A compound of one word twice at one place says nothing more.
      if (!positions) terms.set(term, [at]);
      else if (positions.at(-1) !== at) positions.push(at);
      last = Math.max(last, position);
    }
    length += last + pageGap;
  }
  for (const positions of terms.values()) positions.sort((one, other) => one - other);
  return { length, terms };
}
