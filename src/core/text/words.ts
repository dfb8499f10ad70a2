/** Word boundaries by Unicode (UAX #29), as Intl carries them. */
const boundaries = new Intl.Segmenter('en-GB', { granularity: 'word' });

/** Counts the words of a text: segments with a letter, a digit or an ideograph. */
export function countWords(text: string): number {
  let words = 0;
  for (const segment of boundaries.segment(text)) if (segment.isWordLike) words += 1;
  return words;
}
