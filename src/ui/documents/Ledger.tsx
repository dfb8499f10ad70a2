'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { useEffect, useRef, type KeyboardEvent, type MouseEvent } from 'react';
import type { Direction, PaperRow } from '@/core/documents/model';
import type { PlaceRow } from '@/core/places/model';
import { counted } from '@/core/text/measure';
import { useSurroundings } from '../shell/Surroundings';
import type { Names } from '@/core/columns/format';
import type { Label } from '@/core/labels/model';
import { leastWidth, tracksOf, type LedgerColumn } from './ledgerColumns';
import { PaperLine } from './PaperLine';
import { PlaceLine } from './PlaceLine';

interface Props {
  readonly label: string;
  readonly places: readonly PlaceRow[];
  readonly papers: readonly PaperRow[];
  /** How many papers there are in all, those not loaded yet among them. */
  readonly total: number;
  readonly columns: readonly LedgerColumn[];
  readonly names: Names;
  readonly labels: ReadonlyMap<string, Label>;
  readonly sort: string;
  readonly direction: Direction;
  readonly onSort: (sort: string) => void;
  /** The id of the line that the docket shows and the keys speak to. */
  readonly cursor: string | null;
  readonly onCursor: (id: string) => void;
  readonly ticked: ReadonlySet<string>;
  readonly onTick: (ids: readonly string[], tick: boolean) => void;
  readonly onOpenPaper: (id: string) => void;
  readonly onOpenPlace: (id: string) => void;
  readonly renaming: string | null;
  readonly onRename: (id: string | null) => void;
  readonly onDispose: (ids: readonly string[]) => void;
  readonly mayAmend: boolean;
}

