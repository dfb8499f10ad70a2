'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent, type RefObject } from 'react';
import type { Rack, RackDossier } from '@/core/expected/contract';
import { counted } from '@/core/text/measure';
import type { RackShow } from '@/core/expected/rackOrder';
import { firstWidth, rackColumns, rowHeight, RackRow, leastWidth, type RackSpot } from './RackRow';

const headHeight = 38;

interface Props {
  readonly rack: Rack;
  readonly rows: readonly RackDossier[];
  readonly show: RackShow;
  readonly spot: RackSpot | null;
  readonly onSpot: (spot: RackSpot) => void;
  /** Opens the papers of a cell. */
  readonly onOpen: (placeId: string) => void;
  readonly label: string;
}

/** Dossiers down, filing years, folders or expected papers across: a grid for mouse and keys (WAI-ARIA grid pattern), of which only the rows in sight are drawn. */
export function RackGrid({ rack, rows, show, spot, onSpot, onOpen, label }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const heights = useMemo(() => rows.map((row) => rowHeight(row, show)), [rows, show]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (at) => heights[at] ?? 0,
    overscan: 8,
    paddingStart: headHeight,
    scrollPaddingStart: headHeight,
    getItemKey: (at) => rows[at]?.dossierId ?? at,
  });
  useEffect(() => virtual.measure(), [virtual, heights]);
  const { across, width } = useColumnWidth(scroller, rack.columns.length);
  const [before, setBefore] = useState(0);
  const after = rack.columns.length - before - across;
  const currentAt = rack.columns.findIndex((column) => column.current);
  useEffect(() => {
    // Scrolls to the current year at the start.
    const box = scroller.current;
    if (box && currentAt >= 0) box.scrollLeft = Math.max(0, currentAt + 1 - across) * width;
    // Only at the start, and when the width of the columns changes.
  }, [currentAt, across, width]);
  const columns = rack.columns.length + 1;
  const rowAt = spot === null ? -1 : rows.findIndex((row) => row.dossierId === spot.dossierId);
  const at = { row: rowAt, column: spot?.column ?? 0 };

  function go(row: number, column: number): void {
    const dossier = rows[Math.max(0, Math.min(rows.length - 1, row))];
    if (!dossier) return;
    onSpot({ dossierId: dossier.dossierId, column: Math.max(0, Math.min(columns - 1, column)) });
    virtual.scrollToIndex(rows.indexOf(dossier));
    // Scrolling may first have to draw the cell.
    requestAnimationFrame(() =>
      scroller.current
        ?.querySelector<HTMLElement>('[role=gridcell][tabindex="0"], [role=rowheader][tabindex="0"]')
        ?.focus(),
    );
  }

  const goColumns = (by: number) => scroller.current?.scrollBy({ left: by * width, behavior: 'smooth' });

  function keyed(event: KeyboardEvent): void {
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 400) / 90));
    const { row, column } = { row: Math.max(0, at.row), column: at.column };
    const steps: Record<string, () => void> = {
      ArrowDown: () => go(row + 1, column),
      ArrowUp: () => go(row - 1, column),
      ArrowRight: () => go(row, column + 1),
      ArrowLeft: () => go(row, column - 1),
      PageDown: () => go(row + page, column),
      PageUp: () => go(row - page, column),
      Home: () => go(event.ctrlKey ? 0 : row, 0),
      End: () => go(event.ctrlKey ? rows.length - 1 : row, columns - 1),
      Enter: () => open(rows[row], column),
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    step();
  }

  function open(row: RackDossier | undefined, column: number): void {
    const placeId = column === 0 ? row?.dossierId : row?.places[column - 1]?.id;
    if (placeId !== undefined) onOpen(placeId);
  }

  return (
    <div
      ref={scroller}
      role="grid"
      aria-label={label}
      aria-rowcount={rows.length + 1}
      aria-colcount={columns}
      onKeyDown={keyed}
      onScroll={(event) => setBefore(Math.round(event.currentTarget.scrollLeft / width))}
      className="min-h-0 flex-1 snap-x snap-mandatory overflow-auto bg-sheet"
      style={{ scrollPaddingLeft: firstWidth }}
    >
      <div
        className="relative"
        style={{ height: virtual.getTotalSize(), minWidth: firstWidth + rack.columns.length * width }}
      >
        <div
          role="row"
          aria-rowindex={1}
          className="sticky top-0 z-20 grid bg-sheet"
          style={{ gridTemplateColumns: rackColumns(rack.columns.length, width), height: headHeight }}
        >
          <span
            role="columnheader"
            className="sticky left-0 z-10 flex items-center border-r border-b border-line bg-sheet px-3 font-condensed"
          >
            <span className="flex-1">Dossier</span>
            {(before > 0 || after > 0) && (
              <span className="flex gap-1 text-xs font-normal text-brine-ink">
                <ColumnsAside count={before} byYear={rack.byYear} where="before" onGo={() => goColumns(-1)} />
                <ColumnsAside count={after} byYear={rack.byYear} where="after" onGo={() => goColumns(1)} />
              </span>
            )}
          </span>
          {rack.columns.map((column) => (
            <span
              key={column.key}
              role="columnheader"
              aria-current={column.current ? 'date' : undefined}
              className={`flex min-w-0 snap-start flex-col items-center justify-center border-r border-b border-line px-2 font-condensed leading-tight ${column.current ? 'bg-brine-wash' : ''}`}
            >
              <span className="line-clamp-2 text-center" title={column.label}>
                {column.label}
              </span>
              {column.current && <span className="text-xs font-normal text-soft">this year</span>}
            </span>
          ))}
        </div>
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index];
          if (!row) return null;
          const chosen = at.row === item.index ? at.column : -1;
          return (
            <RackRow
              key={item.key}
              row={row}
              columns={rack.columns}
              width={width}
              show={show}
              counting={rack.state === 'counting'}
              index={item.index}
              top={item.start}
              height={item.size}
              chosen={chosen}
              tabbed={at.row < 0 && item.index === 0 ? 0 : chosen}
              onSpot={onSpot}
              onOpen={onOpen}
            />
          );
        })}
      </div>
    </div>
  );
}

