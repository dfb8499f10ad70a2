'use client';

import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { FoundWhy } from '@/core/search/contract';
import type { FindCondition } from '@/core/views/conditions';
import { call } from '../server/call';

/** So many papers are asked about at once. */
const atOnce = 20;

const dataOf = (results: readonly { readonly data: readonly FoundWhy[] | undefined }[]) =>
  results.flatMap(({ data }) => data ?? []);

/** Why some papers were found, by their ids: asked in pieces, as the papers come into sight. */
export function useWhy(ids: readonly string[], find: FindCondition | null): ReadonlyMap<string, FoundWhy> {
  const pieces: (readonly string[])[] = [];
  for (let at = 0; at < ids.length; at += atOnce) pieces.push(ids.slice(at, at + atOnce));
  const told = useQueries({
    queries:
      find === null
        ? []
        : pieces.map((documentIds) => ({
            queryKey: ['search.why', find, documentIds],
            queryFn: () => call('search.why', { documentIds: [...documentIds], words: find.find, among: find.among }),
          })),
    combine: dataOf,
  });
  return useMemo(() => new Map(told.map((each) => [each.documentId, each])), [told]);
}
