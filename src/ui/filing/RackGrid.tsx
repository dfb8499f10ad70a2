'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import Link from 'next/link';
import { useEffect, useRef, type KeyboardEvent, type MouseEvent } from 'react';
import type { Rack, RackDossier } from '@/core/filing/contract';
import { emptyHolding, type RackCell } from '@/core/filing/rack';
import type { RackShow } from '@/core/filing/rackOrder';
import { courseInWords, layOutSquares, squareSize } from '@/core/filing/squares';
import { counted, sizeInWords } from '@/core/text/measure';
import { whenInWords } from '@/core/text/moment';
import { useSurroundings } from '../shell/Surroundings';
import { Squares, squaresInWords } from './Squares';

/** A cell by its dossier and its column; column 0 is the dossier itself, the others are the years. */
export interface RackSpot {
  readonly dossierId: string;
  readonly column: number;
  /** Which of its squares was pressed, counted from 0. */
  readonly square?: number;
}

/** Where a dossier is seen at a glance; where it is only a step, its plain page. */
export const dossierAddress = ({ dossierId, bareStep }: RackDossier): string =>
  `/place/${dossierId}${bareStep ? '' : '?view=glance'}`;

const firstWidth = 204;
const yearWidth = 152;
const inset = 20;
const headHeight = 38;
/** Above so many lines of squares a cell only counts them. */
const mostLines = 4;

interface Props {
  readonly rack: Rack;
  readonly rows: readonly RackDossier[];
  readonly show: RackShow;
  readonly spot: RackSpot | null;
  readonly onSpot: (spot: RackSpot) => void;
  /** Opens the papers of a cell: the dossier, or one of its years. */
  readonly onOpen: (placeId: string) => void;
  readonly label: string;
}

