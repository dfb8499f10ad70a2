'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { useEffect, useMemo, useRef, type KeyboardEvent, type MouseEvent } from 'react';
import { whenInWords } from '@/core/calendar/moment';
import type { PlacedPaper } from '@/core/documents/contract';
import type { FoundWhy } from '@/core/search/contract';
import { paperAddress, spotOf, type Spot } from '@/core/search/spot';
import type { FindCondition } from '@/core/views/conditions';
import { GroupLine } from '../documents/GroupLine';
import type { LedgerProps } from '../documents/ledgerProps';
import { Link } from '../kit/link';
import { Marked } from '../kit/marked';
import { Path } from '../kit/path';
import { Stamp } from '../kit/stamp';
import { useSurroundings } from '../surroundings/Surroundings';
import { useWhy } from './useWhy';

type Props = Pick<
  LedgerProps,
  | 'label'
  | 'display'
  | 'paperAt'
  | 'onSight'
  | 'cursor'
  | 'onCursor'
  | 'ticked'
  | 'onTick'
  | 'onTickLines'
  | 'onFold'
  | 'onTakeValue'
  | 'measureWords'
> & {
  readonly find: FindCondition;
  /** `spot`: where in the paper, as its address has it. */
  readonly onOpenPaper: (id: string, spot: Spot) => void;
};

const usualHeight = 92;

