/** Why a stage of reading gave less than all that is in the content. */
export const readingFaults = ['tooSlow', 'tooLarge', 'brokeOff', 'protected', 'damaged', 'cut'] as const;
export type ReadingFault = (typeof readingFaults)[number];

/** The same in words, for the docket: why, and what can be done with the paper as it is. */
export const readingFaultWords: Readonly<Record<ReadingFault, string>> = {
  tooSlow: 'It takes too long to read here. It can be downloaded, and is filed as it came.',
  tooLarge: 'It unfolds into more than can be read here. It can be downloaded, and is filed as it came.',
  brokeOff: 'Reading it broke off twice. It can be downloaded, and is filed as it came.',
  protected: 'It is protected by a password, which its own program asks for. It is filed as it came.',
  damaged: 'It is damaged, or is not what it seems to be. It is filed as it came.',
  cut: 'Only its beginning was read: it is very long. It can be downloaded whole.',
};
