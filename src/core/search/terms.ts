import { termOf, tokensIn, type Token } from './analyse';
import type { SearchQuestion, Wanted } from './question';

/** The ways in which something is looked for: terms in a row, by one or more languages; the same way is there once. */
export function waysOf(wanted: Wanted, languages: readonly (string | null)[]): Token[][] {
  const ways = new Map<string, Token[]>();
  for (const language of languages) {
    const tokens = [...tokensIn(wanted.words.join(' '), language)];
    // A word that is a stop word only in some of the languages is looked for in the others.
    if (tokens.length > 0) ways.set(tokens.map(({ term, position }) => `${term} ${position}`).join(), tokens);
  }
  return [...ways.values()];
}

/** All terms that are needed to answer a question, and the beginnings of others. */
export function termsFor(
  question: SearchQuestion,
  languages: readonly (string | null)[],
): { readonly terms: readonly string[]; readonly beginnings: readonly string[] } {
  const [terms, beginnings] = [new Set<string>(), new Set<string>()];
  for (const wanted of [...question.all, ...question.none]) {
    for (const { term } of waysOf(wanted, languages).flat()) terms.add(term);
    if (wanted.joined !== null) terms.add(wanted.joined);
    const [word] = wanted.words;
    if (wanted.isBeginning && word !== undefined) beginnings.add(termOf(word, null));
  }
  return { terms: [...terms], beginnings: [...beginnings].filter(Boolean) };
}
