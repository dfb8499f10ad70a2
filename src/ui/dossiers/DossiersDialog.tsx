'use client';

import { useEffect, useState } from 'react';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

/** Many dossiers at once, from a pasted list: what each line makes is shown before anything is. */
export function DossiersDialog({
  series,
  onClose,
}: {
  readonly series: { readonly id: string; readonly name: string };
  readonly onClose: () => void;
}) {
  const [text, setText] = useState('');
  const [asked, setAsked] = useState('');
  useEffect(() => {
    const timer = setTimeout(() => setAsked(text), 300);
    return () => clearTimeout(timer);
  }, [text]);
  const { data: lines, error } = useAsk(
    'dossiers.check',
    { seriesId: series.id, text: asked },
    { enabled: asked.trim() !== '', keepPrevious: true },
  );
  const make = useAct('dossiers.make', { quiet: true });
  const shown = asked.trim() === '' ? [] : (lines ?? []);
  const good = shown.filter((line) => line.wrong === null).length;
  const bad = shown.length - good;

  const put = (onlyGood: boolean) =>
    make.mutate(
      { seriesId: series.id, text, onlyGood },
      {
        onSuccess: ({ made, folders }) => {
          say.done(`${counted(made, 'dossier')} made${folders > 0 ? `, with ${counted(folders, 'folder')}` : ''}`);
          onClose();
        },
      },
    );

  return (
    <Dialog
      title={`Several dossiers in ${series.name}`}
      about="A name a line; or a table from a spreadsheet or CSV, with columns name, reference, and the details of the series by their names."
      open
      onClose={onClose}
      shape="sheet"
    >
      <LongField
        label="Names"
        rows={9}
        value={text}
        onChange={(event) => setText(event.target.value)}
        placeholder={'Ardent Oysters\nCockle Ferries'}
      />
      <input
        type="file"
        aria-label="Take the list from a file"
        accept=".csv,.txt,.tsv,text/csv,text/plain"
        className="mb-3 text-sm"
        onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
      />
      {error && <p role="alert">{saysOf(error)}</p>}
      <p role="status" className="mb-1.5 font-medium">
        {shown.length > 0 &&
          `${counted(good, 'dossier')} can be made${bad > 0 ? `; ${counted(bad, 'line')} ${bad === 1 ? 'needs' : 'need'} another look` : ''}`}
      </p>
      {shown.length > 0 && (
        <ol className="max-h-[38vh] overflow-y-auto rounded-sm border border-line">
          {[...shown]
            .sort((a, b) => Number(b.wrong !== null) - Number(a.wrong !== null))
            .slice(0, 500)
            .map((line) => (
              <li key={line.line} className="flex gap-3 border-b border-line px-3 py-1 last:border-0">
                <span className="figures w-10 shrink-0 text-right text-sm text-soft">{line.line}</span>
                <span className="w-24 shrink-0 font-mono text-sm">{line.reference ?? ''}</span>
                <span className="min-w-0 flex-1">
                  {line.name}
                  {line.wrong !== null && <span className="block text-sm text-ember-ink">{line.wrong}</span>}
                </span>
              </li>
            ))}
        </ol>
      )}
      {make.error && (
        <p role="alert" className="mt-2 text-ember-ink">
          {saysOf(make.error)}
        </p>
      )}
      <DialogActs>
        <Button look="main" disabled={good === 0 || make.isPending || text !== asked} onClick={() => put(bad > 0)}>
          {make.isPending
            ? 'Making them…'
            : bad > 0
              ? `Make the ${good} valid ones`
              : `Make ${counted(good, 'dossier')}`}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
