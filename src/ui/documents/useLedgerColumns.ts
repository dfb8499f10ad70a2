'use client';

import { useMemo, useState } from 'react';
import { z } from 'zod';
import type { Column } from '@/core/columns/model';
import { ownColumns, valueColumn, type LedgerColumn } from './ledgerColumns';

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

/** How many columns of values are shown where the person has not chosen. */
const shownAtFirst = 3;

/** What a ledger shows where nobody has chosen: the values that tell papers apart, then what every paper has. */
function atFirst(columns: readonly Column[], fixedHere: ReadonlySet<string>): string[] {
  // What the place itself fixes is the same in every row, and is said above the ledger already.
  const telling = columns
    .filter((column) => column.type !== 'longText' && !fixedHere.has(column.id))
    .slice(0, shownAtFirst);
  if (telling.length === 0) return ['stamp', 'pages', 'size', 'filedBy', 'filedAt', 'changedAt'];
  return ['stamp', ...telling.map((column) => column.id), 'pages'];
}

/** The columns a person has chosen to see in the ledgers of a series, kept in this browser. */
export function useLedgerColumns(seriesId: string, columns: readonly Column[], fixedHere: ReadonlySet<string>) {
  const [chosen, setChosen] = useState<{ seriesId: string; keys: string[] | null } | null>(null);
  const keys = chosen?.seriesId === seriesId ? chosen.keys : read(seriesId);
  return useMemo(() => {
    const all: LedgerColumn[] = [...ownColumns.slice(0, 1), ...columns.map(valueColumn), ...ownColumns.slice(1)];
    const wanted = keys ?? atFirst(columns, fixedHere);
    return {
      all,
      shown: all.filter((column) => wanted.includes(column.key)),
      toggle: (key: string) => {
        const next = wanted.includes(key) ? wanted.filter((each) => each !== key) : [...wanted, key];
        localStorage.setItem(placeOf(seriesId), JSON.stringify(next));
        setChosen({ seriesId, keys: next });
      },
    };
  }, [columns, keys, seriesId, fixedHere]);
}
