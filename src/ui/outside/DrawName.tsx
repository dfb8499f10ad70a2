'use client';

import { useRef, type Dispatch, type PointerEvent, type SetStateAction } from 'react';
import { drawnBox, mostDrawnLines, mostDrawnPoints, type Drawn } from '@/core/signoff/model';
import { Button } from '../kit/button';

/** Whether more can be drawn: a line begins with two points. */
const hasRoom = (drawn: Drawn): boolean =>
  drawn.length < mostDrawnLines && drawn.reduce((sum, line) => sum + line.length / 2, 0) <= mostDrawnPoints - 2;

/** A box in which a name is drawn with a finger, a pen or a mouse; who uses none of these types it. */
export function DrawName({
  drawn,
  onDraw,
}: {
  readonly drawn: Drawn;
  readonly onDraw: Dispatch<SetStateAction<Drawn>>;
}) {
  const isDrawing = useRef(false);
  /** Where the pointer is, in the box's own steps. */
  const at = (event: PointerEvent<SVGSVGElement>): [number, number] => {
    const frame = event.currentTarget.getBoundingClientRect();
    const within = (value: number, most: number) => Math.min(most, Math.max(0, Math.round(value)));
    return [
      within(((event.clientX - frame.left) / frame.width) * drawnBox.width, drawnBox.width),
      within(((event.clientY - frame.top) / frame.height) * drawnBox.height, drawnBox.height),
    ];
  };
  const begin = (event: PointerEvent<SVGSVGElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    isDrawing.current = true;
    const [x, y] = at(event);
    // A dot is a line too.
    onDraw((before) => (hasRoom(before) ? [...before, [x, y, x, y]] : before));
  };
  const go = (event: PointerEvent<SVGSVGElement>) => {
    if (!isDrawing.current) return;
    const [x, y] = at(event);
    // From what was drawn last: several moves come before the next is shown.
    onDraw((before) => {
      const last = before.at(-1) ?? [];
      const isSame = last.at(-2) === x && last.at(-1) === y;
      return isSame || !hasRoom(before) ? before : [...before.slice(0, -1), [...last, x, y]];
    });
  };
  const end = () => {
    isDrawing.current = false;
  };
  return (
    <div>
      <span className="mb-1 flex items-baseline justify-between text-sm font-semibold">
        Or drawn
        {drawn.length > 0 && (
          <Button look="quiet" className="!h-[20px] !px-1" onClick={() => onDraw([])}>
            Wipe it
          </Button>
        )}
      </span>
      <svg
        role="img"
        aria-label="Draw your name here"
        viewBox={`0 0 ${drawnBox.width} ${drawnBox.height}`}
        className="w-full cursor-crosshair touch-none rounded-sm border border-edge bg-white"
        onPointerDown={begin}
        onPointerMove={go}
        onPointerUp={end}
        onPointerCancel={end}
      >
        <line x1={24} x2={drawnBox.width - 24} y1={96} y2={96} stroke="#c8cfcc" strokeWidth={1} />
        {drawn.map((line, index) => (
          <polyline
            key={index}
            points={line.join(' ')}
            fill="none"
            stroke="#18211f"
            strokeWidth={2.5}
            strokeLinecap="round"
            strokeLinejoin="round"
          />
        ))}
      </svg>
    </div>
  );
}
