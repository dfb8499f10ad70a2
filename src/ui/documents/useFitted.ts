import { useMemo } from 'react';
import type { Names } from '@/core/columns/format';
import type { PlacedPaper } from '@/core/documents/contract';
import { useSurroundings } from '../surroundings/Surroundings';
import { fitted } from './ledgerColumns';
import type { useLedgerColumns } from './useLedgerColumns';

/** How many rows say how wide columns are: those that come first, so that widths do not change while someone scrolls. */
const measuredRows = 60;

type Columns = ReturnType<typeof useLedgerColumns>;

/** Columns as wide as what is in them, except those that somebody has drawn to a width. */
export function useFitted(columns: Columns, rows: readonly PlacedPaper[], names: Names): Columns {
  const { now, timeZone } = useSurroundings();
  const { shown, drawnTo } = columns;
  const first = rows.slice(0, measuredRows);
  const key = first.map((row) => `${row.id} ${row.revision}`).join();
  const fit = useMemo(
    () =>
      shown.map((column) =>
        drawnTo[column.key] === undefined && first.length > 0
          ? fitted(column, first, { now, timeZone, names })
          : column,
      ),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key stands for the first rows.
    [shown, drawnTo, key, now, timeZone, names],
  );
  return useMemo(() => ({ ...columns, shown: fit }), [columns, fit]);
}
