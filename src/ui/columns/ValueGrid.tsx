'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { asText, inWords } from '@/core/columns/format';
import {
  blockOf,
  contains,
  fillPlan,
  pastePlan,
  stepped,
  tabbed,
  type Cell,
  type Selection,
} from '@/core/columns/grid';
import type { Lexicon } from '@/core/columns/lexicon';
import type { Column } from '@/core/columns/model';
import type { PaperRow } from '@/core/documents/model';
import { readBlock, writeBlock } from '@/core/interchange/block';
import { counted } from '@/core/text/measure';
import { namesFrom } from './useColumns';
import { Button } from '../kit/button';
import { Menu } from '../kit/menu';
import { useSurroundings } from '../surroundings/Surroundings';
import { CellInput } from './CellInput';
import { useGrid, type Write } from './useGrid';

interface Props {
  readonly label: string;
  readonly papers: readonly PaperRow[];
  readonly columns: readonly Column[];
  readonly lexicons: ReadonlyMap<string, Lexicon>;
  readonly names: Readonly<Record<string, string>>;
  readonly onClose: () => void;
}

const titleWidth = 260;
const cellWidth = 150;
const mostPasted = 100_000;

/**
 * The ledger as an editor of values (WAI-ARIA grid pattern): move, type, fill, copy and paste as in a spreadsheet;
 * each cell shows its state.
 */
