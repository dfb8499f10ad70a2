import { countStates, layOutSquares, squareSize, type Square } from '@/core/expected/squares';
import type { ExpectedState } from '@/core/expected/slots';

/** Each state of an expected paper in words. */
export const stateWords: Record<ExpectedState, string> = {
  met: 'there',
  ending: 'runs out soon',
  ahead: 'not yet due',
  gap: 'missing',
  waived: 'not needed',
};

const order: readonly ExpectedState[] = ['met', 'ending', 'gap', 'ahead', 'waived'];

/** A row of squares in words, for screen readers: `12 there, 2 missing`. */
export function squaresInWords(letters: string): string {
  const counts = countStates(letters);
  return order
    .filter((state) => counts[state] > 0)
    .map((state) => `${counts[state]} ${stateWords[state]}`)
    .join(', ');
}

const { side } = squareSize;
/** Distinguished by shape as well as by colour: full, hollow, half full, a cross in a frame, a bar. */
const shapes: Record<ExpectedState, (square: Square) => string> = {
  met: ({ x, y }) => `M${x} ${y}h${side}v${side}h${-side}z`,
  ending: ({ x, y }) =>
    `M${x} ${y + side}v${-side}h${side}zM${x + 0.5} ${y + 0.5}h${side - 1}v${side - 1}h${1 - side}z`,
  ahead: ({ x, y }) => `M${x + 0.5} ${y + 0.5}h${side - 1}v${side - 1}h${1 - side}z`,
  gap: ({ x, y }) =>
    `M${x + 1} ${y + 1}l${side - 2} ${side - 2}M${x + side - 1} ${y + 1}l${2 - side} ${side - 2}M${x + 0.5} ${y + 0.5}h${side - 1}v${side - 1}h${1 - side}z`,
  waived: ({ x, y }) => `M${x} ${y + side / 2}h${side}`,
};
const looks: Record<ExpectedState, string> = {
  met: 'fill-brine-ink stroke-none',
  ending: 'fill-ember-ink stroke-ember-ink',
  ahead: 'fill-none stroke-edge',
  gap: 'fill-none stroke-ember-ink',
  waived: 'fill-none stroke-soft',
};

/** One small square for each expected paper, in lines of a width in pixels: a path for each state, whatever their number. */
export function Squares({ letters, width }: { readonly letters: string; readonly width: number }) {
  const { squares, height } = layOutSquares(letters, width);
  if (squares.length === 0) return null;
  const used = Math.max(...squares.map((square) => square.x)) + side;
  return (
    <svg
      width={used}
      height={height}
      viewBox={`0 0 ${used} ${height}`}
      aria-hidden
      data-letters={letters}
      className="block cursor-pointer"
    >
      {order.map((state) => {
        const path = squares
          .filter((square) => square.state === state)
          .map(shapes[state])
          .join('');
        return path === '' ? null : (
          <path key={state} d={path} className={looks[state]} strokeWidth={state === 'waived' ? 2 : 1} />
        );
      })}
    </svg>
  );
}

/** What the squares mean. */
export function SquaresKey() {
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-1 text-sm text-soft">
      {order.map((state) => (
        <li key={state} className="flex items-center gap-1.5">
          <svg width={side} height={side} aria-hidden>
            <path
              d={shapes[state]({ state, at: 0, x: 0, y: 0 })}
              className={looks[state]}
              strokeWidth={state === 'waived' ? 2 : 1}
            />
          </svg>
          {stateWords[state]}
        </li>
      ))}
    </ul>
  );
}
