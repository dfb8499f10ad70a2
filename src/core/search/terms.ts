import { termOf, tokensIn, type Token } from './analyse';
import type { SearchQuestion, Wanted } from './question';
import type { TermList } from './termList';

/** The ways in which something is looked for: terms in a row, by one or more languages; the same way is there once. */
export function waysOf(wanted: Wanted, languages: readonly (string | null)[]): Token[][] {
  const ways = new Map<string, Token[]>();
  for (const language of languages) {
    const tokens = inOrder(tokensIn(wanted.words.join(' '), language));
    // A word that is a stop word only in some of the languages is looked for in the others.
    if (tokens.length > 0) ways.set(tokens.map(({ term, position }) => `${term} ${position}`).join(), tokens);
  }
  return [...ways.values()];
}

/** The words themselves: keys of days and amounts, and what was joined as one word, are looked for besides. */
function inOrder(tokens: Iterable<Token>): Token[] {
  const words: Token[] = [];
  for (const token of tokens)
    if (!/^[#=]/u.test(token.term) && token.position > (words.at(-1)?.position ?? -1)) words.push(token);
  return words;
}

/** How many terms that begin as was typed are looked for, and how many of which digits are a part. */
const most = { beginnings: 2000, parts: 400 } as const;
/** Of a shorter beginning there are too many. */
const shortestBeginning = 2;

/** Single terms that answer as well as the word itself, or as a part of them. */
export interface OtherTerms {
  /** The key of a day or an amount, and what was joined by hyphens, as one word. */
  readonly same: readonly string[];
  /** Terms that begin as was typed. */
  readonly begun: readonly string[];
  /** Terms of which the digits are a part. */
  readonly parts: readonly string[];
}

/** Which other terms something is found by. */
export function otherTerms(
  { words: [word = ''], joined, written, isBeginning, part }: Wanted,
  list: TermList,
): OtherTerms {
  const start = isBeginning ? termOf(word, null) : '';
  return {
    same: [joined, written].filter((each) => each !== null),
    begun: start.length < shortestBeginning ? [] : list.beginningWith(start, most.beginnings),
    parts: part === null ? [] : list.having(part, most.parts),
  };
}

/** All terms that are needed to answer a question. */
export function termsFor(question: SearchQuestion, languages: readonly (string | null)[], list: TermList): string[] {
  const terms = new Set<string>();
  for (const wanted of [...question.all, ...question.none]) {
    for (const { term } of waysOf(wanted, languages).flat()) terms.add(term);
    const { same, begun, parts } = otherTerms(wanted, list);
    for (const term of [...same, ...begun, ...parts]) terms.add(term);
  }
  return [...terms];
}
