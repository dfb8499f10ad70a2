'use client';

import { keepPreviousData, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { PlacedPaper } from '@/core/documents/contract';
import type { ViewPage } from '@/core/views/contract';
import type { Conditions } from '@/core/views/conditions';
import { firstLines } from '@/core/views/question';
import type { Grouping, Sort } from '@/core/views/spec';
import { call } from '../server/call';

/** What a view asks of the server, the counts for its conditions bar among it. */
export interface ViewQuestion {
  readonly placeId: string;
  readonly below: boolean;
  readonly filter: string;
  readonly conditions: Conditions;
  readonly groupings: readonly Grouping[];
  readonly sorts: readonly Sort[];
  readonly counts: readonly string[];
  readonly measures: readonly string[];
}

/** The first lines come at once with the groups and counts, the others in larger pieces; those around what is in sight are asked for ahead. */
const pieceLines = 600;
const ahead = 2;
const pieceOf = (line: number): number => (line < firstLines ? 0 : 1 + Math.floor((line - firstLines) / pieceLines));
const startOf = (piece: number): number => (piece === 0 ? 0 : firstLines + (piece - 1) * pieceLines);
/** Once someone scrolls, a view of at most so many lines is fetched whole, from what is in sight outwards, so that no leap meets a gap. */
const mostWhole = 20_000;
const widerBy = 3;
/** While the library is still being read, the view is asked for again this often. */
const countingAgainMs = 700;

const none: readonly PlacedPaper[] = [];
const noNames: Readonly<Record<string, string>> = {};
const dataOf = (results: readonly { readonly data: ViewPage | undefined }[]) => results.map((each) => each.data);

/** The papers of a view: the first piece with groups, totals and counts, the others as they come into sight. */
export function useView(question: ViewQuestion) {
  const [sight, setSight] = useState({ first: 0, last: 0 });
  const key = JSON.stringify(question);
  const main = useQuery<ViewPage>({
    queryKey: ['view.open', key],
    queryFn: () => call('view.open', { ...question, start: 0, limit: firstLines }),
    placeholderData: keepPreviousData,
    refetchInterval: (query) => (query.state.data?.state === 'counting' ? countingAgainMs : false),
  });
  const { data } = main;
  const lines = data?.lines ?? 0;
  // How far around what is in sight pieces are fetched, and for which question.
  const [wide, setWide] = useState({ key, by: ahead });
  const reach = wide.key === key ? wide.by : ahead;
  const near = useMemo(() => [pieceOf(sight.first) - ahead, pieceOf(sight.last) + ahead] as const, [sight]);
  const last = lines === 0 ? 0 : pieceOf(lines - 1);
  const wanted = useMemo(() => {
    const from = Math.max(1, near[0] - reach + ahead);
    const to = Math.min(last, near[1] + reach - ahead);
    return Array.from({ length: Math.max(0, to - from + 1) }, (_each, at) => from + at);
  }, [near, reach, last]);
  // Counts and groups are known from the first piece.
  const plain = useMemo(() => ({ ...question, counts: [], measures: [] }), [key]); // eslint-disable-line react-hooks/exhaustive-deps
  const plainKey = JSON.stringify(plain);
  const queries = useQueryClient();
  const pieces = useQueries({
    queries: wanted.map((at) => {
      const queryKey = ['view.open', plainKey, at];
      // What is out of sight stays as it was; it is asked for again when it comes into sight.
      const inSight = at >= near[0] && at <= near[1];
      return {
        queryKey,
        queryFn: (): Promise<ViewPage> => call('view.open', { ...plain, start: startOf(at), limit: pieceLines }),
        enabled: !main.isPlaceholderData && (inSight || queries.getQueryData(queryKey) === undefined),
      };
    }),
    combine: dataOf,
  });
  const whole = pieces.length > 0 && pieces.every((each) => each !== undefined);
  const covered = wanted.length >= last;
  useEffect(() => {
    // eslint-disable-next-line react-hooks/set-state-in-effect
    if (sight.first > 0 && whole && !covered && lines <= mostWhole) setWide({ key, by: reach + widerBy });
  }, [sight.first, whole, covered, lines, key, reach]);
  const loaded = useMemo(() => {
    const byPiece = new Map<number, ViewPage>();
    if (data) byPiece.set(0, data);
    wanted.forEach((at, index) => {
      const page = pieces[index];
      if (page) byPiece.set(at, page);
    });
    return byPiece;
  }, [data, wanted, pieces]);
  const names = useMemo<Readonly<Record<string, string>>>(() => {
    const all = [...loaded.values()].map((page) => page.names).filter((each) => Object.keys(each).length > 0);
    return all.length === 0 ? noNames : (Object.assign({}, ...all) as Record<string, string>);
  }, [loaded]);
  const paperAt = useCallback(
    (line: number): PlacedPaper | undefined => loaded.get(pieceOf(line))?.rows[line - startOf(pieceOf(line))],
    [loaded],
  );
  const rows = useMemo(
    () => [...loaded.keys()].sort((a, b) => a - b).flatMap((at) => loaded.get(at)?.rows ?? none),
    [loaded],
  );
  const latest = useRef(question);
  useEffect(() => {
    latest.current = question;
  });
  /** Papers of some lines, also of those that were never in sight; at most 5,000. */
  const fetchLines = useCallback(async (start: number, count: number): Promise<readonly PlacedPaper[]> => {
    const page = await call('view.open', {
      ...latest.current,
      counts: [],
      measures: [],
      start,
      limit: Math.min(count, 5000),
    });
    return page.rows;
  }, []);
  const onSight = useCallback((first: number, last: number) => {
    setSight((before) =>
      pieceOf(before.first) === pieceOf(first) && pieceOf(before.last) === pieceOf(last) ? before : { first, last },
    );
  }, []);
  return {
    page: data,
    lines,
    rows,
    names,
    paperAt,
    fetchLines,
    onSight,
    key,
    error: main.error,
    isPending: main.isPending,
    isStale: main.isPlaceholderData,
  };
}
export type View = ReturnType<typeof useView>;
