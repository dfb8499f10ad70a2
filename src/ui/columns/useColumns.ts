'use client';

import { useMemo } from 'react';
import { Lexicon } from '@/core/columns/lexicon';
import type { ColumnsAt } from '@/core/columns/contract';
import type { Names } from '@/core/columns/format';
import type { Column } from '@/core/columns/model';
import { useAsk } from '../server/useCall';

/** The columns of a place with all that is needed to show and edit values. */
export interface ColumnsHere {
  /** In force at the place, retired ones left out. */
  readonly columns: ColumnsAt['columns'];
  readonly lexicons: ReadonlyMap<string, Lexicon>;
  readonly mayDefine: boolean;
  readonly isPending: boolean;
}

/** The columns in force at a place, with their lists ready to look words up in. */
export function useColumns(placeId: string): ColumnsHere {
  const { data, isPending } = useAsk('columns.at', { placeId });
  return useMemo(
    () => ({
      columns: data?.columns.filter((column) => !column.retired) ?? [],
      lexicons: new Map(data?.lists.map((list) => [list.id, new Lexicon(list.terms)]) ?? []),
      mayDefine: data?.mayDefine ?? false,
      isPending,
    }),
    [data, isPending],
  );
}

/** Names of terms and of other values, by id. */
export const namesFrom = (lexicons: ReadonlyMap<string, Lexicon>, named: Readonly<Record<string, string>>): Names => ({
  terms: (listId) => lexicons.get(listId),
  named: (id) => named[id],
});

/** The reader of a column's terms; undefined if it has no list. */
export const lexiconOf = (column: Column, lexicons: ReadonlyMap<string, Lexicon>): Lexicon | undefined =>
  column.listId === null ? undefined : lexicons.get(column.listId);
