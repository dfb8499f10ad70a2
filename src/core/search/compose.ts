import { readQuestion, type Wanted } from './question';

/** A question in parts, for those who would rather fill in fields than remember signs. */
export interface AskedParts {
  /** All of these, in any order. */
  readonly words: string;
  /** One after the other, just so. */
  readonly exactly: string;
  /** None of these. */
  readonly without: string;
}

/** The question as it would be typed. */
export function composed({ words, exactly, without }: AskedParts): string {
  const phrase = exactly
    .replace(/["“”„«»]/gu, ' ')
    .replace(/\s+/gu, ' ')
    .trim();
  const out = Array.from(without.matchAll(/"[^"]*"|[^\s"]+/gu), ([each]) => `-${each.replace(/^[-−–]+/u, '')}`);
  return [phrase === '' ? '' : `"${phrase}"`, words.trim(), ...out].filter(Boolean).join(' ');
}

/** The question with one of its words in place of another; what only holds the word within it stays. */
export const withWord = (typed: string, word: string, instead: string): string =>
  typed.replace(/[\p{L}\p{N}\p{M}]+(?:['’][\p{L}\p{N}\p{M}]+)*/gu, (each) => (each === word ? instead : each));

const isPhrase = ({ words, joined, written }: Wanted): boolean =>
  words.length > 1 && joined === null && written === null;
const typedAgain = (wanted: Wanted): string => (isPhrase(wanted) ? `"${wanted.typed}"` : wanted.typed);

/** What was typed, in parts. Of several phrases the first has the field of its own. */
export function partsOf(typed: string): AskedParts {
  const { all, none } = readQuestion(typed);
  const phrase = all.find(isPhrase);
  return {
    words: all
      .filter((each) => each !== phrase)
      .map(typedAgain)
      .join(' '),
    exactly: phrase?.typed ?? '',
    without: none.map(typedAgain).join(' '),
  };
}
