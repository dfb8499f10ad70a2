import type { SignAnswer, SignOffState, SignOffWay } from './model';

/** Where a sign-off stands. */
export interface SignOffStanding {
  readonly state: Exclude<SignOffState, 'withdrawn'>;
  readonly agreed: number;
  /** How many are asked, without those released. */
  readonly of: number;
  /** How many of them have to agree. */
  readonly needed: number;
  /** Whose turn it is, as positions in the list. */
  readonly turns: readonly number[];
}

/**
 * Where a sign-off stands, by the answers of all who were asked, in their order; null: no answer yet.
 * @param needed how many have to agree; of fewer than that, all
 * @param inTurn whether each is asked only once those before have answered
 */
export function standingOf(answers: readonly (SignAnswer | null)[], needed: number, inTurn: boolean): SignOffStanding {
  const count = (answer: SignAnswer): number => answers.filter((each) => each === answer).length;
  const of = answers.length - count('released');
  const [agreed, enough] = [count('agreed'), Math.min(needed, of)];
  const open = answers.flatMap((answer, at) => (answer === null ? [at] : []));
  const state =
    agreed >= enough && of > 0 ? 'signed' : of - count('declined') < enough || of === 0 ? 'declined' : 'open';
  return { state, agreed, of, needed: enough, turns: state !== 'open' ? [] : inTurn ? open.slice(0, 1) : open };
}

const verbs: Readonly<Record<SignOffWay, string>> = { sign: 'signed', approve: 'approved', onPaper: 'signed on paper' };

/** "signed by 3 of 3, version 2", "signed by 1 of 3 so far, version 2" */
export function signOffInWords(
  way: SignOffWay,
  state: SignOffState,
  { agreed, of }: Pick<SignOffStanding, 'agreed' | 'of'>,
  versionNumber: number,
): string {
  const by = `${verbs[way]} by ${agreed} of ${of}`;
  const how = { signed: by, open: `${by} so far`, declined: 'declined', withdrawn: 'withdrawn' }[state];
  return `${how}, version ${versionNumber}`;
}

/** The title of the signed copy of a paper. */
export const signedTitle = (title: string, way: SignOffWay): string => `${title}, ${verbs[way]}`;
