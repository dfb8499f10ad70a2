import { wordsIn } from './words';

const boundaries = new Intl.Segmenter('en-GB', { granularity: 'sentence' });

/** Fewest and most characters of a sentence worth quoting: headings and tables run into less or more. */
const [fewest, most] = [30, 400];

/**
 * The sentences of a text (Unicode, UAX #29) that could be quoted from it: neither headings nor the rows of a table.
 * A single line end is taken for a blank, since pages break lines; an empty line ends a sentence.
 */
export function sentencesOf(text: string): string[] {
  return text
    .split(/\n[ \t]*\n/u)
    .flatMap((part) => [...boundaries.segment(part.replace(/-\n(?=\p{Ll})/gu, '').replace(/\s+/gu, ' '))])
    .map(({ segment }) => segment.trim())
    .filter(
      (sentence) => sentence.length >= fewest && sentence.length <= most && /[.!?。！？]["'”’)]*$/u.test(sentence),
    )
    .filter((sentence) => (sentence.match(/\p{L}/gu)?.length ?? 0) > sentence.length * 0.6);
}

/** The words of a text in lower case, in order. */
export const wordsOf = (text: string): string[] => Array.from(wordsIn(text), (word) => word.toLocaleLowerCase('en-GB'));
