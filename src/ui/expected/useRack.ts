'use client';

import { parseAsBoolean, parseAsJson, parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs';
import { useMemo } from 'react';
import { z } from 'zod';
import { arrangeRack, rackOrders, rackShows } from '@/core/expected/rackOrder';
import { useAsk } from '../server/useCall';

/** The parts of a rack's state kept in its address. */
const addressed = {
  show: parseAsStringLiteral(rackShows).withDefault('expected'),
  rows: parseAsStringLiteral(rackOrders).withDefault('keeper'),
  find: parseAsString.withDefault(''),
  with: parseAsJson(z.record(z.string(), z.string())),
  gaps: parseAsBoolean.withDefault(false),
};

/** The rack of a series, arranged as its address says. */
export function useRack(seriesId: string) {
  const { data, error } = useAsk('rack.open', { seriesId }, { untilCounted: true });
  const [state, setState] = useQueryStates(addressed);
  const rows = useMemo(
    () =>
      data
        ? arrangeRack(
            data.rows,
            data.names,
            { words: state.find, details: state.with ?? {}, onlyGaps: state.gaps },
            state.rows,
          )
        : [],
    [data, state],
  );
  return { rack: data, error, rows, state, setState };
}
