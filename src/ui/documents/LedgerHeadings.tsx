'use client';

import clsx from 'clsx';
import type { PointerEvent } from 'react';
import { counted } from '@/core/text/measure';
import type { LedgerProps } from './ledgerProps';
import { leastWidth, stickyFrom, tracksOf } from './ledgerColumns';

type Props = Pick<
  LedgerProps,
  | 'columns'
  | 'frozen'
  | 'onWidth'
  | 'sorts'
  | 'onSort'
  | 'papers'
  | 'display'
  | 'paperAt'
  | 'ticked'
  | 'onTick'
  | 'onTickLines'
>;

const leastColumn = 40;

/** The ledger's headings: a click sorts, with Shift as a further key; dragging the edge of a heading resizes its column. */
export function LedgerHeadings(props: Props) {
  const { columns, sorts, onSort, papers, ticked } = props;
  const sticky = stickyFrom(columns, props.frozen);
  const firstLines = Array.from({ length: Math.min(papers, 2000) }, (_each, line) => props.paperAt(line));
  const all = papers > 0 && papers <= 2000 && firstLines.every((paper) => paper && ticked.has(paper.id));
  return (
    <div role="rowgroup" className="sticky top-0 z-20" style={{ minWidth: leastWidth(columns, props.frozen) }}>
      <div
        role="row"
        aria-rowindex={1}
        className="grid h-[30px] items-center border-b border-line bg-sheet text-sm text-soft"
        style={{ gridTemplateColumns: tracksOf(columns, props.frozen) }}
      >
        <span
          role="columnheader"
          aria-label="In hand"
          className="grid h-full place-items-center bg-sheet"
          style={sticky(-2)}
        >
          {papers > 0 && (
            <input
              type="checkbox"
              aria-label={`Pick up all: ${counted(papers, 'paper')}`}
              checked={all}
              onChange={() => {
                if (!all) props.onTickLines(0, Number.MAX_SAFE_INTEGER);
                else
                  props.onTick(
                    firstLines.flatMap((paper) => paper ?? []),
                    false,
                  );
              }}
              className="size-[15px] accent-brine"
            />
          )}
        </span>
        {[{ key: 'title', heading: 'Title', figures: false, sorts: true }, ...columns].map((column, at) => {
          const place = sorts.findIndex((sort) => sort.of === column.key);
          // Without a sort key, papers are sorted by title.
          const direction = sorts[place]?.direction ?? (sorts.length === 0 && at === 0 ? 'up' : undefined);
          return (
            <span
              key={column.key}
              role="columnheader"
              aria-sort={direction === undefined ? 'none' : direction === 'up' ? 'ascending' : 'descending'}
              className="relative flex h-full min-w-0 items-center bg-sheet"
              style={sticky(at - 1)}
            >
              <button
                type="button"
                disabled={column.sorts === false}
                onClick={(event) => onSort(column.key, event.shiftKey)}
                aria-label={
                  column.sorts === false
                    ? column.heading
                    : `Sort by ${column.heading.toLowerCase()}${direction === undefined ? '' : direction === 'up' ? ', now ascending' : ', now descending'}`
                }
                className={clsx(
                  'font-condensed w-full truncate px-1.5 enabled:hover:text-ink',
                  column.figures ? 'text-right' : 'text-left',
                  direction !== undefined && 'text-ink',
                )}
              >
                {column.heading}
                {direction !== undefined && (
                  <span aria-hidden>
                    {direction === 'up' ? ' ↑' : ' ↓'}
                    {sorts.length > 1 && place + 1}
                  </span>
                )}
              </button>
              {at > 0 && <Edge onWidth={(width) => props.onWidth(column.key, width)} />}
            </span>
          );
        })}
      </div>
    </div>
  );
}

/** The right edge of a heading, for resizing. Widths can also be set in the columns dialog. */
function Edge({ onWidth }: { readonly onWidth: (width: number) => void }) {
  function onPointerDown(event: PointerEvent<HTMLSpanElement>) {
    event.preventDefault();
    const edge = event.currentTarget;
    const column = edge.parentElement;
    if (!column) return;
    const begins = column.getBoundingClientRect().left;
    edge.setPointerCapture(event.pointerId);
    const draw = (moved: globalThis.PointerEvent) =>
      onWidth(Math.round(Math.min(900, Math.max(leastColumn, moved.clientX - begins))));
    edge.addEventListener('pointermove', draw);
    edge.addEventListener('pointerup', () => edge.removeEventListener('pointermove', draw), { once: true });
  }
  return (
    <span
      aria-hidden
      onPointerDown={onPointerDown}
      className="absolute inset-y-0 -right-[3px] z-10 w-[7px] cursor-col-resize hover:bg-brine-wash"
    />
  );
}
