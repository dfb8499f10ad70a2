import type { SealFound, SignerRow } from './contract';
import type { SignOffWay } from './model';

/** What one who is asked is asked to do: "sign", "approve". */
export const wayWords: Readonly<Record<SignOffWay, string>> = {
  sign: 'sign',
  approve: 'approve',
  onPaper: 'sign on paper',
};

/** How one who was asked stands, in a word or two. */
export function signerInWords(
  { answer, isTurn, cannotAnswer }: Pick<SignerRow, 'answer' | 'isTurn' | 'cannotAnswer'>,
  way: SignOffWay,
  isOpen: boolean,
): string {
  if (answer === 'agreed') return way === 'approve' ? 'approved' : 'signed';
  if (answer === 'declined') return 'declined';
  if (answer === 'released') return 'let off';
  if (!isOpen) return 'not needed any more';
  if (cannotAnswer) return 'cannot see the paper any more';
  return isTurn ? 'asked' : 'comes later';
}

/** What was found out about the seals of a PDF, in a sentence or two. */
export function sealInWords(seals: readonly SealFound[]): string {
  const [seal] = seals;
  if (!seal) return 'It has no seal.';
  const whose = seal.isOurs
    ? 'this library’s own'
    : `not this library’s; its certificate says “${seal.by}”, which proves nothing here`;
  const state = {
    whole: 'It is whole: not a byte was changed since it was sealed.',
    continued: 'What was sealed is whole, but something was added to the file after it.',
    altered: 'It was altered after it was sealed, and is not what was signed.',
    unreadable: 'Its seal cannot be read: it may have been altered.',
  }[seal.state];
  const more = seals.length > 1 ? ` It has ${seals.length} seals; this is the first.` : '';
  return seal.state === 'unreadable' ? state : `${state} The seal is ${whose}.${more}`;
}