/** Places first, then papers, as one virtualised grid (WAI-ARIA grid pattern, the active line by `aria-activedescendant`). */
export function Ledger(props: Props) {
  const { places, papers, total, cursor, ticked, columns } = props;
  const tracks = tracksOf(columns);
  const { rowHeight } = useSurroundings();
  const scroller = useRef<HTMLDivElement>(null);
  const anchor = useRef<string | null>(null);
  // The line the keys speak to: ahead of `cursor` while the address catches up with fast typing.
  const active = useRef(cursor);
  useEffect(() => {
    active.current = cursor;
  }, [cursor]);
  const count = places.length + total;
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 20,
  });

  const idAt = (index: number): string | undefined => (places[index] ?? papers[index - places.length])?.id;
  const indexOf = (id: string | null): number => {
    const place = places.findIndex((each) => each.id === id);
    if (place !== -1) return place;
    const paper = papers.findIndex((each) => each.id === id);
    return paper === -1 ? -1 : paper + places.length;
  };

  function tickRange(to: string) {
    const [a, b] = [indexOf(anchor.current ?? to), indexOf(to)].sort((x, y) => x - y);
    if (a === undefined || b === undefined || a < 0) return;
    const ids = papers
      .slice(Math.max(0, a - places.length), Math.max(0, b - places.length + 1))
      .map((paper) => paper.id);
    props.onTick(ids, true);
  }

  function moveTo(index: number, extend: boolean) {
    const id = idAt(Math.max(0, Math.min(count - 1, index)));
    if (id === undefined) return;
    if (extend) anchor.current ??= active.current;
    active.current = id;
    if (extend) {
      props.onCursor(id);
      tickRange(id);
    } else {
      anchor.current = id;
      props.onCursor(id);
    }
    virtual.scrollToIndex(indexOf(id));
  }

  function onKeyDown(event: KeyboardEvent) {
    if (event.target !== event.currentTarget) return;
    const at = indexOf(active.current);
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 400) / rowHeight) - 1);
    const moves: Record<string, number> = {
      ArrowDown: at + 1,
      ArrowUp: at === -1 ? 0 : at - 1,
      PageDown: at + page,
      PageUp: at - page,
      Home: 0,
      End: count - 1,
    };
    const next = moves[event.key];
    const atPaper = papers[at - places.length];
    if (next !== undefined) moveTo(next, event.shiftKey);
    else if (event.key === ' ' && atPaper) {
      anchor.current = atPaper.id;
      props.onTick([atPaper.id], !ticked.has(atPaper.id));
    } else if (event.key === 'Enter' && at !== -1) {
      if (atPaper) props.onOpenPaper(atPaper.id);
      else if (places[at]) props.onOpenPlace(places[at].id);
    } else if (event.key === 'F2' && active.current && props.mayAmend) props.onRename(active.current);
    else if (event.key === 'Delete' && props.mayAmend && atPaper) {
      const here = papers.filter((paper) => ticked.has(paper.id)).map((paper) => paper.id);
      props.onDispose(here.length > 0 ? here : [atPaper.id]);
    } else if (event.key === 'a' && (event.ctrlKey || event.metaKey))
      props.onTick(
        papers.map((paper) => paper.id),
        true,
      );
    else return;
    event.preventDefault();
  }

  function onPaperClick(event: MouseEvent, id: string) {
    if (event.shiftKey) tickRange(id);
    else {
      if (event.ctrlKey || event.metaKey) props.onTick([id], !ticked.has(id));
      anchor.current = id;
    }
    props.onCursor(id);
  }

  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-x-auto">
      {total > 0 && <Headings {...props} />}
      <div
        ref={scroller}
        style={{ minWidth: leastWidth(columns) }}
        role="grid"
        tabIndex={0}
        aria-label={props.label}
        aria-rowcount={count}
        aria-multiselectable
        aria-activedescendant={cursor && indexOf(cursor) !== -1 ? `line-${cursor}` : undefined}
        onKeyDown={onKeyDown}
        className="min-h-0 flex-1 overflow-y-auto bg-sheet focus-visible:-outline-offset-2"
      >
        <div role="rowgroup" className="relative w-full" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start, key }) => {
            const place = places[index];
            const paper = papers[index - places.length];
            const id = place?.id ?? paper?.id;
            return (
              <div
                key={key}
                role="row"
                id={id && `line-${id}`}
                aria-rowindex={index + 1}
                aria-selected={paper ? ticked.has(paper.id) : undefined}
                data-current={id === cursor || undefined}
                style={{ height: rowHeight, transform: `translateY(${start}px)`, gridTemplateColumns: tracks }}
                className={clsx(
                  'absolute top-0 left-0 grid w-full items-center border-b border-line',
                  paper && ticked.has(paper.id)
                    ? 'bg-straw text-straw-ink'
                    : id === cursor
                      ? 'bg-brine-wash'
                      : 'hover:bg-fog',
                )}
              >
                {id === cursor && <span aria-hidden className="absolute inset-y-0 left-0 w-[3px] bg-brine-ink" />}
                {place && <PlaceLine place={place} {...props} onClick={() => props.onCursor(place.id)} />}
                {!place && paper && (
                  <PaperLine
                    paper={paper}
                    columns={columns}
                    names={props.names}
                    labels={props.labels}
                    ticked={ticked.has(paper.id)}
                    renaming={props.renaming === paper.id}
                    onRename={props.onRename}
                    onTick={props.onTick}
                    onOpen={props.onOpenPaper}
                    onClick={(event) => onPaperClick(event, paper.id)}
                  />
                )}
                {!place && !paper && (
                  <span role="gridcell" className="col-start-2 text-soft" aria-busy>
                    …
                  </span>
                )}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

function Headings({ columns, sort, direction, onSort, papers, ticked, onTick }: Props) {
  const all = papers.length > 0 && papers.every((paper) => ticked.has(paper.id));
  return (
    <div
      className="grid h-[30px] shrink-0 items-center border-b border-line bg-sheet text-sm text-soft"
      style={{ gridTemplateColumns: tracksOf(columns), minWidth: leastWidth(columns) }}
    >
      <span className="grid place-items-center">
        {papers.length > 0 && (
          <input
            type="checkbox"
            aria-label={`Pick up all: ${counted(papers.length, 'paper')}`}
            checked={all}
            onChange={() =>
              onTick(
                papers.map((paper) => paper.id),
                !all,
              )
            }
            className="size-[15px] accent-brine"
          />
        )}
      </span>
      {[{ key: 'title', heading: 'Title', figures: false }, ...columns].map((column) => (
        <button
          key={column.key}
          type="button"
          onClick={() => onSort(column.key)}
          aria-label={`Sort by ${column.heading.toLowerCase()}${column.key === sort ? (direction === 'up' ? ', now ascending' : ', now descending') : ''}`}
          className={clsx(
            'font-condensed truncate px-1.5 hover:text-ink',
            column.figures ? 'text-right' : 'text-left',
            column.key === sort && 'text-ink',
          )}
        >
          {column.heading}
          {column.key === sort && <span aria-hidden>{direction === 'up' ? ' ↑' : ' ↓'}</span>}
        </button>
      ))}
    </div>
  );
}
