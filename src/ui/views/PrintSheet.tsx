'use client';

import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { PlacePage } from '@/core/places/model';
import { counted, sizeInWords } from '@/core/text/measure';
import { momentInWords } from '@/core/calendar/moment';
import { displayOf } from '@/core/views/display';
import { plainView } from '@/core/views/spec';
import { namesFrom, useColumns } from '../columns/useColumns';
import { ownColumns, valueColumn } from '../documents/ledgerColumns';
import { Button } from '../kit/button';
import { call, saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { useViewState } from './useViewState';

const mostPrinted = 5000;
const nothing = new Set<string>();

/** A view as a list for paper: groups with their totals, the columns as chosen, who printed it and when. */
export function PrintSheet({ page }: { readonly page: PlacePage }) {
  const around = useSurroundings();
  const { library, me, now } = around;
  const placeId = page.place.id;
  const isLibrary = placeId === library.rootId;
  const at = useAsk('views.at', { placeId });
  const { spec, state, saved } = useViewState(at.data?.views ?? [], at.data?.opensId ?? null, {
    ...plainView,
    below: isLibrary,
  });
  const { columns: inForce, lexicons } = useColumns(placeId);
  const columns = spec.below ? (at.data?.columns ?? inForce) : inForce;
  const { filter } = state;
  const view = useQuery({
    queryKey: ['print', placeId, filter, spec],
    queryFn: async () => {
      const shownHere = await call('view.open', {
        placeId,
        below: spec.below,
        filter,
        conditions: spec.conditions,
        groupings: spec.groupings,
        sorts: spec.sorts,
        counts: [],
        measures: [],
        start: 0,
        limit: mostPrinted,
      });
      const documentIds = shownHere.rows.map((row) => row.id);
      const notCopied = documentIds.length === 0 ? [] : await call('papers.notCopiable', { documentIds });
      return { ...shownHere, notCopied: new Set(notCopied) };
    },
    enabled: !at.isPending,
  });
  const shown = useMemo(() => {
    const all = [...ownColumns, ...columns.map(valueColumn)];
    const wanted = spec.columns ?? ['kind', 'pages', 'filedAt', ...(spec.below ? ['place'] : [])];
    return wanted.flatMap((key) => all.find((column) => column.key === key) ?? []);
  }, [columns, spec.columns, spec.below]);
  const { data } = view;
  const display = useMemo(() => displayOf(data?.groups ?? [], data?.lines ?? 0, nothing), [data]);
  const names = namesFrom(lexicons, data?.names ?? {});
  if (view.error) return <p className="p-6">{saysOf(view.error)}</p>;
  return (
    <main
      id="main"
      className="min-w-0 flex-1 overflow-y-auto bg-sheet px-8 py-6 text-ink print:overflow-visible print:p-0"
    >
      <div className="no-print mb-4 flex items-center gap-3">
        <Button look="main" disabled={!data} onClick={() => window.print()}>
          Print the list
        </Button>
        {data && data.lines > mostPrinted && (
          <p className="text-sm text-soft">
            The first {mostPrinted.toLocaleString('en-GB')} of {data.lines.toLocaleString('en-GB')} lines. Narrow the
            view for the rest, or download it.
          </p>
        )}
      </div>
      <h1 className="font-condensed text-xl">
        {isLibrary ? 'All papers' : page.place.name}
        {saved ? `: ${saved.name}` : ''}
      </h1>
      <p className="mb-3 text-sm text-soft">
        {[library.name, ...page.path.map((step) => step.name)].join(' / ')}
        {data &&
          data.notCopied.size > 0 &&
          ` · ${counted(data.notCopied.size, 'paper is', 'papers are')} left out: to be read on the screen alone`}
        {data?.totals && ` · ${counted(data.totals.papers, 'paper')} · ${sizeInWords(data.totals.bytes)}`} · printed for{' '}
        {me.name}, {momentInWords(now, around.timeZone)}
      </p>
      <table className="w-full border-collapse text-sm">
        <thead>
          <tr className="border-b-2 border-ink text-left">
            <th scope="col" className="py-1 pr-3 font-condensed">
              Title
            </th>
            {shown.map((column) => (
              <th
                key={column.key}
                scope="col"
                className={`py-1 pr-3 font-condensed ${column.figures ? 'text-right' : ''}`}
              >
                {column.heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {Array.from({ length: data ? display.count : 0 }, (_each, index) => {
            const line = display.lineAt(index);
            if (line?.kind === 'group')
              return (
                <tr key={index} className="break-after-avoid">
                  <th
                    scope="rowgroup"
                    colSpan={shown.length + 1}
                    className="pt-3 pb-1 text-left font-condensed"
                    style={{ paddingLeft: line.depth * 14 }}
                  >
                    {line.group.name}{' '}
                    <span className="font-sans text-soft">{counted(line.group.totals.papers, 'paper')}</span>
                  </th>
                </tr>
              );
            const paper = line ? data?.rows[line.line] : undefined;
            if (!paper || !line || data?.notCopied.has(paper.id)) return null;
            return (
              <tr key={index} className="break-inside-avoid border-b border-line align-top">
                <td className="py-1 pr-3" style={{ paddingLeft: line.depth * 14 }}>
                  {paper.title}
                </td>
                {shown.map((column) => (
                  <td key={column.key} className={`py-1 pr-3 ${column.figures ? 'figures text-right' : ''}`}>
                    {column.cell(paper, { ...around, names })}
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
    </main>
  );
}