/** Dossiers down, filing years across: a grid for mouse and keys (WAI-ARIA grid pattern), of which only the rows in sight are drawn. */
export function RackGrid({ rack, rows, show, spot, onSpot, onOpen, label }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const height = (row: RackDossier): number => {
    if (show !== 'expected') return 46;
    const inCells = Math.max(...row.cells.map((cell) => squaresHeight(cell?.squares ?? '')), 0);
    return Math.max(50 + squaresHeight(row.squares), 36 + inCells + (inCells > 0 ? 20 : 0));
  };
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (at) => height(rows[at] as RackDossier),
    overscan: 8,
    paddingStart: headHeight,
    scrollPaddingStart: headHeight,
    getItemKey: (at) => rows[at]?.dossierId ?? at,
  });
  useEffect(() => virtual.measure(), [virtual, rows, show]);
  const currentAt = rack.years.findIndex((year) => year.current);
  useEffect(() => {
    // What is at hand is this year's: it is in sight from the start, with those before it.
    const box = scroller.current;
    if (box && currentAt >= 0) box.scrollLeft = firstWidth + (currentAt + 1) * yearWidth - box.clientWidth;
  }, [currentAt]);
  const columns = rack.years.length + 1;
  const rowAt = spot === null ? -1 : rows.findIndex((row) => row.dossierId === spot.dossierId);
  const at = { row: rowAt, column: spot?.column ?? 0 };

  function go(row: number, column: number): void {
    const dossier = rows[Math.max(0, Math.min(rows.length - 1, row))];
    if (!dossier) return;
    onSpot({ dossierId: dossier.dossierId, column: Math.max(0, Math.min(columns - 1, column)) });
    virtual.scrollToIndex(rows.indexOf(dossier));
    // The cell may only be drawn by the scrolling.
    requestAnimationFrame(() =>
      scroller.current
        ?.querySelector<HTMLElement>('[role=gridcell][tabindex="0"], [role=rowheader][tabindex="0"]')
        ?.focus(),
    );
  }

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

  const style = { gridTemplateColumns: `${firstWidth}px repeat(${rack.years.length}, minmax(${yearWidth}px, 1fr))` };
  return (
    <div
      ref={scroller}
      role="grid"
      aria-label={label}
      aria-rowcount={rows.length + 1}
      aria-colcount={columns}
      onKeyDown={keyed}
      className="min-h-0 flex-1 overflow-auto bg-sheet"
    >
      <div
        className="relative"
        style={{ height: virtual.getTotalSize(), minWidth: firstWidth + rack.years.length * yearWidth }}
      >
        <div
          role="row"
          aria-rowindex={1}
          className="sticky top-0 z-20 grid bg-sheet"
          style={{ ...style, height: headHeight }}
        >
          <span
            role="columnheader"
            className="sticky left-0 z-10 flex items-center border-r border-b border-line bg-sheet px-3 font-condensed"
          >
            Dossier
          </span>
          {rack.years.map((year) => (
            <span
              key={year.startYear}
              role="columnheader"
              aria-current={year.current ? 'date' : undefined}
              className={`flex flex-col items-center justify-center border-r border-b border-line font-condensed leading-tight ${year.current ? 'bg-brine-wash' : ''}`}
            >
              {year.label}
              {year.current && <span className="text-xs font-normal text-soft">this year</span>}
            </span>
          ))}
        </div>
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index];
          if (!row) return null;
          const isChosen = (column: number) => at.row === item.index && at.column === column;
          const tab = (column: number) =>
            isChosen(column) || (at.row < 0 && item.index === 0 && column === 0) ? 0 : -1;
          return (
            <div
              key={item.key}
              role="row"
              aria-rowindex={item.index + 2}
              className="absolute left-0 grid w-full border-b border-line"
              style={{ ...style, top: 0, transform: `translateY(${item.start}px)`, height: item.size }}
            >
              <Head
                row={row}
                show={show}
                tabIndex={tab(0)}
                chosen={isChosen(0)}
                onChoose={(square) => onSpot({ dossierId: row.dossierId, column: 0, ...square })}
              />
              {row.cells.map((cell, index) => {
                const year = rack.years[index];
                const place = row.places[index];
                return (
                  <Cell
                    key={year?.startYear}
                    cell={cell}
                    show={show}
                    words={`${row.name}, ${year?.label ?? ''}`}
                    closed={place?.closed ?? false}
                    current={year?.current ?? false}
                    counting={rack.state === 'counting'}
                    placeId={place?.id ?? null}
                    tabIndex={tab(index + 1)}
                    chosen={isChosen(index + 1)}
                    onChoose={(square) => onSpot({ dossierId: row.dossierId, column: index + 1, ...square })}
                    onOpen={() => open(row, index + 1)}
                  />
                );
              })}
            </div>
          );
        })}
      </div>
    </div>
  );
}

const squaresHeight = (letters: string): number => {
  const { height } = layOutSquares(letters, yearWidth - inset);
  return height > mostLines * 13 ? 16 : height;
};

function Drawn({ letters }: { readonly letters: string }) {
  const { height } = layOutSquares(letters, yearWidth - inset);
  if (height > mostLines * 13) return <span className="text-xs text-soft">{squaresInWords(letters)}</span>;
  return <Squares letters={letters} width={yearWidth - inset} />;
}

/** The square under the pointer, where there is one. */
function squarePressed(event: MouseEvent): { readonly square: number } | undefined {
  const drawing = event.target instanceof Element ? event.target.closest<SVGElement>('[data-letters]') : null;
  if (!drawing) return undefined;
  const frame = drawing.getBoundingClientRect();
  const [x, y] = [event.clientX - frame.left, event.clientY - frame.top];
  const { squares } = layOutSquares(drawing.dataset['letters'] ?? '', yearWidth - inset);
  const under = squares.find(
    (square) => x >= square.x && x < square.x + squareSize.step && y >= square.y && y < square.y + squareSize.line,
  );
  return under && { square: under.at };
}

const ring = 'outline-none focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-brine-ink';

