'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import type { Names } from '@/core/columns/format';
import type { PlacedPaper } from '@/core/documents/contract';
import type { Display, HeadingLine } from '@/core/views/display';
import type { CoverSize } from '@/core/views/spec';
import type { LedgerColumn } from '../documents/ledgerColumns';
import type { Stamp } from '@/core/files/fileKind';
import { Stamp as StampMark } from '../kit/stamp';
import { useSurroundings } from '../surroundings/Surroundings';
import { GroupLine } from '../documents/GroupLine';
import type { LedgerProps } from '../documents/ledgerProps';

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
  | 'onOpenPaper'
> & {
  readonly size: CoverSize;
  /** What stands under each cover. */
  readonly lines: readonly LedgerColumn[];
  readonly names: Names;
};

/** The least that a cover is wide; what room is left is shared among those in a row. In pixels. */
const widths: Record<CoverSize, number> = { small: 118, middling: 168, large: 240 };
const gap = 14;
const headingHeight = 36;
const lineHeight = 18;

/** The kinds of which first pages are made. */
const pictured: ReadonlySet<Stamp> = new Set(['PDF', 'DOC', 'SHEET', 'SLIDES', 'SCAN', 'IMAGE', 'MAIL', 'TEXT']);

type Row =
  | { readonly kind: 'group'; readonly heading: HeadingLine; readonly at: number }
  | { readonly kind: 'papers'; readonly at: number; readonly lines: readonly number[] };

