/** Word boundaries by Unicode (UAX #29), as Intl carries them. */
const boundaries = new Intl.Segmenter('en-GB', { granularity: 'word' });

/** How many words a text has: runs that hold a letter, a digit or an ideograph; signs and blanks are none. */
export function countWords(text: string): number {
  let words = 0;
  for (const segment of boundaries.segment(text)) if (segment.isWordLike) words += 1;
  return words;
}
