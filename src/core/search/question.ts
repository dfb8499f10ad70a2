import { searchKey } from '../text/fold';
import { wordsIn } from '../text/words';
import { writtenIn, type Written } from '../text/written';
import { joinedOf } from './analyse';

/** A word, or words that stand one after the other. */
export interface Wanted {
  /** As it was typed, without quotes and minus. */
  readonly typed: string;
  /** Its words in order; one for a single word. */
  readonly words: readonly string[];
  /** What they are as one word, where they were typed joined by hyphens or slashes; null otherwise. */
  readonly joined: string | null;
  /** A word that may be only the beginning of the one that is meant. */
  readonly isBeginning: boolean;
  /** The key of the day, month or amount that it is, however it is written (`core/text/written.ts`); null for others. */
  readonly written: string | null;
  /** Digits that may be a part of a longer number or reference; null for others. */
  readonly part: string | null;
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
/** Fewer digits are a part of too much. */
const fewestDigits = 3;

/**
 * Reads what somebody typed: words, phrases in quotes, and either with a minus before it for what is not to be there. Days,
 * months and amounts are one thing each, with or without quotes. What makes no sense as a sign is taken as nothing, never
 * as an error: a single quote, a minus alone, signs without letters.
 * @param isTyping whether the last word may still be typed, and is taken as a beginning
 */
export function readQuestion(typed: string, isTyping = false): SearchQuestion {
  const text = typed.slice(0, mostCharacters).replace(/\p{Cc}/gu, ' ');
  const [all, none]: [Wanted[], Wanted[]] = [[], []];
  const written = writtenIn(text);
  let [taken, leftOut, end] = [0, 0, 0];
  for (const { groups, index, 0: whole } of text.matchAll(piece)) {
    const minus = groups?.['minus'];
    const isPhrase = groups?.['phrase'] !== undefined;
    const from = index + (minus?.length ?? 0);
    // The rest of a day that was taken with its first word.
    if (from < end) continue;
    const known = written.find((each) => each.index < index + whole.length && from < each.index + each.length);
    const spelled = known && !isPhrase ? text.slice(known.index, known.index + known.length) : null;
    if (known && !isPhrase) end = known.index + known.length;
    const said = spelled ?? groups?.['phrase'] ?? groups?.['run'] ?? '';
    // A sign that is only folded away would be found in everything.
    const words = [...wordsIn(said)].filter((word) => searchKey(word) !== '');
    if (words.length === 0) continue;
    if (taken + words.length > mostWords) {
      leftOut += words.length;
      continue;
    }
    taken += words.length;
    const isLast = isTyping && !isPhrase && index + whole.length === text.length && words.length === 1;
    const wanted: Wanted = {
      typed: said,
      words,
      joined: isPhrase || spelled !== null ? null : joinedOf(said),
      isBeginning: isLast || /\p{L}\*$/u.test(said),
      written: keyOf(said, known),
      part: isPhrase || spelled !== null ? null : partOf(words, joinedOf(said)),
    };
    (minus === undefined ? all : none).push(wanted);
  }
  return { all, none, leftOut };
}

/** A whole number is also an amount that is written with its decimals. */
const keyOf = (said: string, known: Written | undefined): string | null =>
  known?.keys[0] ?? (/^\d{3,12}$/u.test(said) ? `=${BigInt(said)}.00` : null);

function partOf([word = '', ...more]: readonly string[], joined: string | null): string | null {
  const folded = more.length > 0 ? (joined ?? '') : searchKey(word).replace(/[^\p{L}\p{N}]/gu, '');
  return folded.replace(/\D/gu, '').length >= fewestDigits ? folded : null;
}
