import clsx from 'clsx';
import type { ReactNode } from 'react';
import type { Turn } from '@/core/intake/cut';
import { Button } from '../kit/button';

/** How the small buttons of a page look. */
export const smallButton = '!h-[24px] !px-1.5 text-sm';

/** A page as a small picture that is moved and turned. @param children what else can be done with it */
export function PageCard({
  name,
  caption,
  address,
  turn,
  isFirst,
  isLast,
  isOut = false,
  isMarked = false,
  onMove,
  onTurn,
  children,
}: {
  /** As its buttons call it: “page 3”. */
  readonly name: string;
  readonly caption: string;
  readonly address: string;
  readonly turn: Turn;
  readonly isFirst: boolean;
  readonly isLast: boolean;
  readonly isOut?: boolean;
  readonly isMarked?: boolean;
  readonly onMove: (by: 1 | -1) => void;
  readonly onTurn: (turn: Turn) => void;
  readonly children?: ReactNode;
}) {
  const called = name.charAt(0).toUpperCase() + name.slice(1);
  return (
    <li
      className={clsx(
        'flex min-w-0 flex-col items-center gap-1 rounded-sm border px-1.5 pt-1 pb-2',
        isMarked ? 'border-l-4 border-brine bg-brine-wash' : 'border-line bg-fog',
      )}
    >
      <span className="max-w-full truncate text-sm text-soft">{caption}</span>
      <span className="grid h-[120px] w-[120px] place-items-center overflow-hidden">
        <img
          src={address}
          alt=""
          loading="lazy"
          className={clsx('max-h-[118px] max-w-[118px] border border-line bg-white', isOut && 'opacity-30')}
          style={{ transform: `rotate(${turn}deg)` }}
        />
      </span>
      <span className="flex flex-wrap justify-center gap-1">
        <Button className={smallButton} aria-label={`${called} earlier`} disabled={isFirst} onClick={() => onMove(-1)}>
          ←
        </Button>
        <Button className={smallButton} aria-label={`Turn ${name}`} onClick={() => onTurn(((turn + 90) % 360) as Turn)}>
          Turn
        </Button>
        <Button className={smallButton} aria-label={`${called} later`} disabled={isLast} onClick={() => onMove(1)}>
          →
        </Button>
        {children}
      </span>
    </li>
  );
}

/** A list with one of its things moved by one. */
export function moved<T>(list: readonly T[], at: number, by: 1 | -1): T[] {
  const next = [...list];
  const [taken] = next.splice(at, 1);
  if (taken !== undefined) next.splice(at + by, 0, taken);
  return next;
}
