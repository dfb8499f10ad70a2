'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type MouseEvent } from 'react';
import type { PlacedPaper } from '@/core/documents/contract';
import { useNarrow } from '../kit/useNarrow';
import { useStable } from '../kit/useStable';
import { useSurroundings } from '../surroundings/Surroundings';
import { GroupLine } from './GroupLine';
import { leastWidth, stickyFrom, tracksOf, type LedgerColumn } from './ledgerColumns';
import { LedgerHeadings } from './LedgerHeadings';
import type { LedgerProps } from './ledgerProps';
import { droppableOn } from '../uploads/versionDrop';
import { PaperLine } from './PaperLine';
import { PlaceLine } from './PlaceLine';

const headingHeight = 30;
/** The height of a row with two lines, for a thumb. */
const twoLines = 56;
const none: readonly LedgerColumn[] = [];

/**
 * Places first, then papers under the headings of their groups, as one virtualised grid (WAI-ARIA grid pattern, the active
 * line by `aria-activedescendant`).
 */
export function Ledger(props: LedgerProps) {
  const { places, display, paperAt, cursor, ticked, onSight } = props;
  // Where there is no room for columns they stand in a second line.
  const isNarrow = useNarrow();
  const [columns, beneath, frozen] = isNarrow ? [none, props.columns, 0] : [props.columns, none, props.frozen];
  const tracks = tracksOf(columns, frozen);
  const sticky = useMemo(() => stickyFrom(columns, frozen), [columns, frozen]);
  const { rowHeight: oneLine } = useSurroundings();
  const rowHeight = isNarrow ? twoLines : oneLine;
  const scroller = useRef<HTMLDivElement>(null);
  const anchor = useRef<number | null>(null);
  // Which of its lines is active, for a paper that is in several groups.
  const [at, setAt] = useState<number | null>(null);
  // The line that keys act on, which is ahead of what is painted during fast typing.
  const active = useRef<number | null>(null);
  const count = places.length + display.count;
  const idAt = (index: number): string | undefined => {
    if (index < places.length) return places[index]?.id;
    const line = display.lineAt(index - places.length);
    return line?.kind === 'paper' ? paperAt(line.line)?.id : undefined;
  };
  // Keyed by paper, so that half-typed text stays with its paper when lines are inserted before it. (For React only; the
  // virtualizer would compute all keys at once.)
  const keyAt = (index: number): string => {
    const line = display.lineAt(index - places.length);
    if (line?.kind === 'group') return line.path;
    const id = idAt(index);
    return id === undefined ? `line ${index}` : `${id} ${line?.kind === 'paper' ? line.group : ''}`;
  };
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 24,
    scrollMargin: headingHeight,
    scrollPaddingStart: headingHeight,
  });
  useEffect(() => virtual.measure(), [virtual, rowHeight]);
  const items = virtual.getVirtualItems();
  // The known line, or else a search among the visible ones.
  const current = useMemo(() => {
    if (at !== null && at < count && (idAt(at) === cursor || display.lineAt(at - places.length)?.kind === 'group'))
      return at;
    if (cursor === null) return -1;
    const place = places.findIndex((each) => each.id === cursor);
    if (place !== -1) return place;
    return items.find(({ index }) => idAt(index) === cursor)?.index ?? -1;
  }, [at, cursor, count, places, display, items, paperAt]); // eslint-disable-line react-hooks/exhaustive-deps
  useEffect(() => {
    if (current !== -1) active.current = current;
  }, [current]);

  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0];
  useEffect(() => {
    const lines = [first, last].map((index) => {
      for (let near = index; near < index + 40; near += 1) {
        const line = display.lineAt(near - places.length);
        if (line) return line.kind === 'paper' ? line.line : line.start;
      }
      return 0;
    });
    onSight(lines[0] ?? 0, Math.max(lines[0] ?? 0, lines[1] ?? 0));
  }, [first, last, display, places.length, onSight]);

  const { orderKey } = props;
  const order = useRef(orderKey);
  useEffect(() => {
    if (order.current === orderKey) return;
    order.current = orderKey;
    anchor.current = null;
    scroller.current?.scrollTo({ top: 0 });
  }, [orderKey]);

  function tickRange(to: number) {
    const [a, b] = [anchor.current ?? to, to].sort((x, y) => x - y);
    const lines: number[] = [];
    for (let index = a ?? to; index <= (b ?? to); index += 1) {
      const line = display.lineAt(index - places.length);
      if (line?.kind === 'paper') lines.push(line.line);
    }
    const [start] = lines;
    if (start === undefined) return;
    const here = lines.flatMap((line) => paperAt(line) ?? []);
    if (here.length === lines.length) props.onTick(here, true);
    else props.onTickLines(start, (lines.at(-1) ?? start) - start + 1);
  }

  function moveTo(index: number, extend: boolean) {
    const next = Math.max(0, Math.min(count - 1, index));
    if (extend) anchor.current ??= active.current ?? next;
    active.current = next;
    setAt(next);
    const id = idAt(next);
    if (id !== undefined) props.onCursor(id);
    if (extend) tickRange(next);
    else anchor.current = next;
    virtual.scrollToIndex(next);
  }

  function onKeyDown(event: KeyboardEvent) {
    if (event.target !== event.currentTarget) return;
    const here = active.current ?? -1;
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 400) / rowHeight) - 2);
    const moves: Record<string, number> = {
      ArrowDown: here + 1,
      ArrowUp: here === -1 ? 0 : here - 1,
      PageDown: here + page,
      PageUp: here - page,
      Home: 0,
      End: count - 1,
    };
    const next = moves[event.key];
    const line = display.lineAt(here - places.length);
    const paper = line?.kind === 'paper' ? paperAt(line.line) : undefined;
    const heading = line?.kind === 'group' ? line : null;
    if (next !== undefined) moveTo(next, event.shiftKey);
    else if (heading && (event.key === 'Enter' || event.key === (heading.open ? 'ArrowLeft' : 'ArrowRight')))
      props.onFold(heading.path);
    else if (heading && event.key === ' ') props.onTickLines(heading.start, heading.group.lines);
    else if (event.key === ' ' && paper) {
      anchor.current = here;
      props.onTick([paper], !ticked.has(paper.id));
    } else if (event.key === 'Enter' && here !== -1) {
      if (paper) props.onOpenPaper(paper.id);
      else if (places[here]) props.onOpenPlace(places[here].id);
    } else if (event.key === 'F2' && props.mayAmend && idAt(here)) props.onRename(idAt(here) ?? null);
    else if (event.key === 'Delete' && props.mayAmend && paper)
      props.onDispose(ticked.has(paper.id) ? [...ticked] : [paper.id]);
    else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) props.onTickLines(0, Number.MAX_SAFE_INTEGER);
    else return;
    event.preventDefault();
  }

  const onPaperClick = useStable((event: MouseEvent, index: number, paper: PlacedPaper) => {
    if (event.shiftKey) tickRange(index);
    else {
      if (event.ctrlKey || event.metaKey) props.onTick([paper], !ticked.has(paper.id));
      anchor.current = index;
    }
    setAt(index);
    props.onCursor(paper.id);
  });

  return (
    <div
      ref={scroller}
      // Rows that fold belong to a treegrid (WAI-ARIA).
      role={display.headings.length > 0 ? 'treegrid' : 'grid'}
      tabIndex={0}
      aria-label={props.label}
      aria-rowcount={count + 1}
      aria-multiselectable
      aria-activedescendant={current === -1 ? undefined : `line-${current}`}
      onKeyDown={onKeyDown}
      className="min-h-0 flex-1 overflow-auto bg-sheet focus-visible:-outline-offset-2"
    >
      <LedgerHeadings {...props} columns={columns} frozen={frozen} />
      <div
        role="rowgroup"
        className="relative w-full"
        style={{ height: virtual.getTotalSize() - headingHeight, minWidth: leastWidth(columns, frozen) }}
      >
        {items.map(({ index, start }) => {
          const place = places[index];
          const line = place ? null : display.lineAt(index - places.length);
          const paper = line?.kind === 'paper' ? paperAt(line.line) : undefined;
          const chosen = index === current;
          const picked = paper !== undefined && ticked.has(paper.id);
          return (
            <div
              key={keyAt(index)}
              role="row"
              id={`line-${index}`}
              aria-rowindex={index + 2}
              aria-level={line?.kind === 'group' ? line.depth + 1 : undefined}
              aria-expanded={line?.kind === 'group' ? line.open : undefined}
              aria-selected={paper ? picked : undefined}
              data-current={chosen || undefined}
              {...(paper && droppableOn(paper))}
              style={{
                height: rowHeight,
                transform: `translateY(${start - headingHeight}px)`,
                gridTemplateColumns: tracks,
              }}
              className={clsx(
                'absolute top-0 left-0 grid w-full items-center border-b border-line',
                picked
                  ? 'bg-straw text-straw-ink'
                  : chosen
                    ? 'bg-brine-wash'
                    : line?.kind === 'group'
                      ? 'bg-mist'
                      : 'bg-sheet hover:bg-fog',
              )}
            >
              {chosen && <span aria-hidden className="absolute inset-y-0 left-0 z-10 w-[3px] bg-brine-ink" />}
              {place && (
                <PlaceLine
                  place={place}
                  {...props}
                  onClick={() => {
                    setAt(index);
                    props.onCursor(place.id);
                  }}
                />
              )}
              {line?.kind === 'group' && (
                <GroupLine
                  heading={line}
                  words={props.measureWords(line)}
                  onFold={() => {
                    setAt(index);
                    props.onFold(line.path);
                  }}
                  onPickUp={() => props.onTickLines(line.start, line.group.lines)}
                  onTakeValue={props.onTakeValue}
                />
              )}
              {paper && line && (
                <PaperLine
                  key={paper.id}
                  paper={paper}
                  depth={line.depth}
                  columns={columns}
                  beneath={beneath}
                  sticky={sticky}
                  names={props.names}
                  labels={props.labels}
                  ticked={picked}
                  renaming={props.renaming === paper.id}
                  onPutBefore={props.onPutBefore}
                  onRename={props.onRename}
                  onTick={props.onTick}
                  onOpen={props.onOpenPaper}
                  index={index}
                  onClick={onPaperClick}
                />
              )}
              {!place && !paper && line?.kind !== 'group' && (
                <span role="gridcell" className="col-start-2 text-soft" aria-busy>
                  …
                </span>
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}
