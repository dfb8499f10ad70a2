import { searchKey } from '../text/fold';
import { wordsIn } from '../text/words';
import { joinedOf } from './analyse';

/** A word, or words that stand one after the other. */
export interface Wanted {
  /** As they were typed, in order; one for a single word. */
  readonly words: readonly string[];
  /** What they are as one word, where they were typed joined by hyphens or slashes; null otherwise. */
  readonly joined: string | null;
  /** A word that may be only the beginning of the one that is meant. */
  readonly isBeginning: boolean;
}

/** A question as it was understood. */
export interface SearchQuestion {
  /** All of these have to be in a paper, in any order. */
  readonly all: readonly Wanted[];
  /** None of these may be. */
  readonly none: readonly Wanted[];
  /** How many words were left out because there were too many. */
  readonly leftOut: number;
}

/** So many words are looked for; of more, the first. */
export const mostWords = 32;
/** What is read of a question. In characters. */
const mostCharacters = 2000;

/** A phrase in quotes, of whichever kind, or a run without blanks; either may be put out with a minus. */
const piece = /(?<minus>(?<!\S)[-−–])?(?:["“”„«»](?<phrase>[^"“”„«»]*)["“”„«»]|(?<run>[^\s"“”„«»]+))/gu;

/**
 * Reads what somebody typed: words, phrases in quotes, and either with a minus before it for what is not to be there. What
 * makes no sense as a sign is taken as nothing, never as an error: a single quote, a minus alone, signs without letters.
 * @param isTyping whether the last word may still be typed, and is taken as a beginning
 */
export function readQuestion(typed: string, isTyping = false): SearchQuestion {
  const text = typed.slice(0, mostCharacters).replace(/\p{Cc}/gu, ' ');
  const [all, none]: [Wanted[], Wanted[]] = [[], []];
  let [taken, leftOut] = [0, 0];
  for (const { groups, index, 0: whole } of text.matchAll(piece)) {
    const said = groups?.['phrase'] ?? groups?.['run'] ?? '';
    // A sign that is only folded away would be found in everything.
    const words = [...wordsIn(said)].filter((word) => searchKey(word) !== '');
    if (words.length === 0) continue;
    if (taken + words.length > mostWords) {
      leftOut += words.length;
      continue;
    }
    taken += words.length;
    const isPhrase = groups?.['phrase'] !== undefined;
    const isLast = isTyping && !isPhrase && index + whole.length === text.length && words.length === 1;
    const wanted = { words, joined: isPhrase ? null : joinedOf(said), isBeginning: isLast || /\p{L}\*$/u.test(said) };
    (groups?.['minus'] === undefined ? all : none).push(wanted);
  }
  return { all, none, leftOut };
}