/** First pages as cards, in rows, under the headings of their groups. One grid for the keyboard: arrows go by card and row. */
export function Covers(props: Props) {
  const { display, paperAt, cursor, ticked, lines, onSight } = props;
  const around = useSurroundings();
  const scroller = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(800);
  useLayoutEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setRoom(element.clientWidth));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  const across = Math.max(1, Math.floor((room - gap) / (widths[props.size] + gap)));
  const width = Math.floor((room - gap) / across) - gap;
  const coverHeight = Math.round(width * 1.3);
  const cardHeight = coverHeight + 44 + lines.length * lineHeight;
  const rows = useMemo(() => rowsOf(display, across), [display, across]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => (rows[index]?.kind === 'group' ? headingHeight : cardHeight + gap),
    overscan: 3,
    getItemKey: (index) => rows[index]?.at ?? index,
  });
  useEffect(() => virtual.measure(), [virtual, cardHeight, across]);
  const items = virtual.getVirtualItems();
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0];
  useEffect(() => {
    const inSight = rows.slice(first, last + 1).flatMap((row) => (row.kind === 'papers' ? row.lines : []));
    if (inSight.length > 0) onSight(inSight[0] ?? 0, inSight.at(-1) ?? 0);
  }, [rows, first, last, onSight]);

  const at = useMemo(() => {
    for (const item of items) {
      const row = rows[item.index];
      if (row?.kind !== 'papers') continue;
      const line = row.lines.find((each) => paperAt(each)?.id === cursor);
      if (line !== undefined) return { row: item.index, line };
    }
    return null;
  }, [items, rows, paperAt, cursor]);

  function onKeyDown(event: KeyboardEvent) {
    if (event.target !== event.currentTarget) return;
    const flat = rows.flatMap((row) => (row.kind === 'papers' ? row.lines : []));
    const here = at ? flat.indexOf(at.line) : -1;
    const moves: Record<string, number> = {
      ArrowRight: here + 1,
      ArrowLeft: here - 1,
      ArrowDown: here + across,
      ArrowUp: here - across,
      Home: 0,
      End: flat.length - 1,
    };
    const next = moves[event.key];
    const paper = at ? paperAt(at.line) : undefined;
    if (next !== undefined) {
      const line = flat[Math.max(0, Math.min(flat.length - 1, next))];
      const id = line === undefined ? undefined : paperAt(line)?.id;
      const row = rows.findIndex((each) => each.kind === 'papers' && line !== undefined && each.lines.includes(line));
      if (row !== -1) virtual.scrollToIndex(row);
      if (id !== undefined) props.onCursor(id);
    } else if (event.key === ' ' && paper) props.onTick([paper], !ticked.has(paper.id));
    else if (event.key === 'Enter' && paper) props.onOpenPaper(paper.id);
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
      aria-activedescendant={at ? `cover-${at.line}` : undefined}
      onKeyDown={onKeyDown}
      className="min-h-0 flex-1 overflow-y-auto bg-fog focus-visible:-outline-offset-2"
    >
      <div role="rowgroup" className="relative w-full" style={{ height: virtual.getTotalSize() + gap }}>
        {items.map(({ index, start, key, size }) => {
          const row = rows[index];
          if (!row) return null;
          return (
            <div
              key={key}
              role="row"
              style={{ transform: `translateY(${start}px)`, height: size }}
              className="absolute top-0 left-0 w-full"
            >
              {row.kind === 'group' ? (
                <div className="h-[34px] border-y border-line bg-mist">
                  <GroupLine
                    heading={row.heading}
                    words={props.measureWords(row.heading)}
                    onFold={() => props.onFold(row.heading.path)}
                    onPickUp={() => props.onTickLines(row.heading.start, row.heading.group.lines)}
                    onTakeValue={props.onTakeValue}
                  />
                </div>
              ) : (
                <div className="flex pt-[14px]" style={{ gap, paddingLeft: gap }}>
                  {row.lines.map((line) => {
                    const paper = paperAt(line);
                    return (
                      <Card
                        key={paper?.id ?? line}
                        line={line}
                        paper={paper}
                        width={width}
                        coverHeight={coverHeight}
                        current={paper !== undefined && paper.id === cursor}
                        picked={paper !== undefined && ticked.has(paper.id)}
                        words={
                          paper
                            ? lines.map((column) => ({
                                key: column.key,
                                heading: column.heading,
                                named: column.figures === true,
                                shown: column.cell(paper, { ...around, names: props.names }),
                              }))
                            : []
                        }
                        onTick={props.onTick}
                        onCursor={props.onCursor}
                        onOpen={props.onOpenPaper}
                      />
                    );
                  })}
                </div>
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}

function rowsOf(display: Display, across: number): Row[] {
  const rows: Row[] = [];
  let lines: number[] = [];
  let begins = 0;
  const close = () => {
    if (lines.length > 0) rows.push({ kind: 'papers', at: begins, lines });
    lines = [];
  };
  for (let at = 0; at < display.count; at += 1) {
    const line = display.lineAt(at);
    if (!line) continue;
    if (line.kind === 'group') {
      close();
      rows.push({ kind: 'group', heading: line, at });
      continue;
    }
    if (lines.length === 0) begins = at;
    lines.push(line.line);
    if (lines.length === across) close();
  }
  close();
  return rows;
}

function Card({
  line,
  paper,
  width,
  coverHeight,
  current,
  picked,
  words,
  onTick,
  onCursor,
  onOpen,
}: {
  readonly line: number;
  readonly paper: PlacedPaper | undefined;
  readonly width: number;
  readonly coverHeight: number;
  readonly current: boolean;
  readonly picked: boolean;
  readonly words: readonly {
    readonly key: string;
    readonly heading: string;
    /** A number alone says nothing. */
    readonly named: boolean;
    readonly shown: ReactNode;
  }[];
  readonly onTick: LedgerProps['onTick'];
  readonly onCursor: (id: string) => void;
  readonly onOpen: (id: string) => void;
}) {
  // A paper that was not read yet may have a picture once it is.
  const mark = `${paper?.revision} ${paper?.pageCount} ${paper?.wordCount}`;
  const [failedAt, setFailedAt] = useState<string | null>(null);
  if (!paper)
    return (
      <div role="gridcell" aria-busy style={{ width }} className="text-soft">
        …
      </div>
    );
  return (
    <div
      role="gridcell"
      id={`cover-${line}`}
      aria-selected={picked}
      style={{ width }}
      onClick={() => onCursor(paper.id)}
      onDoubleClick={() => onOpen(paper.id)}
      className={clsx(
        'flex cursor-default flex-col rounded-sm border bg-sheet',
        picked
          ? 'border-straw-edge bg-straw'
          : current
            ? 'border-brine-ink outline-2 outline-brine-ink'
            : 'border-line',
      )}
    >
      <div
        style={{ height: coverHeight }}
        className="relative grid place-items-center overflow-hidden rounded-t-sm border-b border-line bg-mist"
      >
        {failedAt === mark || !pictured.has(paper.stamp) ? (
          <StampMark word={paper.stamp} />
        ) : (
          <img
            src={`/api/paper/${paper.id}/picture?r=${encodeURIComponent(mark)}`}
            alt=""
            loading="lazy"
            onError={() => setFailedAt(mark)}
            className="h-full w-full object-cover object-top"
          />
        )}
        <input
          type="checkbox"
          tabIndex={-1}
          checked={picked}
          aria-label={`Pick up ${paper.title}`}
          onClick={(event) => event.stopPropagation()}
          onChange={() => onTick([paper], !picked)}
          className="absolute top-1.5 left-1.5 size-[15px] accent-brine"
        />
      </div>
      <p title={paper.title} className="line-clamp-2 h-[42px] px-2 pt-1 text-sm leading-[19px] font-medium">
        {paper.title}
      </p>
      {words.map((word) => (
        <p key={word.key} title={word.heading} className="h-[18px] truncate px-2 text-xs text-soft">
          {word.named && `${word.heading} `}
          {word.shown}
        </p>
      ))}
    </div>
  );
}