/** How many columns lie to the left or right of those in sight; a press brings the next. */
function ColumnsAside({
  count,
  byYear,
  where,
  onGo,
}: {
  readonly count: number;
  readonly byYear: boolean;
  readonly where: 'before' | 'after';
  readonly onGo: () => void;
}) {
  if (count <= 0) return null;
  const words = byYear
    ? counted(count, where === 'before' ? 'earlier year' : 'later year')
    : `${counted(count, 'column')} to the ${where === 'before' ? 'left' : 'right'}`;
  return (
    <button
      type="button"
      // The arrow keys go there as well.
      tabIndex={-1}
      aria-label={`${words}: show the next`}
      onClick={onGo}
      className="rounded-sm px-0.5 hover:underline"
    >
      {where === 'before' ? `‹ ${count}` : `${count} ›`}
    </button>
  );
}

/** Columns are as wide as whole ones fit beside the names: none is cut through. `across`: how many are in sight. */
function useColumnWidth(scroller: RefObject<HTMLDivElement | null>, columns: number) {
  const [room, setRoom] = useState(0);
  useLayoutEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const watch = new ResizeObserver(() => setRoom(box.clientWidth - firstWidth));
    watch.observe(box);
    return () => watch.disconnect();
  }, [scroller]);
  const across = Math.max(1, Math.min(columns, Math.floor(room / leastWidth)));
  // Two or three are not drawn out over a wide window.
  const width = Math.max(leastWidth, Math.min(greatestWidth, Math.floor(room / across)));
  return { across, width };
}

/** The greatest width of a column, in pixels. */
const greatestWidth = 300;