function Head({
  row,
  show,
  tabIndex,
  chosen,
  onChoose,
}: {
  readonly row: RackDossier;
  readonly show: RackShow;
  readonly tabIndex: number;
  readonly chosen: boolean;
  readonly onChoose: (square?: { readonly square: number }) => void;
}) {
  return (
    <div
      role="rowheader"
      aria-colindex={1}
      aria-selected={chosen}
      tabIndex={tabIndex}
      onClick={(event) => onChoose(squarePressed(event))}
      onFocus={() => !chosen && onChoose()}
      className={`sticky left-0 z-10 overflow-hidden border-r border-line px-3 py-1.5 ${chosen ? 'bg-brine-wash' : 'bg-sheet'} ${ring}`}
    >
      <span className="flex min-w-0 items-baseline gap-1.5">
        {row.reference !== null && <span className="shrink-0 font-mono text-xs text-soft">{row.reference}</span>}
        <Link
          href={dossierAddress(row)}
          tabIndex={-1}
          title={row.name}
          className="truncate font-semibold hover:underline"
        >
          {row.name}
        </Link>
      </span>
      <span className="block truncate text-xs text-soft">
        {row.closed && 'closed · '}
        {counted(row.whole.papers, 'paper')}
        {row.gaps > 0 && <strong className="font-medium text-ember-ink"> · {counted(row.gaps, 'gap')}</strong>}
      </span>
      {show === 'expected' && row.squares !== '' && (
        <span className="mt-1 block" title={squaresInWords(row.squares)}>
          <Drawn letters={row.squares} />
        </span>
      )}
    </div>
  );
}

function Cell({
  cell,
  show,
  words,
  closed,
  current,
  counting,
  placeId,
  tabIndex,
  chosen,
  onChoose,
  onOpen,
}: {
  readonly cell: RackCell | null;
  readonly show: RackShow;
  readonly words: string;
  readonly closed: boolean;
  readonly current: boolean;
  readonly counting: boolean;
  readonly placeId: string | null;
  readonly tabIndex: number;
  readonly chosen: boolean;
  readonly onChoose: (square?: { readonly square: number }) => void;
  readonly onOpen: () => void;
}) {
  const { now, timeZone } = useSurroundings();
  const held = cell ?? emptyHolding;
  const course = cell ? courseInWords(cell.squares) : '';
  const shown: Record<RackShow, string> = {
    expected: counted(held.papers, 'paper'),
    papers: counted(held.papers, 'paper'),
    pages: counted(held.pages, 'page'),
    size: held.papers === 0 ? '–' : sizeInWords(held.bytes),
    filed: held.lastFiledMs === null ? '–' : whenInWords(new Date(held.lastFiledMs).toISOString(), now, timeZone),
  };
  const told = cell
    ? [words, closed ? 'closed' : '', shown[show], show === 'expected' ? squaresInWords(cell.squares) : '']
    : [words, 'no place for this year'];
  const openByDouble = (event: MouseEvent) => {
    event.preventDefault();
    onOpen();
  };
  return (
    <div
      role="gridcell"
      aria-selected={chosen}
      aria-label={told.filter((each) => each !== '').join(', ')}
      tabIndex={tabIndex}
      onClick={(event) => onChoose(squarePressed(event))}
      onFocus={() => !chosen && onChoose()}
      onDoubleClick={openByDouble}
      className={`flex flex-col items-center overflow-hidden border-r border-line px-2 py-1.5 ${closed ? 'hatched' : ''} ${chosen ? 'bg-brine-wash' : current ? 'bg-fog' : ''} ${ring}`}
    >
      {cell === null ? (
        <span className="m-auto text-soft" aria-hidden>
          –
        </span>
      ) : counting ? (
        <span className="m-auto text-xs text-soft">counting…</span>
      ) : (
        <>
          <Link
            href={`/place/${placeId ?? ''}`}
            tabIndex={-1}
            title="Open these papers"
            className={`figures text-sm hover:underline ${held.papers === 0 ? 'text-soft' : ''}`}
          >
            {shown[show]}
          </Link>
          {show === 'expected' && cell.squares !== '' && (
            <>
              <span className="mt-1" title={squaresInWords(cell.squares)}>
                <Drawn letters={cell.squares} />
              </span>
              <span className={`text-xs ${cell.gaps > 0 ? 'font-medium text-ember-ink' : 'text-soft'}`}>{course}</span>
            </>
          )}
          {closed && <span className="text-xs text-soft">closed</span>}
        </>
      )}
    </div>
  );
}
