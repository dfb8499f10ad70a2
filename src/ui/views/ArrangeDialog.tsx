'use client';

import type { Column } from '@/core/columns/model';
import { builtIn, builtIns } from '@/core/views/builtIns';
import { groupWays, propertyName, senseOf, type GroupBy } from '@/core/views/property';
import { maxGroupings, maxSorts, type Grouping, type Sort, type ViewSpec } from '@/core/views/spec';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';

const box = 'h-[30px] min-w-0 rounded-sm border border-edge bg-sheet px-2';

/** Each step of grouping in words. */
export const groupByWords: Record<GroupBy, string> = {
  value: 'each by itself',
  series: 'by series',
  dossier: 'by dossier',
  day: 'by day',
  week: 'by week',
  month: 'by month',
  quarter: 'by quarter',
  year: 'by year',
  filingYear: 'by filing year',
  ago: 'by how long ago',
};

/** The properties that papers can be grouped by here. */
export const groupable = (columns: readonly Column[]): string[] =>
  [...columns.map((column) => column.id), ...builtIns].filter((of) => {
    const sense = senseOf(of, columns);
    return sense !== null && of !== 'title' && groupWays[sense].length > 0;
  });

/** A grouping by a property as it is meant where nothing more is said. */
export function groupingBy(of: string, columns: readonly Column[]): Grouping {
  const sense = senseOf(of, columns) ?? 'picked';
  const isDay = sense === 'day' || sense === 'moment';
  return {
    of: of as Grouping['of'],
    by: groupWays[sense][0] ?? 'value',
    order: 'own',
    direction: isDay ? 'down' : 'up',
  };
}

/** Grouping by up to three properties, and sorting by up to five. Takes effect at once, behind the dialog. */
export function ArrangeDialog({
  spec,
  columns,
  hasOrder,
  onSpec,
  onClose,
}: {
  readonly spec: ViewSpec;
  readonly columns: readonly Column[];
  /** Whether people can drag the papers of the place into an order. */
  readonly hasOrder: boolean;
  readonly onSpec: (change: Partial<ViewSpec>) => void;
  readonly onClose: () => void;
}) {
  const { groupings, sorts } = spec;
  const groups = groupable(columns);
  const sums = columns.filter((column) => column.type === 'number' || column.type === 'amount');
  const sortable = [
    ...builtIns.filter((of) => builtIn(of).sorts),
    ...columns.filter((column) => column.type !== 'longText').map((column) => column.id),
    ...(hasOrder ? ['order'] : []),
  ];
  const setGroup = (at: number, next: Grouping | null) =>
    onSpec({ groupings: groupings.flatMap((each, index) => (index === at ? (next ?? []) : each)) });
  const setSort = (at: number, next: Sort | null) =>
    onSpec({ sorts: sorts.flatMap((each, index) => (index === at ? (next ?? []) : each)) });
  const sortName = (of: string) => (of === 'order' ? 'The order people dragged' : propertyName(of, columns));
  const waysOf = (of: string) => groupWays[senseOf(of, columns) ?? 'picked'];
  return (
    <Dialog title="Group and sort" open onClose={onClose} shape="wide">
      <h3 className="mb-2 font-condensed text-lg">Groups</h3>
      {groupings.map((grouping, at) => (
        <div key={at} className="mb-2 flex flex-wrap items-center gap-2">
          <span className="w-14 text-sm text-soft">{at === 0 ? 'by' : 'then by'}</span>
          <select
            aria-label={`Group ${at + 1}: by what`}
            value={grouping.of}
            onChange={(event) => setGroup(at, groupingBy(event.target.value, columns))}
            className={`${box} w-44`}
          >
            {groups.map((of) => (
              <option key={of} value={of}>
                {propertyName(of, columns)}
              </option>
            ))}
          </select>
          {waysOf(grouping.of).length > 1 && (
            <select
              aria-label={`Group ${at + 1}: gathered how`}
              value={grouping.by}
              onChange={(event) =>
                setGroup(at, {
                  ...grouping,
                  by: waysOf(grouping.of).find((by) => by === event.target.value) ?? 'value',
                })
              }
              className={box}
            >
              {waysOf(grouping.of).map((by) => (
                <option key={by} value={by}>
                  {groupByWords[by]}
                </option>
              ))}
            </select>
          )}
          <select
            aria-label={`Group ${at + 1}: in which order`}
            value={`${grouping.order} ${grouping.direction}`}
            onChange={(event) => {
              const [order = 'own', direction] = event.target.value.split(' ');
              setGroup(at, {
                ...grouping,
                order: order as Grouping['order'],
                direction: direction === 'down' ? 'down' : 'up',
              });
            }}
            className={box}
          >
            <option value="own up">in order</option>
            <option value="own down">in order, last first</option>
            <option value="papers down">most papers first</option>
            <option value="pages down">most pages first</option>
            <option value="bytes down">largest first</option>
            {sums.map((column) => (
              <option key={column.id} value={`${column.id} down`}>
                most {column.name.toLowerCase()} first
              </option>
            ))}
          </select>
          <Button look="quiet" aria-label={`Remove group ${at + 1}`} onClick={() => setGroup(at, null)}>
            Remove
          </Button>
        </div>
      ))}
      {groupings.length < maxGroupings && (
        <Button
          onClick={() => {
            const next = groups.find((of) => !groupings.some((each) => each.of === of));
            if (next) onSpec({ groupings: [...groupings, groupingBy(next, columns)] });
          }}
        >
          {groupings.length === 0 ? 'Group the papers' : 'Group within these'}
        </Button>
      )}
      <h3 className="mt-5 mb-2 font-condensed text-lg">Order of papers</h3>
      {sorts.length === 0 && <p className="mb-2 text-sm text-soft">By title.</p>}
      {sorts.map((sort, at) => (
        <div key={at} className="mb-2 flex flex-wrap items-center gap-2">
          <span className="w-14 text-sm text-soft">{at === 0 ? 'by' : 'then by'}</span>
          <select
            aria-label={`Key ${at + 1}: by what`}
            value={sort.of}
            onChange={(event) => setSort(at, { ...sort, of: event.target.value as Sort['of'] })}
            className={`${box} w-44`}
          >
            {sortable.map((of) => (
              <option key={of} value={of}>
                {sortName(of)}
              </option>
            ))}
          </select>
          <select
            aria-label={`Key ${at + 1}: which way`}
            value={sort.direction}
            onChange={(event) => setSort(at, { ...sort, direction: event.target.value === 'down' ? 'down' : 'up' })}
            className={box}
          >
            <option value="up">first to last</option>
            <option value="down">last to first</option>
          </select>
          <Button look="quiet" aria-label={`Remove sort ${at + 1}`} onClick={() => setSort(at, null)}>
            Remove
          </Button>
        </div>
      ))}
      {sorts.length < maxSorts && (
        <Button
          onClick={() => {
            const next = sortable.find((of) => !sorts.some((each) => each.of === of));
            if (next) onSpec({ sorts: [...sorts, { of: next as Sort['of'], direction: 'up' }] });
          }}
        >
          {sorts.length === 0 ? 'Sort by something else' : 'Sort further'}
        </Button>
      )}
    </Dialog>
  );
}
