/**
 * Why some content could not be read: it took too long, wanted too much memory or room, or was broken off again and again.
 * Content that is merely unreadable (protected, damaged) has been read, and has no fault.
 */
export const readingFaults = ['tooSlow', 'tooLarge', 'brokeOff'] as const;
export type ReadingFault = (typeof readingFaults)[number];
