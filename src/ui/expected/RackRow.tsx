'use client';

import { memo, type MouseEvent } from 'react';
import type { Rack, RackDossier } from '@/core/expected/contract';
import { emptyHolding, type Holding, type RackCell } from '@/core/expected/rack';
import type { RackShow } from '@/core/expected/rackOrder';
import { courseInWords, layOutSquares, squareSize } from '@/core/expected/squares';
import { counted, sizeInWords } from '@/core/text/measure';
import { whenInWords } from '@/core/calendar/moment';
import { Link } from '../kit/link';
import { useSurroundings } from '../surroundings/Surroundings';
import { Squares, squaresInWords } from './Squares';

/** A cell by its dossier and its column; column 0 is the dossier itself, the others are the years. */
export interface RackSpot {
  readonly dossierId: string;
  readonly column: number;
  /** Which of its squares was pressed, counted from 0. */
  readonly square?: number;
}

/** The address of a dossier's front page; of its plain page if it is a bare step. */
export const dossierAddress = ({ dossierId, bareStep }: RackDossier): string =>
  `/place/${dossierId}${bareStep ? '' : '?view=glance'}`;

/** The width of the names, in pixels. */
export const firstWidth = 204;
/** The least width of one filing year, in pixels. */
export const leastYearWidth = 152;
const inset = 20;
/** Above so many lines of squares a cell only counts them. */
const mostLines = 4;

/** The columns of every row, in the words of CSS. */
export const rackColumns = (years: number, yearWidth: number): string =>
  `${firstWidth}px repeat(${years}, ${yearWidth}px)`;

/** How high a row is, in pixels, that its highest cell fits. */
export function rowHeight(row: RackDossier, show: RackShow): number {
  if (show !== 'expected') return 46;
  const inCells = Math.max(...row.cells.map((cell) => squaresHeight(cell?.squares ?? '')), 0);
  return Math.max(50 + squaresHeight(row.squares), 36 + inCells + (inCells > 0 ? 20 : 0));
}

interface Props {
  readonly row: RackDossier;
  readonly years: Rack['years'];
  /** In pixels. */
  readonly yearWidth: number;
  readonly show: RackShow;
  readonly counting: boolean;
  /** Counted from 0, without the head. */
  readonly index: number;
  readonly top: number;
  readonly height: number;
  /** The selected column, which Tab reaches; -1 if none in this row. */
  readonly chosen: number;
  readonly tabbed: number;
  readonly onSpot: (spot: RackSpot) => void;
  /** Opens the papers of a cell: the dossier, or one of its years. */
  readonly onOpen: (placeId: string) => void;
}

/** A dossier over its filing years; redrawn only when its own data changes. */
export const RackRow = memo(function RackRow({
  row,
  years,
  yearWidth,
  show,
  counting,
  index,
  top,
  height,
  chosen,
  tabbed,
  onSpot,
  onOpen,
}: Props) {
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      className="absolute left-0 grid w-full border-b border-line"
      style={{
        gridTemplateColumns: rackColumns(years.length, yearWidth),
        top: 0,
        transform: `translateY(${top}px)`,
        height,
      }}
    >
      <Head
        row={row}
        show={show}
        tabIndex={tabbed === 0 ? 0 : -1}
        chosen={chosen === 0}
        onChoose={(square) => onSpot({ dossierId: row.dossierId, column: 0, ...square })}
      />
      {row.cells.map((cell, at) => {
        const year = years[at];
        const place = row.places[at];
        return (
          <Cell
            key={year?.startYear}
            cell={cell}
            show={show}
            words={`${row.name}, ${year?.label ?? ''}`}
            closed={place?.closed ?? false}
            current={year?.current ?? false}
            counting={counting}
            placeId={place?.id ?? null}
            tabIndex={tabbed === at + 1 ? 0 : -1}
            chosen={chosen === at + 1}
            onChoose={(square) => onSpot({ dossierId: row.dossierId, column: at + 1, ...square })}
            onOpen={() => place && onOpen(place.id)}
          />
        );
      })}
    </div>
  );
});

const squaresHeight = (letters: string): number => {
  const { height } = layOutSquares(letters, leastYearWidth - inset);
  return height > mostLines * 13 ? 16 : height;
};

function Drawn({ letters }: { readonly letters: string }) {
  const { height } = layOutSquares(letters, leastYearWidth - inset);
  if (height > mostLines * 13) return <span className="text-xs text-soft">{squaresInWords(letters)}</span>;
  return <Squares letters={letters} width={leastYearWidth - inset} />;
}

/** The square under the pointer, where there is one. */
function squarePressed(event: MouseEvent): { readonly square: number } | undefined {
  const drawing = event.target instanceof Element ? event.target.closest<SVGElement>('[data-letters]') : null;
  if (!drawing) return undefined;
  const frame = drawing.getBoundingClientRect();
  const [x, y] = [event.clientX - frame.left, event.clientY - frame.top];
  const { squares } = layOutSquares(drawing.dataset['letters'] ?? '', leastYearWidth - inset);
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

function holdsInWords(held: Holding, show: RackShow, now: string, timeZone: string): string {
  switch (show) {
    case 'expected':
    case 'papers':
      return counted(held.papers, 'paper');
    case 'pages':
      return counted(held.pages, 'page');
    case 'size':
      return held.papers === 0 ? '–' : sizeInWords(held.bytes);
    case 'filed':
      return held.lastFiledMs === null ? '–' : whenInWords(new Date(held.lastFiledMs).toISOString(), now, timeZone);
  }
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
  const holds = holdsInWords(held, show, now, timeZone);
  const told = cell
    ? [words, closed ? 'closed' : '', holds, show === 'expected' ? squaresInWords(cell.squares) : '']
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
            {holds}
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
