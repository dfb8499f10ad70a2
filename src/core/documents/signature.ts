/** What has come of signatures on a paper's current version: the best of its sign-offs. Most papers have none. */
export const paperSignatures = ['signed', 'asked', 'declined'] as const;
export type PaperSignature = (typeof paperSignatures)[number];

/** Each in words. */
export const paperSignatureWords: Readonly<Record<PaperSignature, string>> = {
  signed: 'signed',
  asked: 'asked for',
  declined: 'declined',
};

/** Whether a text is one of them. */
export const isPaperSignature = (text: unknown): text is PaperSignature =>
  paperSignatures.some((each) => each === text);
