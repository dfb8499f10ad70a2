'use client';

import { useCallback, useMemo, useState } from 'react';
import { z } from 'zod';
import type { Column } from '@/core/columns/model';
import type { ViewSpec } from '@/core/views/spec';
import { drawn, ownColumns, valueColumn, type LedgerColumn } from './ledgerColumns';

const kept = z.array(z.string()).nullable();
const placeOf = (seriesId: string): string => `embrin-columns-${seriesId}`;

function read(seriesId: string): string[] | null {
  if (typeof localStorage === 'undefined') return null;
  try {
    return kept.parse(JSON.parse(localStorage.getItem(placeOf(seriesId)) ?? 'null'));
  } catch {
    return null;
  }
}

/** How many value columns are shown by default. */
const shownAtFirst = 3;

/** The default columns: values that distinguish papers, then built-in properties. */
function atFirst(columns: readonly Column[], fixedHere: ReadonlySet<string>, below: boolean): string[] {
  // Values fixed by the place are the same in every row, and shown above the ledger.
  const telling = columns
    .filter((column) => column.type !== 'longText' && !fixedHere.has(column.id))
    .slice(0, below ? shownAtFirst - 1 : shownAtFirst);
  const where = below ? ['place'] : [];
  if (telling.length === 0) return ['kind', ...where, 'pages', 'size', 'filedBy', 'filedAt', 'changedAt'];
  return ['kind', ...telling.map((column) => column.id), ...where, 'pages'];
}

const widthsSchema = z.record(z.string(), z.number());
const widthsPlace = 'embrin-widths';
function keptWidths(): Record<string, number> {
  if (typeof localStorage === 'undefined') return {};
  try {
    return widthsSchema.parse(JSON.parse(localStorage.getItem(widthsPlace) ?? '{}'));
  } catch {
    return {};
  }
}

/**
 * The columns of a ledger, in order: those of its view, or those the person chose for the plain ledgers of a series,
 * which are stored in this browser together with the widths.
 */
export function useLedgerColumns(
  seriesId: string,
  columns: readonly Column[],
  fixedHere: ReadonlySet<string>,
  view: { readonly spec: ViewSpec; readonly isPlain: boolean; readonly setSpec: (change: Partial<ViewSpec>) => void },
) {
  const [chosen, setChosen] = useState<{ seriesId: string; keys: string[] | null } | null>(null);
  const [widths, setWidths] = useState<Readonly<Record<string, number>> | null>(null);
  const stored = chosen?.seriesId === seriesId ? chosen.keys : read(seriesId);
  const { spec, isPlain, setSpec } = view;
  const wanted = useMemo(
    () => spec.columns ?? (isPlain ? stored : null) ?? atFirst(columns, fixedHere, spec.below),
    [spec.columns, spec.below, isPlain, stored, columns, fixedHere],
  );
  const all = useMemo<LedgerColumn[]>(
    () => [...ownColumns.slice(0, 1), ...columns.map(valueColumn), ...ownColumns.slice(1)],
    [columns],
  );
  const drawnTo = useMemo(() => ({ ...spec.widths, ...(widths ?? keptWidths()) }), [spec.widths, widths]);
  const shown = useMemo(
    () =>
      wanted.flatMap((key) => {
        const column = all.find((each) => each.key === key);
        return column ? [drawn(column, drawnTo[key])] : [];
      }),
    [wanted, all, drawnTo],
  );
  const choose = useCallback(
    (keys: readonly string[]) => {
      if (!isPlain) return setSpec({ columns: keys });
      localStorage.setItem(placeOf(seriesId), JSON.stringify(keys));
      setChosen({ seriesId, keys: [...keys] });
    },
    [isPlain, setSpec, seriesId],
  );
  return {
    all,
    shown,
    wanted,
    choose,
    toggle: (key: string) =>
      choose(wanted.includes(key) ? wanted.filter((each) => each !== key) : inOrderOf(all, [...wanted, key])),
    setWidth: (key: string, width: number) => {
      const next = { ...(widths ?? keptWidths()), [key]: width };
      localStorage.setItem(widthsPlace, JSON.stringify(next));
      setWidths(next);
    },
    widths: widths ?? {},
    /** The widths that were set by hand, in pixels, by column; the others follow what is in the columns. */
    drawnTo,
  };
}

/** Inserts a newly chosen column before the first one that usually follows it. */
function inOrderOf(all: readonly LedgerColumn[], keys: readonly string[]): string[] {
  const usual = (key: string): number => all.findIndex((column) => column.key === key);
  const added = keys.at(-1) ?? '';
  const rest = keys.slice(0, -1);
  const before = rest.findIndex((key) => usual(key) > usual(added));
  return before === -1 ? [...rest, added] : [...rest.slice(0, before), added, ...rest.slice(before)];
}
