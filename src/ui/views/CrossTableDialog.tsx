'use client';

import { useState } from 'react';
import { Bar, BarChart, CartesianGrid, Legend, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { inWords } from '@/core/columns/format';
import type { Column } from '@/core/columns/model';
import { amountAt, asCells, cellAt, type CellKind } from '@/core/views/crossing';
import type { Condition } from '@/core/views/conditions';
import type { NamedGroup, Slice } from '@/core/views/contract';
import { groupWays, propertyName, senseOf } from '@/core/views/property';
import type { Grouping } from '@/core/views/spec';
import { Button } from '../kit/button';
import { downloadCsv } from '../kit/downloadCsv';
import { Dialog } from '../kit/dialog';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { groupable, groupByWords, groupingBy } from './ArrangeDialog';

const box = 'h-[30px] min-w-0 rounded-sm border border-edge bg-sheet px-2';
const cellWords: Record<CellKind, string> = {
  papers: 'papers',
  ofAll: 'share of all',
  ofRow: 'share of the row',
  ofHead: 'share of the column',
  sum: 'sum of',
};
/** Hues that stand apart side by side, those of the labels, in the order in which they are taken. */
const hues = [
  '#2f7d7a',
  '#a5603a',
  '#a98a4b',
  '#87537f',
  '#4f7350',
  '#44618f',
  '#a84f5d',
  '#7c8b3d',
  '#77659b',
  '#5b7083',
  '#8f9a72',
  '#8b8680',
];
const mostHeads = 12;
const noNames = { terms: () => undefined, named: () => undefined };

/** What picks the papers of one group; null for a group that no condition names. */
export function conditionFor(group: NamedGroup, { of, by }: Grouping): Condition | null {
  if (group.kind !== 'value' && group.kind !== 'none') return null;
  if (by === 'ago') return null;
  const property = by === 'dossier' || by === 'series' ? 'place' : of;
  if (property === 'place' && group.key === null) return null;
  return { of: property, anyOf: [group.key] };
}

/** A table of two properties of what the view shows, with a chart; each cell leads to its papers. */
export function CrossTableDialog({
  slice,
  columns,
  first,
  onPapers,
  onClose,
}: {
  readonly slice: Slice;
  readonly columns: readonly Column[];
  /** What the view is grouped by, to begin with. */
  readonly first: readonly Grouping[];
  readonly onPapers: (conditions: readonly Condition[]) => void;
  readonly onClose: () => void;
}) {
  const choices = groupable(columns);
  const start = (at: number): Grouping =>
    first[at] ??
    groupingBy(choices.find((of) => of !== first[0]?.of && (at === 0 || of !== choices[0])) ?? 'kind', columns);
  const [down, setDown] = useState<Grouping>(() => start(0));
  const [across, setAcross] = useState<Grouping>(() => start(1));
  const [kind, setKind] = useState<CellKind>('papers');
  const sums = columns.filter((column) => column.type === 'number' || column.type === 'amount');
  const [summed, setSummed] = useState(sums[0]?.id ?? '');
  const column = kind === 'sum' ? columns.find((each) => each.id === summed) : undefined;
  const { data: table, error } = useAsk(
    'view.crossTable',
    { ...slice, down, across, measures: column ? [column.id] : [] },
    { keepPrevious: true },
  );
  const words = (amount: number, how: CellKind): string => {
    if (how === 'papers') return amount === 0 ? '' : amount.toLocaleString('en-GB');
    if (how === 'sum') return column && amount !== 0 ? inWords(column, amount, noNames) : '';
    return amount === 0 ? '' : `${(amount * 100).toFixed(amount < 0.1 ? 1 : 0)} %`;
  };
  const leadTo = (row: NamedGroup | null, head: NamedGroup | null): (() => void) | null => {
    const asked = [row && conditionFor(row, down), head && conditionFor(head, across)];
    if ((row && !asked[0]) || (head && !asked[1])) return null;
    return () => onPapers(asked.flatMap((each) => each ?? []));
  };
  function download() {
    if (!table) return;
    const corner = `${propertyName(down.of, columns)} / ${propertyName(across.of, columns)}`;
    downloadCsv(`${corner.replaceAll('/', 'by')}.csv`, asCells(table, corner, kind, words));
  }
  return (
    <Dialog
      title="Cross-table"
      about="What the view shows, by two properties. A cell leads to its papers."
      open
      onClose={onClose}
      shape="sheet"
    >
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <Side label="Down" grouping={down} choices={choices} columns={columns} onGrouping={setDown} />
        <Side label="Across" grouping={across} choices={choices} columns={columns} onGrouping={setAcross} />
        <label className="flex items-center gap-1.5 text-sm text-soft">
          Cells show
          <select
            aria-label="What the cells show"
            value={kind}
            onChange={(event) =>
              setKind((Object.keys(cellWords) as CellKind[]).find((each) => each === event.target.value) ?? 'papers')
            }
            className={box}
          >
            {(Object.keys(cellWords) as CellKind[])
              .filter((each) => each !== 'sum' || sums.length > 0)
              .map((each) => (
                <option key={each} value={each}>
                  {cellWords[each]}
                </option>
              ))}
          </select>
        </label>
        {kind === 'sum' && (
          <select
            aria-label="Sum of which column"
            value={summed}
            onChange={(event) => setSummed(event.target.value)}
            className={box}
          >
            {sums.map((each) => (
              <option key={each.id} value={each.id}>
                {each.name}
              </option>
            ))}
          </select>
        )}
        <Button className="ml-auto" onClick={download} disabled={!table}>
          Download as CSV
        </Button>
      </div>
      {error && <p role="alert">{saysOf(error)}</p>}
      {!table && !error && <p className="text-soft">Counting…</p>}
      {table && (
        <>
          <div className="overflow-x-auto border border-line">
            <table className="w-full border-collapse text-sm">
              <caption className="sr-only">
                {propertyName(down.of, columns)} by {propertyName(across.of, columns)}
              </caption>
              <thead>
                <tr className="bg-mist">
                  <th scope="col" className="px-2 py-1 text-left font-condensed">
                    {propertyName(down.of, columns)}
                  </th>
                  {table.heads.map((head, at) => (
                    <th key={at} scope="col" className="max-w-32 px-2 py-1 text-right align-bottom font-condensed">
                      {head.name}
                    </th>
                  ))}
                  <th scope="col" className="px-2 py-1 text-right align-bottom font-condensed">
                    All
                  </th>
                </tr>
              </thead>
              <tbody>
                {table.rows.map((row, at) => (
                  <tr key={at} className="border-t border-line">
                    <th scope="row" className="px-2 py-1 text-left font-medium">
                      {row.name}
                    </th>
                    {table.heads.map((head, index) => (
                      <Cell
                        key={index}
                        name={`${row.name}, ${head.name}`}
                        words={words(amountAt(table, row.totals, head.totals, cellAt(row, head)?.totals, kind), kind)}
                        lead={leadTo(row, head)}
                      />
                    ))}
                    <Cell
                      name={`${row.name}, all`}
                      words={words(amountAt(table, row.totals, null, row.totals, kind), kind)}
                      lead={leadTo(row, null)}
                    />
                  </tr>
                ))}
                <tr className="border-t border-edge font-medium">
                  <th scope="row" className="px-2 py-1 text-left">
                    All
                  </th>
                  {table.heads.map((head, at) => (
                    <Cell
                      key={at}
                      name={`All, ${head.name}`}
                      words={words(amountAt(table, null, head.totals, head.totals, kind), kind)}
                      lead={leadTo(null, head)}
                    />
                  ))}
                  <Cell name="All" words={words(amountAt(table, null, null, table.totals, kind), kind)} lead={null} />
                </tr>
              </tbody>
            </table>
          </div>
          <Stacks table={table} kind={kind} />
        </>
      )}
    </Dialog>
  );
}

function Cell({
  name,
  words,
  lead,
}: {
  readonly name: string;
  readonly words: string;
  readonly lead: (() => void) | null;
}) {
  return (
    <td className="figures px-2 py-1 text-right whitespace-nowrap">
      {words !== '' && lead ? (
        <button
          type="button"
          aria-label={`${words}: papers of ${name}`}
          onClick={lead}
          className="text-brine-ink hover:underline"
        >
          {words}
        </button>
      ) : (
        words
      )}
    </td>
  );
}

function Side({
  label,
  grouping,
  choices,
  columns,
  onGrouping,
}: {
  readonly label: string;
  readonly grouping: Grouping;
  readonly choices: readonly string[];
  readonly columns: readonly Column[];
  readonly onGrouping: (next: Grouping) => void;
}) {
  const ways = groupWays[senseOf(grouping.of, columns) ?? 'picked'];
  return (
    <label className="flex items-center gap-1.5 text-sm text-soft">
      {label}
      <select
        aria-label={`${label}: which property`}
        value={grouping.of}
        onChange={(event) => onGrouping(groupingBy(event.target.value, columns))}
        className={`${box} w-36`}
      >
        {choices.map((of) => (
          <option key={of} value={of}>
            {propertyName(of, columns)}
          </option>
        ))}
      </select>
      {ways.length > 1 && (
        <select
          aria-label={`${label}: gathered how`}
          value={grouping.by}
          onChange={(event) => onGrouping({ ...grouping, by: ways.find((by) => by === event.target.value) ?? 'value' })}
          className={box}
        >
          {ways.map((by) => (
            <option key={by} value={by}>
              {groupByWords[by]}
            </option>
          ))}
        </select>
      )}
    </label>
  );
}

/** The table as stacked bars; the table itself is what is read aloud. */
function Stacks({ table, kind }: { readonly table: Parameters<typeof amountAt>[0]; readonly kind: CellKind }) {
  const heads = table.heads.slice(0, mostHeads);
  const data = table.rows.map((row) => ({
    name: row.name,
    ...Object.fromEntries(
      heads.map((head, at) => [`cell${at}`, amountAt(table, row.totals, head.totals, cellAt(row, head)?.totals, kind)]),
    ),
  }));
  return (
    <div aria-hidden className="mt-4" style={{ height: data.length * 30 + 90 }}>
      <ResponsiveContainer width="100%" height="100%">
        <BarChart data={data} layout="vertical" margin={{ top: 4, right: 16, bottom: 4, left: 4 }}>
          <CartesianGrid horizontal={false} stroke="var(--color-line)" />
          <XAxis type="number" tick={{ fontSize: 11, fill: 'var(--color-soft)' }} stroke="var(--color-line)" />
          <YAxis
            type="category"
            dataKey="name"
            width={150}
            interval={0}
            tick={{ fontSize: 12, fill: 'var(--color-ink)' }}
            stroke="var(--color-line)"
          />
          <Legend
            iconType="square"
            iconSize={10}
            itemSorter={null}
            wrapperStyle={{ fontSize: 12 }}
            formatter={(name: string) => <span className="text-ink">{name}</span>}
          />
          {heads.map((head, at) => (
            <Bar
              key={at}
              dataKey={`cell${at}`}
              name={head.name}
              stackId="all"
              fill={hues[at] ?? ''}
              isAnimationActive={false}
              barSize={16}
            />
          ))}
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}
