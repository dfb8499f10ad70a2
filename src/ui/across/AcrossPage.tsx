'use client';

import { useMemo, useState } from 'react';
import { ticked, type Mark } from '@/core/across/marks';
import { filingYearLabel } from '@/core/calendar/filingYear';
import { stamps } from '@/core/files/fileKind';
import { counted, sizeInWords } from '@/core/text/measure';
import type { Conditions } from '@/core/views/conditions';
import { Button } from '../kit/button';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { ExportDialog } from '../exports/ExportDialog';
import { AcrossDialog, type AcrossAct } from './AcrossDialog';
import { TickTree } from './TickTree';

const field = 'h-[30px] rounded-sm border border-edge bg-sheet px-2';

/** Papers across series and dossiers: ticked in a tree, narrowed by year, kind and age, and then acted on together. */
export function AcrossPage() {
  const { library, seenBy } = useSurroundings();
  const [marks, setMarks] = useState<readonly Mark[]>([]);
  const [year, setYear] = useState('');
  const [kind, setKind] = useState('');
  const [before, setBefore] = useState('');
  const [closedBefore, setClosedBefore] = useState('');
  const [lacking, setLacking] = useState('');
  const [doing, setDoing] = useState<AcrossAct | 'export' | null>(null);
  const { data: series } = useAsk('places.series', {});
  const { data: columns } = useAsk('columns.at', { placeId: library.rootId });
  const conditions = useMemo<Conditions>(
    () => [
      ...(year === '' ? [] : [{ of: 'year' as const, anyOf: [Number(year)] }]),
      ...(kind === '' ? [] : [{ of: 'kind' as const, anyOf: [kind] }]),
      ...(before === '' ? [] : [{ of: 'changedAt' as const, span: { from: null, to: before } }]),
      ...(lacking === '' ? [] : [{ of: lacking, filled: false }]),
    ],
    [year, kind, before, lacking],
  );
  const question = {
    marks: marks.map(({ id, on }) => ({ id, on })),
    conditions,
    closedBefore: closedBefore === '' ? null : closedBefore,
  };
  const { data: totals, error } = useAsk('across.totals', question, { keepPrevious: true, enabled: marks.length > 0 });
  const isAny = marks.length > 0 && totals !== undefined && totals.papers > 0;
  return (
    <main id="main" className="flex min-w-0 flex-1 flex-col overflow-hidden">
      <div className="border-b border-line bg-sheet px-6 pt-4 pb-3 max-sm:px-3">
        <h1 className="font-condensed text-xl">Across dossiers</h1>
        <p className="mb-2 text-soft">
          Tick what you mean: whole series, dossiers, years, folders or papers. Then say what is to be done.
        </p>
        <div className="flex flex-wrap items-center gap-2">
          <select
            aria-label="Filing year"
            value={year}
            onChange={(event) => setYear(event.target.value)}
            className={field}
          >
            <option value="">every filing year</option>
            {library.filingYears.map((each) => (
              <option key={each} value={each}>
                {filingYearLabel(each, library)}
              </option>
            ))}
          </select>
          <select
            aria-label="Kind of file"
            value={kind}
            onChange={(event) => setKind(event.target.value)}
            className={field}
          >
            <option value="">every kind</option>
            {stamps.map((stamp) => (
              <option key={stamp}>{stamp}</option>
            ))}
          </select>
          <select
            aria-label="Without a value in"
            value={lacking}
            onChange={(event) => setLacking(event.target.value)}
            className={field}
          >
            <option value="">with and without values</option>
            {columns?.columns
              .filter(({ retired }) => !retired)
              .map(({ id, name }) => (
                <option key={id} value={id}>
                  without {name}
                </option>
              ))}
          </select>
          <label className="flex items-center gap-1.5">
            <span className="text-soft">not changed after</span>
            <input type="date" value={before} onChange={(event) => setBefore(event.target.value)} className={field} />
          </label>
          <label className="flex items-center gap-1.5">
            <span className="text-soft">closed before</span>
            <input
              type="date"
              value={closedBefore}
              onChange={(event) => setClosedBefore(event.target.value)}
              className={field}
            />
          </label>
        </div>
      </div>
      <div className="min-h-0 max-w-[860px] flex-1 overflow-y-auto px-6 py-3 max-sm:px-3">
        {error && <p role="alert">{saysOf(error)}</p>}
        {series?.length === 0 && <p className="text-soft">Nothing is open to you yet.</p>}
        <TickTree
          places={series ?? []}
          lineage={[library.rootId]}
          marks={marks}
          onTick={(lineage) => setMarks(ticked(marks, lineage))}
        />
      </div>
      <div className="flex min-h-[48px] flex-wrap items-center gap-2 border-t border-line bg-sheet px-6 py-2 max-sm:px-3">
        <p role="status" className="figures mr-auto">
          {marks.length === 0
            ? 'Nothing ticked.'
            : totals
              ? `${counted(totals.papers, 'paper')} · ${counted(totals.pages, 'page')} · ${sizeInWords(totals.sizeBytes)}`
              : 'Counting…'}
        </p>
        {marks.length > 0 && (
          <Button look="quiet" onClick={() => setMarks([])}>
            Untick all
          </Button>
        )}
        {seenBy === null && (
          <>
            <Button disabled={!isAny} onClick={() => setDoing('label')}>
              Label…
            </Button>
            <Button disabled={!isAny} onClick={() => setDoing('lock')}>
              Lock…
            </Button>
            <Button disabled={!isAny} onClick={() => setDoing('hand')}>
              Pick up
            </Button>
            <Button disabled={!isAny} onClick={() => setDoing('dispose')}>
              Dispose of…
            </Button>
            <Button look="main" disabled={!isAny} onClick={() => setDoing('export')}>
              Export…
            </Button>
          </>
        )}
      </div>
      {doing === 'export' && totals && (
        <ExportDialog
          title={`Export ${counted(totals.papers, 'paper')}`}
          across={question}
          onClose={() => setDoing(null)}
        />
      )}
      {doing !== null && doing !== 'export' && totals && (
        <AcrossDialog act={doing} question={question} total={totals.papers} onClose={() => setDoing(null)} />
      )}
    </main>
  );
}
