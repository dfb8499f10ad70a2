'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { useSearchParams } from 'next/navigation';
import { useMemo, useRef, useState } from 'react';
import { columnName } from '@/core/reading/columnName';
import { countOf } from '@/core/reading/find';
import type { Sheet } from '@/core/reading/form';
import { counted } from '@/core/text/measure';
import type { Source } from './source';
import { useViewForm } from './useViewForm';
import { Fetching } from './Waiting';

const [rowHeight, headWidth, headHeight] = [26, 46, 24];
const letterWidth = 7.6;

/** A workbook: a tab for each sheet, and the sheet as a grid in which nothing is computed. */
export function Sheets({ source }: { readonly source: Source }) {
  const { data, error } = useViewForm(source, 'sheets');
  const [open, setOpen] = useState(0);
  // Opened from what a search found, it looks for the same.
  const [phrase, setPhrase] = useState(useSearchParams().get('find')?.slice(0, 200) ?? '');
  const [at, setAt] = useState(0);
  const hits = useMemo(
    () =>
      phrase.trim() === ''
        ? []
        : (data?.sheets ?? []).flatMap(({ rows }, sheet) =>
            rows.flatMap((cells, row) =>
              cells.flatMap((cell, column) =>
                cell !== '' && countOf(cell, phrase) > 0 ? [{ sheet, row, column }] : [],
              ),
            ),
          ),
    [data, phrase],
  );
  if (!data) return <Fetching failed={error !== null} />;
  const hit = hits.length === 0 ? null : (hits[((at % hits.length) + hits.length) % hits.length] ?? null);
  const shown = hit && phrase.trim() !== '' ? hit.sheet : open;
  const sheet = data.sheets[shown];
  return (
    <div className="flex h-full flex-col bg-sheet">
      <div className="no-print flex flex-wrap items-center gap-2 border-b border-line bg-fog px-3 py-1">
        <label className="flex items-center gap-2">
          <span className="text-soft">Find in this paper</span>
          <input
            value={phrase}
            onChange={(event) => {
              setPhrase(event.target.value);
              setAt(0);
            }}
            onKeyDown={(event) => {
              if (event.key !== 'Enter') return;
              setAt(at + (event.shiftKey ? -1 : 1));
            }}
            className="h-[28px] w-[200px] rounded-sm border border-edge bg-sheet px-2"
          />
        </label>
        <span role="status" className="figures text-soft">
          {phrase.trim() === ''
            ? ''
            : hit === null
              ? 'Not in this paper'
              : `${(((at % hits.length) + hits.length) % hits.length) + 1} of ${counted(hits.length, 'cell')}`}
        </span>
      </div>
      {sheet ? (
        <Grid key={shown} sheet={sheet} hit={hit} />
      ) : (
        <p className="flex-1 p-6 text-soft">There is nothing in it.</p>
      )}
      <div
        role="tablist"
        aria-label="Sheets"
        className="no-print flex shrink-0 overflow-x-auto border-t border-line bg-fog"
      >
        {data.sheets.map(({ name }, index) => (
          <button
            key={index}
            type="button"
            role="tab"
            aria-selected={index === shown}
            onClick={() => {
              setPhrase('');
              setOpen(index);
            }}
            className={clsx(
              'h-[32px] shrink-0 border-r border-line px-3.5 whitespace-nowrap',
              index === shown ? 'bg-sheet font-semibold' : 'text-soft hover:bg-sheet',
            )}
          >
            {name}
          </button>
        ))}
      </div>
    </div>
  );
}

