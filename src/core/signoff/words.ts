import type { SignerRow } from './contract';
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
