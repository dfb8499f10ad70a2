/**
 * Why reading some content failed: it took too long, needed too much memory or space, or crashed the reader repeatedly.
 * Protected or damaged content counts as read.
 */
export const readingFaults = ['tooSlow', 'tooLarge', 'brokeOff'] as const;
export type ReadingFault = (typeof readingFaults)[number];

/** The same in words, for the docket. */
export const readingFaultWords: Readonly<Record<ReadingFault, string>> = {
  tooSlow: 'It could not be read here: it takes too long. It can be opened, and is filed as it came.',
  tooLarge: 'It could not be read here: it unfolds into too much. It can be opened, and is filed as it came.',
  brokeOff: 'It could not be read here: reading it broke off twice. It can be opened, and is filed as it came.',
};