/** Papers that were found, each with the passage, the value or the name that answers. One list for the keyboard. */
export function Passages(props: Props) {
  const { display, paperAt, cursor, ticked, onSight } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: display.count,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => (display.lineAt(index)?.kind === 'group' ? 34 : usualHeight),
    overscan: 4,
    getItemKey: (index) => {
      const line = display.lineAt(index);
      return line?.kind === 'group' ? line.path : `${line?.group ?? 0} ${line?.line ?? index}`;
    },
  });
  const items = virtual.getVirtualItems();
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0];
  const lines = useMemo(() => {
    const shown: number[] = [];
    for (let at = first; at <= last; at += 1) {
      const line = display.lineAt(at);
      if (line?.kind === 'paper') shown.push(line.line);
    }
    return shown;
  }, [display, first, last]);
  useEffect(() => {
    if (lines.length > 0) onSight(lines[0] ?? 0, lines.at(-1) ?? 0);
  }, [lines, onSight]);

  // In whole pieces around what is in sight: a step of the wheel asks nothing anew.
  const wanted = useMemo(() => {
    const from = Math.floor((lines[0] ?? 0) / piece) * piece;
    const to = Math.ceil(((lines.at(-1) ?? 0) + 1) / piece) * piece;
    return Array.from({ length: to - from }, (_none, at) => paperAt(from + at)?.id).filter((id) => id !== undefined);
  }, [lines, paperAt]);
  const why = useWhy(wanted, props.find);

  /** The paper at a position of the screen; null for a heading, and for one that has not come yet. */
  const paperOn = (index: number): PlacedPaper | null => {
    const line = display.lineAt(index);
    return line?.kind === 'paper' ? (paperAt(line.line) ?? null) : null;
  };
  const here = items.find(({ index }) => paperOn(index)?.id === cursor)?.index ?? -1;

  /** The next position with a paper, in a direction; -1 where there is none. */
  function step(from: number, by: 1 | -1): number {
    for (let index = from; index >= 0 && index < display.count; index += by)
      if (display.lineAt(index)?.kind === 'paper') return index;
    return -1;
  }

  function onKeyDown(event: KeyboardEvent) {
    if (event.target !== event.currentTarget) return;
    const moves: Readonly<Record<string, () => number>> = {
      ArrowDown: () => step(here + 1, 1),
      ArrowUp: () => step(here - 1, -1),
      Home: () => step(0, 1),
      End: () => step(display.count - 1, -1),
    };
    const to = moves[event.key]?.();
    const current = paperOn(here);
    if (to !== undefined) {
      if (to !== -1) virtual.scrollToIndex(to);
      const paper = paperOn(to);
      if (paper) props.onCursor(paper.id);
    } else if (event.key === ' ' && current) props.onTick([current], !ticked.has(current.id));
    else if (event.key === 'Enter' && current) props.onOpenPaper(current.id, spotOf(why.get(current.id)?.inside));
    else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) props.onTickLines(0, Number.MAX_SAFE_INTEGER);
    else return;
    event.preventDefault();
  }

  return (
    <div
      ref={scroller}
      role="grid"
      tabIndex={0}
      aria-label={props.label}
      aria-multiselectable
      aria-rowcount={display.count}
      aria-activedescendant={here === -1 ? undefined : `found-${here}`}
      onKeyDown={onKeyDown}
      className="min-h-0 flex-1 overflow-y-auto bg-sheet focus-visible:-outline-offset-2"
    >
      <div role="rowgroup" className="relative w-full" style={{ height: virtual.getTotalSize() }}>
        {items.map(({ index, start, key }) => {
          const line = display.lineAt(index);
          if (!line) return null;
          const paper = line.kind === 'paper' ? paperAt(line.line) : undefined;
          return (
            <div
              key={key}
              ref={virtual.measureElement}
              data-index={index}
              role="row"
              id={`found-${index}`}
              aria-rowindex={index + 1}
              aria-selected={paper ? ticked.has(paper.id) : undefined}
              style={{ transform: `translateY(${start}px)` }}
              className="absolute top-0 left-0 w-full"
            >
              {line.kind === 'group' ? (
                <div className="h-[34px] border-y border-line bg-mist">
                  <GroupLine
                    heading={line}
                    words={props.measureWords(line)}
                    onFold={() => props.onFold(line.path)}
                    onPickUp={() => props.onTickLines(line.start, line.group.lines)}
                    onTakeValue={props.onTakeValue}
                  />
                </div>
              ) : (
                <Found
                  paper={paper}
                  why={paper && why.get(paper.id)}
                  current={paper !== undefined && paper.id === cursor}
                  picked={paper !== undefined && ticked.has(paper.id)}
                  onTick={props.onTick}
                  onCursor={props.onCursor}
                  onOpen={props.onOpenPaper}
                />
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** Papers that are asked about together. */
const piece = 20;

function Found({
  paper,
  why,
  current,
  picked,
  onTick,
  onCursor,
  onOpen,
}: {
  readonly paper: PlacedPaper | undefined;
  readonly why: FoundWhy | undefined;
  readonly current: boolean;
  readonly picked: boolean;
  readonly onTick: LedgerProps['onTick'];
  readonly onCursor: (id: string) => void;
  readonly onOpen: Props['onOpenPaper'];
}) {
  const { now, timeZone } = useSurroundings();
  if (!paper)
    return (
      <div role="gridcell" aria-busy className="h-[92px] border-b border-line px-4 py-3 text-soft">
        …
      </div>
    );
  const spot = spotOf(why?.inside);
  function open(event: MouseEvent) {
    if (!paper || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    onOpen(paper.id, spot);
  }
  return (
    <div
      role="gridcell"
      onClick={() => onCursor(paper.id)}
      className={clsx(
        'flex min-h-[76px] gap-3 border-b border-line px-4 py-2.5',
        picked ? 'bg-straw' : current ? 'bg-brine-wash' : '',
      )}
    >
      <input
        type="checkbox"
        tabIndex={-1}
        checked={picked}
        aria-label={`Pick up ${paper.title}`}
        onClick={(event) => event.stopPropagation()}
        onChange={() => onTick([paper], !picked)}
        className="mt-[3px] size-[15px] shrink-0 accent-brine"
      />
      <div className="max-w-[62em] min-w-0 flex-1">
        <p className="flex min-w-0 items-center gap-2">
          <Stamp word={paper.stamp} />
          <Link
            href={paperAddress(paper.id, spot)}
            onClick={open}
            className="min-w-0 truncate font-medium text-ink hover:underline"
          >
            <Marked text={paper.title} marks={why?.titleMarks ?? []} />
          </Link>
          <span className="figures ml-auto shrink-0 pl-3 text-sm text-soft">
            {whenInWords(paper.changedAt, now, timeZone)}
          </span>
        </p>
        <p className="flex min-w-0 text-sm text-soft">
          <Path steps={why?.path ?? [paper.homeName]} marks={why?.pathMarks} className="min-w-0" />
        </p>
        {why?.inside && (
          <p className="mt-0.5 text-[15px] leading-snug break-words">
            <span className="figures text-soft">{whereInside(why.inside)}</span>…
            <Marked text={why.inside.passage} marks={why.inside.marks} />…
          </p>
        )}
        {why && why.beside.length > 0 && (
          <p className="mt-0.5 flex flex-wrap gap-x-4 text-sm">
            {why.beside.map(({ what, text, marks }) => (
              <span key={`${what} ${text}`} className="min-w-0 break-words">
                <span className="text-soft">{what}: </span>
                <Marked text={text} marks={marks} />
              </span>
            ))}
          </p>
        )}
      </div>
    </div>
  );
}

function whereInside({ page, attachment, version }: NonNullable<FoundWhy['inside']>): string {
  const where = [
    ...(version === null ? [] : [`In version ${version}, which was replaced`]),
    ...(attachment === null ? [] : [`In the attachment ${attachment.name}`]),
    ...(page > 1 ? [`page ${page}`] : []),
  ].join(', ');
  return where === '' ? '' : `${where.charAt(0).toUpperCase()}${where.slice(1)}: `;
}
