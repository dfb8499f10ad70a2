'use client';

import { memo, type MouseEvent } from 'react';
import type { Rack, RackDossier } from '@/core/expected/contract';
import { emptyHolding, stateLetters, stateOfLetter, type Holding, type RackCell } from '@/core/expected/rack';
import type { RackColumn } from '@/core/expected/rackColumns';
import type { RackShow } from '@/core/expected/rackOrder';
import { courseInWords, layOutSquares, squareSize } from '@/core/expected/squares';
import { counted, sizeInWords } from '@/core/text/measure';
import { whenInWords } from '@/core/calendar/moment';
import { Link } from '../kit/link';
import { useSurroundings } from '../surroundings/Surroundings';
import { Squares, squaresInWords } from './Squares';

/** A cell by its dossier and its column; column 0 is the dossier itself. */
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
/** The least width of a column, in pixels. */
export const leastWidth = 152;
const inset = 20;
/** Above so many lines of squares a cell only counts them. */
const mostLines = 4;

/** The columns of every row, in the words of CSS. */
export const rackColumns = (columns: number, width: number): string => `${firstWidth}px repeat(${columns}, ${width}px)`;

/** How high a row is, in pixels, that its highest cell fits. */
export function rowHeight(row: RackDossier, show: RackShow): number {
  if (show !== 'expected') return 46;
  const inCells = Math.max(...row.cells.map((cell) => squaresHeight(cell?.squares ?? '')), 0);
  return Math.max(50 + squaresHeight(row.squares), 36 + inCells + (inCells > 0 ? 20 : 0));
}

interface Props {
  readonly row: RackDossier;
  readonly columns: Rack['columns'];
  /** In pixels. */
  readonly width: number;
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
  /** Opens the papers of a cell. */
  readonly onOpen: (placeId: string) => void;
}

/** A dossier over its columns; redrawn only when its own data changes. */
export const RackRow = memo(function RackRow({
  row,
  columns,
  width,
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
        gridTemplateColumns: rackColumns(columns.length, width),
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
        const column = columns[at];
        const place = row.places[at];
        if (!column) return null;
        return (
          <Cell
            key={column.key}
            kind={column.kind}
            cell={cell}
            show={show}
            words={`${row.name}, ${column.label}`}
            closed={place?.closed ?? false}
            current={column.current}
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
  const { height } = layOutSquares(letters, leastWidth - inset);
  return height > mostLines * 13 ? 16 : height;
};

function Drawn({ letters }: { readonly letters: string }) {
  const { height } = layOutSquares(letters, leastWidth - inset);
  if (height > mostLines * 13) return <span className="text-xs text-soft">{squaresInWords(letters)}</span>;
  return <Squares letters={letters} width={leastWidth - inset} />;
}

/** The square under the pointer, where there is one. */
function squarePressed(event: MouseEvent): { readonly square: number } | undefined {
  const drawing = event.target instanceof Element ? event.target.closest<SVGElement>('[data-letters]') : null;
  if (!drawing) return undefined;
  const frame = drawing.getBoundingClientRect();
  const [x, y] = [event.clientX - frame.left, event.clientY - frame.top];
  const { squares } = layOutSquares(drawing.dataset['letters'] ?? '', leastWidth - inset);
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

/** What has come of the one paper that is expected in a cell. */
const paperWords = {
  met: 'there',
  ending: 'runs out soon',
  ahead: 'not due yet',
  gap: 'missing',
  waived: 'not needed',
} as const;

function paperInWords(squares: string): string {
  const state = stateOfLetter(squares);
  return state === null ? '–' : paperWords[state];
}

function Cell({
  kind,
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
  readonly kind: RackColumn['kind'];
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
  const held = cell ?? { ...emptyHolding, squares: '' };
  const course = cell ? courseInWords(cell.squares) : '';
  const isPaper = kind === 'paper';
  // The number of all papers stands with the dossier.
  const shown = kind === 'whole' && show === 'expected' ? 'filed' : show;
  const last = kind === 'whole' && shown === 'filed' && held.lastFiledMs !== null ? 'last filed ' : '';
  const holds = isPaper ? paperInWords(held.squares) : `${last}${holdsInWords(held, shown, now, timeZone)}`;
  const drawn = show === 'expected' && held.squares !== '';
  const told = cell
    ? [words, closed ? 'closed' : '', holds, drawn && !isPaper ? squaresInWords(cell.squares) : '']
    : [words, kind === 'year' ? 'no place for this year' : 'no such folder'];
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
            className={`figures text-sm hover:underline ${held.papers === 0 && held.squares !== stateLetters.gap ? 'text-soft' : ''}`}
          >
            {holds}
          </Link>
          {(drawn || isPaper) && (
            <>
              <span className="mt-1" title={squaresInWords(cell.squares)}>
                <Drawn letters={cell.squares} />
              </span>
              {!isPaper && (
                <span className={`text-xs ${cell.gaps > 0 ? 'font-medium text-ember-ink' : 'text-soft'}`}>
                  {course}
                </span>
              )}
            </>
          )}
          {closed && <span className="text-xs text-soft">closed</span>}
        </>
      )}
    </div>
  );
}
