'use client';

import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import type { Direction, LedgerPage, PaperRow } from '@/core/documents/model';
import type { Conditions } from '@/core/views/conditions';
import { call } from '../server/call';

/** The first page paints at once; the rest comes in large ones behind it, so that scrolling meets no gap. */
const firstPage = 200;
const laterPages = 5000;

export interface LedgerQuestion {
  readonly placeId: string;
  readonly sort: string;
  readonly direction: Direction;
  readonly filter: string;
  readonly conditions: Conditions;
}

/** All papers of a place under a sort and a filter; the rows before stay in sight until the next ones are there. */
export function useLedger(question: LedgerQuestion) {
  const query = useInfiniteQuery({
    queryKey: ['ledger.page', question],
    queryFn: ({ pageParam }): Promise<LedgerPage> =>
      call('ledger.page', {
        ...question,
        conditions: question.conditions.map((each) => ({ ...each, anyOf: [...each.anyOf] })),
        after: pageParam,
        limit: pageParam === null ? firstPage : laterPages,
      }),
    initialPageParam: null as string | null,
    getNextPageParam: (last) => last.next,
    placeholderData: keepPreviousData,
  });
  const { hasNextPage, isFetching, fetchNextPage, isPlaceholderData, data } = query;

  useEffect(() => {
    if (hasNextPage && !isFetching && !isPlaceholderData) void fetchNextPage();
  }, [hasNextPage, isFetching, isPlaceholderData, fetchNextPage, data]);

  const rows = useMemo<PaperRow[]>(() => data?.pages.flatMap((page) => page.rows) ?? [], [data]);
  const names = useMemo<Readonly<Record<string, string>>>(
    () => Object.assign({}, ...(data?.pages.map((page) => page.names) ?? [])) as Record<string, string>,
    [data],
  );
  const totals = data?.pages[0]?.totals ?? null;
  return { rows, names, totals, isPending: query.isPending, error: query.error, isStale: isPlaceholderData };
}