function Grid({
  sheet,
  hit,
}: {
  readonly sheet: Sheet;
  readonly hit: { readonly row: number; readonly column: number } | null;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState<{ row: number; column: number } | null>(null);
  const widths = useMemo(
    () => sheet.widths.map((letters) => (letters === 0 ? 0 : Math.max(34, Math.round(letters * letterWidth) + 12))),
    [sheet],
  );
  const lefts = useMemo(() => {
    let left = headWidth;
    return widths.map((width) => (left += width) - width);
  }, [widths]);
  const right = useMemo(() => sheet.right.map((columns) => new Set(columns)), [sheet]);
  const bold = useMemo(() => new Set(sheet.bold), [sheet]);
  const { frozen } = sheet;
  const rows = useVirtualizer({
    count: sheet.rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    scrollPaddingStart: headHeight + frozen.rows * rowHeight,
    overscan: 8,
  });
  const goal = hit && `${hit.row}-${hit.column}`;
  const went = useRef<string | null>(null);
  if (goal !== went.current) {
    went.current = goal;
    if (hit) {
      queueMicrotask(() => {
        rows.scrollToIndex(hit.row, { align: 'center' });
        scroller.current?.scrollTo({ left: Math.max(0, (lefts[hit.column] ?? 0) - 200) });
      });
    }
  }
  const wide = headWidth + widths.reduce((sum, width) => sum + width, 0);
  const text = chosen && (sheet.rows[chosen.row]?.[chosen.column] ?? '');
  const line = (row: number, top: number | null) => (
    <div
      key={`${top === null ? 'f' : ''}${row}`}
      role="row"
      aria-rowindex={row + 2}
      className={clsx('left-0 flex', top === null ? 'sticky z-10' : 'absolute')}
      style={{ top: top ?? headHeight + row * rowHeight, height: rowHeight, width: wide }}
    >
      <div
        role="rowheader"
        className="figures sticky left-0 z-10 shrink-0 border-r border-b border-line bg-fog pr-1.5 text-right text-xs leading-[25px] text-soft"
        style={{ width: headWidth }}
      >
        {row + 1}
      </div>
      {widths.map((width, column) =>
        width === 0 ? null : (
          <div
            key={column}
            role="gridcell"
            onClick={() => setChosen({ row, column })}
            className={clsx(
              'shrink-0 overflow-hidden border-r border-b border-line px-1.5 text-sm leading-[25px] whitespace-nowrap',
              right[row]?.has(column) && 'figures text-right',
              bold.has(row) && 'font-semibold',
              hit?.row === row && hit.column === column
                ? 'bg-straw outline-2 -outline-offset-2 outline-ember'
                : chosen?.row === row && chosen.column === column
                  ? 'bg-brine-wash'
                  : 'bg-sheet',
              column < frozen.columns && 'sticky z-[5]',
            )}
            style={{ width, ...(column < frozen.columns ? { left: lefts[column] } : {}) }}
            title={sheet.rows[row]?.[column]}
          >
            {sheet.rows[row]?.[column]}
          </div>
        ),
      )}
    </div>
  );
  return (
    <>
      {text !== null && text !== '' && (
        <p className="max-h-[72px] overflow-y-auto border-b border-line bg-sheet px-3 py-1 text-sm break-words">
          <span className="mr-2 font-mono text-soft">{`${columnName(chosen?.column ?? 0)}${(chosen?.row ?? 0) + 1}`}</span>
          {text}
        </p>
      )}
      <div
        ref={scroller}
        role="grid"
        aria-label={`Sheet ${sheet.name}`}
        aria-rowcount={sheet.rows.length + 1}
        aria-colcount={widths.length}
        tabIndex={0}
        className="min-h-0 flex-1 overflow-auto overscroll-contain"
      >
        <div className="relative" style={{ width: wide, height: headHeight + rows.getTotalSize() }}>
          <div role="row" className="sticky top-0 z-20 flex" style={{ height: headHeight, width: wide }}>
            <div
              role="columnheader"
              className="sticky left-0 z-20 shrink-0 border-r border-b border-line bg-fog"
              style={{ width: headWidth }}
            >
              <span className="sr-only">Row</span>
            </div>
            {widths.map((width, column) =>
              width === 0 ? null : (
                <div
                  key={column}
                  role="columnheader"
                  className={clsx(
                    'shrink-0 border-r border-b border-line bg-fog text-center text-xs leading-[23px] text-soft',
                    column < frozen.columns && 'sticky z-20',
                  )}
                  style={{ width, ...(column < frozen.columns ? { left: lefts[column] } : {}) }}
                >
                  {columnName(column)}
                </div>
              ),
            )}
          </div>
          {Array.from({ length: frozen.rows }, (_each, row) => line(row, null))}
          {rows
            .getVirtualItems()
            .filter(({ index }) => index >= frozen.rows)
            .map(({ index }) => line(index, headHeight + index * rowHeight))}
        </div>
      </div>
      {(sheet.more.rows > 0 || sheet.more.columns > 0) && (
        <p className="border-t border-line bg-straw px-3 py-1.5 text-straw-ink">
          {`This sheet is longer than is shown here: ${[
            ...(sheet.more.rows > 0 ? [counted(sheet.more.rows, 'more row')] : []),
            ...(sheet.more.columns > 0 ? [counted(sheet.more.columns, 'more column')] : []),
          ].join(' and ')}. Download it to see all.`}
        </p>
      )}
    </>
  );
}
