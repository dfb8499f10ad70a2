import type { ExpectedState } from './slots';
import { stateOfLetter } from './rack';

/** The square of an expected paper: its index in the row of letters, and its position in pixels. */
export interface Square {
  readonly state: ExpectedState;
  /** The index of the square, not counting spaces. */
  readonly at: number;
  readonly x: number;
  readonly y: number;
}

/** The side of a square, the distance between squares, and the gap between two meetings, in pixels. */
export const squareSize = { side: 9, step: 11, gap: 5, line: 13 } as const;

/** Lays out a row of letters in lines of at most `width` pixels, keeping each meeting's squares together if possible. */
export function layOutSquares(letters: string, width: number): { squares: Square[]; height: number } {
  const { step, gap, line } = squareSize;
  const squares: Square[] = [];
  let [x, y, at] = [0, 0, 0];
  for (const group of letters.split(' ').filter((each) => each !== '')) {
    if (x > 0 && x + group.length * step > width) [x, y] = [0, y + line];
    for (const letter of group) {
      const state = stateOfLetter(letter);
      if (state === null) continue;
      if (x + step > width) [x, y] = [0, y + line];
      squares.push({ state, at, x, y });
      x += step;
      at += 1;
    }
    x += gap;
  }
  return { squares, height: squares.length === 0 ? 0 : y + line };
}

/** The number of expected papers in each state. */
export function countStates(letters: string): Record<ExpectedState, number> {
  const counts: Record<ExpectedState, number> = { met: 0, ending: 0, ahead: 0, gap: 0, waived: 0 };
  for (const letter of letters) {
    const state = stateOfLetter(letter);
    if (state !== null) counts[state] += 1;
  }
  return counts;
}

/** A row of letters summarised in a word or two; empty if nothing is expected. */
export function courseInWords(letters: string): string {
  const { met, ending, ahead, gap, waived } = countStates(letters);
  if (gap > 0) return gap === 1 ? '1 gap' : `${gap} gaps`;
  if (ending > 0) return ending === 1 ? '1 runs out' : `${ending} run out`;
  if (ahead > 0) return 'on course';
  return met + waived > 0 ? 'complete' : '';
}
