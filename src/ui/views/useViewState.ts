'use client';

import { createParser, parseAsBoolean, parseAsJson, parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs';
import { useCallback, useMemo } from 'react';
import { z } from 'zod';
import { conditionsSchema } from '@/core/views/conditions';
import type { SavedView } from '@/core/views/saved';
import {
  coverSizes,
  groupingSchema,
  layouts,
  maxGroupings,
  maxSorts,
  plainView,
  sameView,
  sortSchema,
  type Sort,
  type ViewSpec,
} from '@/core/views/spec';

/** Sorts stand in an address as `title,-pages`: a minus before what goes down. */
const sortsParser = createParser<readonly Sort[]>({
  parse: (text) => {
    const sorts = text.split(',').map((each) => ({
      of: each.replace(/^-/u, ''),
      direction: each.startsWith('-') ? ('down' as const) : ('up' as const),
    }));
    return z.array(sortSchema).max(maxSorts).safeParse(sorts).data ?? null;
  },
  serialize: (sorts) => sorts.map(({ of, direction }) => `${direction === 'down' ? '-' : ''}${of}`).join(','),
  eq: (a, b) => JSON.stringify(a) === JSON.stringify(b),
});
const list = createParser<readonly string[]>({
  parse: (text) => (text === '' ? [] : text.split(',').filter((key) => key.length < 60)),
  serialize: (keys) => keys.join(','),
  eq: (a, b) => a.join() === b.join(),
});

/** What of a place's screen stands in its address: back works, and a link opens the same for a colleague. */
export const addressed = {
  paper: parseAsString,
  filter: parseAsString.withDefault(''),
  /** The saved view; `plain` for none, also where one would open by itself. */
  view: parseAsString,
  if: parseAsJson(conditionsSchema),
  by: parseAsJson(z.array(groupingSchema).max(maxGroupings)),
  sort: sortsParser,
  below: parseAsBoolean,
  layout: parseAsStringLiteral(layouts),
  columns: list,
  frozen: parseAsString,
  size: parseAsStringLiteral(coverSizes),
  lines: list,
};

/** The name in the address of the view that nobody saved. */
export const plainName = 'plain';

/** Which view of a place is open, and what of it was changed: the address says both. */
export function useViewState(
  views: readonly SavedView[],
  opensId: string | null,
  fallback: ViewSpec = plainView,
  /** Whether the place opens on a page of its own: then the plain ledger has to be named. */
  hasFront = false,
) {
  const plainIsNamed = opensId !== null || hasFront;
  const [state, setState] = useQueryStates(addressed);
  const named = state.view === plainName ? null : (state.view ?? opensId);
  const saved = views.find((each) => each.id === named) ?? null;
  const base = saved?.spec ?? fallback;
  const { if: conditions, by, sort, below, layout, columns, frozen, size, lines } = state;
  const spec = useMemo<ViewSpec>(
    () => ({
      ...base,
      conditions: conditions ?? base.conditions,
      groupings: by ?? base.groupings,
      sorts: sort ?? base.sorts,
      below: below ?? base.below,
      layout: layout ?? base.layout,
      columns: columns ?? base.columns,
      frozen: frozen === null ? base.frozen : Math.min(5, Math.max(0, Number.parseInt(frozen, 10) || 0)),
      covers: { size: size ?? base.covers.size, lines: lines ?? base.covers.lines },
    }),
    [base, conditions, by, sort, below, layout, columns, frozen, size, lines],
  );
  const setSpec = useCallback(
    (change: Partial<ViewSpec>) => {
      const next = { ...spec, ...change };
      const differs = <T>(value: T, from: T): T | null =>
        JSON.stringify(value) === JSON.stringify(from) ? null : value;
      void setState((now) => ({
        view: now.view ?? (hasFront && opensId === null ? plainName : null),
        if: differs(next.conditions, base.conditions),
        by: differs([...next.groupings], [...base.groupings]),
        sort: differs(next.sorts, base.sorts),
        below: differs(next.below, base.below),
        layout: differs(next.layout, base.layout),
        columns: differs(next.columns, base.columns),
        frozen: next.frozen === base.frozen ? null : String(next.frozen),
        size: differs(next.covers.size, base.covers.size),
        lines: differs(next.covers.lines, base.covers.lines),
      }));
    },
    [spec, base, setState, hasFront, opensId],
  );
  /** Opens another view, or the plain ledger, as it was saved. */
  const openView = useCallback(
    (viewId: string | null) =>
      void setState({
        view: viewId ?? (plainIsNamed ? plainName : null),
        if: null,
        by: null,
        sort: null,
        below: null,
        layout: null,
        columns: null,
        frozen: null,
        size: null,
        lines: null,
      }),
    [setState, plainIsNamed],
  );
  return {
    state,
    setState,
    saved,
    /** A view was asked for that is not there, or not for this person. */
    gone: named !== null && saved === null,
    base,
    spec,
    setSpec,
    openView,
    changed: !sameView(spec, base),
  };
}
export type ViewState = ReturnType<typeof useViewState>;
