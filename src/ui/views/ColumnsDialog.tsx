'use client';

import type { LedgerColumn } from '../documents/ledgerColumns';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';

const leastWidth = 40;
const mostWidth = 900;

/** Which columns a ledger shows, in which order, how wide, and how many stay in sight when it scrolls sideways. */
export function ColumnsDialog({
  all,
  shown,
  frozen,
  onChoose,
  onFrozen,
  onWidth,
  onClose,
}: {
  readonly all: readonly LedgerColumn[];
  readonly shown: readonly LedgerColumn[];
  readonly frozen: number;
  readonly onChoose: (keys: readonly string[]) => void;
  readonly onFrozen: (frozen: number) => void;
  readonly onWidth: (key: string, width: number) => void;
  readonly onClose: () => void;
}) {
  const keys = shown.map((column) => column.key);
  const rest = all.filter((column) => !keys.includes(column.key));
  function move(at: number, by: number) {
    const next = [...keys];
    const [key] = next.splice(at, 1);
    if (key === undefined) return;
    next.splice(at + by, 0, key);
    onChoose(next);
  }
  return (
    <Dialog title="Columns" open onClose={onClose}>
      <ol aria-label="Columns shown" className="mb-4">
        {shown.map((column, at) => (
          <li key={column.key} className="flex items-center gap-2 border-b border-line py-1">
            <input
              type="checkbox"
              checked
              aria-label={`Show ${column.heading}`}
              onChange={() => onChoose(keys.filter((key) => key !== column.key))}
              className="size-[15px] accent-brine"
            />
            <span className="min-w-0 flex-1 truncate">{column.heading}</span>
            <label className="flex items-center gap-1 text-sm text-soft">
              width
              <input
                type="number"
                aria-label={`Width of ${column.heading}, in pixels`}
                min={leastWidth}
                max={mostWidth}
                step={10}
                value={column.width}
                onChange={(event) =>
                  onWidth(
                    column.key,
                    Math.min(mostWidth, Math.max(leastWidth, Math.round(event.target.valueAsNumber || leastWidth))),
                  )
                }
                className="figures h-[26px] w-16 rounded-sm border border-edge bg-sheet px-1"
              />
            </label>
            <Button
              look="quiet"
              className="px-1!"
              disabled={at === 0}
              aria-label={`${column.heading}: further to the left`}
              onClick={() => move(at, -1)}
            >
              ↑
            </Button>
            <Button
              look="quiet"
              className="px-1!"
              disabled={at === shown.length - 1}
              aria-label={`${column.heading}: further to the right`}
              onClick={() => move(at, 1)}
            >
              ↓
            </Button>
          </li>
        ))}
      </ol>
      {rest.length > 0 && (
        <>
          <h3 className="mb-1 text-sm font-semibold">Not shown</h3>
          <ul className="mb-4">
            {rest.map((column) => (
              <li key={column.key} className="flex h-[30px] items-center">
                <label className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    checked={false}
                    onChange={() => onChoose([...keys, column.key])}
                    className="size-[15px] accent-brine"
                  />
                  {column.heading}
                </label>
              </li>
            ))}
          </ul>
        </>
      )}
      <label className="flex items-center gap-2">
        When the ledger scrolls sideways, keep the title and
        <select
          aria-label="Columns kept in sight"
          value={frozen}
          onChange={(event) => onFrozen(Number(event.target.value))}
          className="h-[28px] rounded-sm border border-edge bg-sheet px-1"
        >
          <option value={0}>nothing</option>
          {shown.slice(0, 5).map((column, at) => (
            <option key={column.key} value={at + 1}>
              {at + 1}
            </option>
          ))}
        </select>
        in sight
      </label>
    </Dialog>
  );
}
