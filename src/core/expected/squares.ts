import type { ExpectedState } from './slots';
import { stateOfLetter } from './rack';

/** One expected paper as it is drawn: which it is in its row of letters, and where its square stands, in pixels. */
export interface Square {
  readonly state: ExpectedState;
  /** Counts the squares of the row, spaces left out. */
  readonly at: number;
  readonly x: number;
  readonly y: number;
}

/** The side of a square, the room it takes, and the room between two meetings. */
export const squareSize = { side: 9, step: 11, gap: 5, line: 13 } as const;

/** Lays a row of letters out in lines of at most `width` pixels; what is for one meeting is kept together where it fits. */
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

/** How many expected papers stand in each state. */
export function countStates(letters: string): Record<ExpectedState, number> {
  const counts: Record<ExpectedState, number> = { met: 0, ahead: 0, gap: 0, waived: 0 };
  for (const letter of letters) {
    const state = stateOfLetter(letter);
    if (state !== null) counts[state] += 1;
  }
  return counts;
}

/** What a row of letters comes to in a word or two; empty where nothing is expected. */
export function courseInWords(letters: string): string {
  const { met, ahead, gap, waived } = countStates(letters);
  if (gap > 0) return gap === 1 ? '1 gap' : `${gap} gaps`;
  if (ahead > 0) return 'on course';
  return met + waived > 0 ? 'complete' : '';
}