export function ValueGrid({ label, papers, columns, lexicons, names, onClose }: Props) {
  const { rowHeight } = useSurroundings();
  const scroller = useRef<HTMLDivElement>(null);
  const grid = useGrid(papers, columns);
  const origin: Cell = { row: 0, column: 0 };
  const [selection, setSelection] = useState<Selection>({ anchor: origin, focus: origin });
  const [editing, setEditing] = useState<string | null>(null);
  const size = { rows: papers.length, columns: columns.length };
  const virtual = useVirtualizer({
    count: papers.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 14,
  });
  const all = namesFrom(lexicons, { ...names, ...grid.named });
  const block = blockOf(selection);
  const { focus } = selection;
  const [paper, column] = [papers[focus.row], columns[focus.column]];

  const textAt = (cell: Cell): string => {
    const [row, of] = [papers[cell.row], columns[cell.column]];
    if (!row || !of) return '';
    const state = grid.stateAt(row, of);
    return state?.state === 'refused' ? state.text : asText(of, grid.valueAt(row, of), all);
  };
  const isFixed = (cell: Cell): boolean => papers[cell.row]?.fixed.includes(columns[cell.column]?.id ?? '') ?? true;

  function select(next: Selection) {
    setSelection(next);
    virtual.scrollToIndex(next.focus.row);
    scroller.current?.querySelector(`#${idOf(next.focus)}`)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }
  const step = (rows: number, across: number, extend = false) => select(stepped(selection, rows, across, size, extend));
  const cellsOf = (): Cell[] =>
    Array.from({ length: block.bottom - block.top + 1 }, (_, row) =>
      Array.from({ length: block.right - block.left + 1 }, (__, across) => ({
        row: block.top + row,
        column: block.left + across,
      })),
    ).flat();
  const write = (writes: readonly Write[]) =>
    void grid.write(writes.filter(({ cell }) => !isFixed(cell)).slice(0, mostPasted));

  function commit(text: string, then: 'down' | 'right' | 'left' | 'stay') {
    setEditing(null);
    scroller.current?.focus();
    if (text !== textAt(focus)) write([{ cell: focus, text }]);
    if (then === 'down') step(1, 0);
    if (then === 'right' || then === 'left') {
      const next = tabbed(selection, size, then === 'left');
      if (next) select(next);
    }
  }

  function fill(way: 'down' | 'across') {
    write(
      fillPlan(selection, way).flatMap(({ cell, from }): Write[] => {
        const [row, of, to] = [papers[from.row], columns[from.column], columns[cell.column]];
        if (!row || !of || !to) return [];
        return of.id === to.id ? [{ cell, value: grid.valueAt(row, of) }] : [{ cell, text: textAt(from) }];
      }),
    );
  }

  function onKeyDown(event: KeyboardEvent) {
    if (editing !== null || event.target !== event.currentTarget) return;
    const control = event.ctrlKey || event.metaKey;
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 400) / rowHeight) - 2);
    const moves: Record<string, readonly [number, number]> = {
      ArrowDown: [control ? size.rows : 1, 0],
      ArrowUp: [control ? -size.rows : -1, 0],
      ArrowRight: [0, 1],
      ArrowLeft: [0, -1],
      PageDown: [page, 0],
      PageUp: [-page, 0],
      Home: [control ? -size.rows : 0, -size.columns],
      End: [control ? size.rows : 0, size.columns],
    };
    const move = moves[event.key];
    const key = event.key.toLowerCase();
    if (move) step(move[0], move[1], event.shiftKey);
    else if (event.key === 'Tab') {
      const next = tabbed(selection, size, event.shiftKey);
      // At the end of the grid Tab leaves it.
      if (!next) return;
      select(next);
    } else if (control && key === 'z' && !event.shiftKey) void grid.undo();
    else if (control && (key === 'y' || (key === 'z' && event.shiftKey))) void grid.redo();
    else if (control && key === 'd') fill('down');
    else if (control && key === 'r') fill('across');
    else if (control && key === 'a')
      setSelection({ anchor: origin, focus: { row: size.rows - 1, column: size.columns - 1 } });
    else if (control || event.altKey) return;
    else if (event.key === 'Escape') {
      if (block.top === block.bottom && block.left === block.right) onClose();
      else setSelection({ anchor: focus, focus });
    } else if (event.key === 'Delete' || event.key === 'Backspace')
      write(cellsOf().map((cell) => ({ cell, value: null })));
    else if ((event.key === 'Enter' || event.key === 'F2') && !isFixed(focus)) setEditing(textAt(focus));
    else if (event.key.length === 1 && !isFixed(focus)) setEditing(event.key);
    else return;
    event.preventDefault();
  }

  function onCopy(event: ClipboardEvent) {
    if (editing !== null) return;
    const rows = Array.from({ length: block.bottom - block.top + 1 }, (_, row) =>
      Array.from({ length: block.right - block.left + 1 }, (__, across) =>
        textAt({ row: block.top + row, column: block.left + across }),
      ),
    );
    event.clipboardData.setData('text/plain', writeBlock(rows));
    event.preventDefault();
  }
  function onPaste(event: ClipboardEvent) {
    if (editing !== null) return;
    event.preventDefault();
    const plan = pastePlan(readBlock(event.clipboardData.getData('text/plain')), selection, size);
    write(plan);
    const last = plan.at(-1);
    if (last) setSelection({ anchor: { row: block.top, column: block.left }, focus: last.cell });
  }

  const tracks = `${titleWidth}px repeat(${columns.length}, minmax(${cellWidth}px, 1fr))`;
  const least = titleWidth + cellWidth * columns.length;
  const state = paper && column ? grid.stateAt(paper, column) : undefined;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-straw-edge bg-straw px-4 py-1 text-sm text-straw-ink">
        <strong>Editing values</strong>
        <span role="status" className="min-w-0 flex-1 truncate">
          {state?.state === 'refused'
            ? state.says
            : state?.state === 'changed'
              ? 'Someone else changed this cell meanwhile; theirs stands.'
              : isFixed(focus)
                ? 'This value comes from the place, and is set there.'
                : 'Type to replace; F2 amends.'}
        </span>
        <span className="figures">
          {block.top !== block.bottom || block.left !== block.right
            ? `${counted((block.bottom - block.top + 1) * (block.right - block.left + 1), 'cell')} chosen`
            : ''}
        </span>
        <Menu
          look="straw"
          label="Acts"
          name="Acts on the chosen cells"
          acts={[
            { label: 'Fill down', keys: 'Ctrl D', act: () => fill('down') },
            { label: 'Fill across', keys: 'Ctrl R', act: () => fill('across') },
            { label: 'Clear', keys: 'Del', act: () => write(cellsOf().map((cell) => ({ cell, value: null }))) },
            { label: 'Undo', keys: 'Ctrl Z', act: () => void grid.undo(), apart: true },
            { label: 'Redo', keys: 'Ctrl Y', act: () => void grid.redo() },
          ]}
        />
        <Button look="straw" onClick={onClose}>
          Leave editing
        </Button>
      </div>
      <div
        ref={scroller}
        role="grid"
        tabIndex={0}
        aria-label={label}
        aria-rowcount={papers.length + 1}
        aria-colcount={columns.length + 1}
        aria-multiselectable
        aria-activedescendant={idOf(focus)}
        onKeyDown={onKeyDown}
        onCopy={onCopy}
        onPaste={onPaste}
        className="min-h-0 flex-1 overflow-auto bg-sheet outline-none"
      >
        <div
          role="row"
          className="sticky top-0 z-20 grid h-[30px] items-center border-b border-line bg-sheet text-sm text-soft"
          style={{ gridTemplateColumns: tracks, minWidth: least }}
        >
          <span role="columnheader" className="sticky left-0 z-10 bg-sheet px-3 font-condensed">
            Title
          </span>
          {columns.map((each, index) => (
            <span
              key={each.id}
              role="columnheader"
              className={clsx(
                'truncate px-2 font-condensed',
                index >= block.left && index <= block.right && 'text-ink',
              )}
            >
              {each.name}
            </span>
          ))}
        </div>
        <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize(), minWidth: least }}>
          {virtual.getVirtualItems().map(({ index, start, key }) => {
            const row = papers[index];
            if (!row) return null;
            return (
              <div
                key={key}
                role="row"
                aria-rowindex={index + 2}
                className="absolute top-0 left-0 grid w-full border-b border-line"
                style={{
                  height: rowHeight,
                  transform: `translateY(${start}px)`,
                  gridTemplateColumns: tracks,
                  zIndex: index === focus.row && editing !== null ? 15 : undefined,
                }}
              >
                <span
                  role="rowheader"
                  title={row.title}
                  className="sticky left-0 z-10 flex items-center truncate border-r border-line bg-sheet px-3 font-medium"
                >
                  <span className="truncate">{row.title}</span>
                </span>
                {columns.map((of, across) => {
                  const cell = { row: index, column: across };
                  const here = focus.row === index && focus.column === across;
                  const standing = grid.stateAt(row, of);
                  const fixed = row.fixed.includes(of.id);
                  return (
                    <span
                      key={of.id}
                      id={idOf(cell)}
                      role="gridcell"
                      aria-selected={contains(block, cell)}
                      aria-readonly={fixed || undefined}
                      aria-invalid={standing?.state === 'refused' || undefined}
                      title={standing?.state === 'refused' ? standing.says : undefined}
                      onMouseDown={(event) => {
                        if (here && editing !== null) return;
                        setSelection({ anchor: event.shiftKey ? selection.anchor : cell, focus: cell });
                      }}
                      onMouseEnter={(event) =>
                        event.buttons === 1 &&
                        editing === null &&
                        setSelection({ anchor: selection.anchor, focus: cell })
                      }
                      onDoubleClick={() => !fixed && setEditing(textAt(cell))}
                      className={clsx(
                        'relative flex items-center border-r border-line px-2 select-none',
                        (of.type === 'number' || of.type === 'amount') && 'figures justify-end',
                        contains(block, cell) && 'bg-brine-wash',
                        fixed && 'bg-fog text-soft',
                        here && 'outline-2 -outline-offset-2 outline-brine-ink',
                        standing?.state === 'refused' && 'bg-ember-wash text-ember-ink underline decoration-wavy',
                        standing?.state === 'changed' && 'bg-straw text-straw-ink',
                      )}
                    >
                      {here && editing !== null ? (
                        <CellInput
                          column={of}
                          text={editing}
                          lexicons={lexicons}
                          onCommit={commit}
                          onCancel={() => {
                            setEditing(null);
                            scroller.current?.focus();
                          }}
                        />
                      ) : (
                        <span className="truncate">
                          {standing?.state === 'refused' ? standing.text : inWords(of, grid.valueAt(row, of), all)}
                        </span>
                      )}
                      {standing?.state === 'saving' && <span className="sr-only">being saved</span>}
                      {standing?.state === 'saved' && (
                        <span
                          aria-label="saved"
                          role="img"
                          className="absolute right-0 bottom-0 border-4 border-transparent [border-right-color:var(--brine-ink)] [border-bottom-color:var(--brine-ink)]"
                        />
                      )}
                    </span>
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

const idOf = ({ row, column }: Cell): string => `cell-${row}-${column}`;
