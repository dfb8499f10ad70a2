/** What people are asked to do with a version. `onPaper`: they have done so on paper, and the scan of that is filed. */
export const signOffWays = ['sign', 'approve', 'onPaper'] as const;
export type SignOffWay = (typeof signOffWays)[number];

/** `declined`: so many declined that the rest is not enough. `withdrawn`: by whoever asked. */
export const signOffStates = ['open', 'signed', 'declined', 'withdrawn'] as const;
export type SignOffState = (typeof signOffStates)[number];

/** `released`: they need not answer any more, as whoever asked said, for instance because they have left. */
export const signAnswers = ['agreed', 'declined', 'released'] as const;
export type SignAnswer = (typeof signAnswers)[number];

/** How it is known who answered: by their password, a code sent to their address, or by what stands on paper. */
export const signProofs = ['password', 'code', 'paper'] as const;
export type SignProof = (typeof signProofs)[number];

/** The copy with its page of signatures: not made where nothing is signed here, given up after some failures. */
export const sealStates = ['none', 'waiting', 'done', 'failed'] as const;
export type SealState = (typeof sealStates)[number];

/** So many people are asked at most. */
export const mostSigners = 30;
/** So many days before the day people are reminded at most. */
export const mostRemindDays = 60;
/** A name that is drawn: lines of points in a box of this size, in whole steps. */
export const drawnBox = { width: 400, height: 120 } as const;
/** A drawn name has so many points at most. */
export const mostDrawnPoints = 2000;
/** And so many lines. */
export const mostDrawnLines = 200;

/** A drawn name: each line its points, x and y in turn. */
export type Drawn = readonly (readonly number[])[];
