'use client';

import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { filingYearLabel } from '@/core/calendar/filingYear';
import type { LibrarySettings } from '@/core/library/model';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

interface YearDialog {
  readonly what: 'open' | 'close' | 'reopen';
  readonly startYear: number;
}

/** The filing years that are kept: opened, closed and opened again, each with what it would do said before. */
export function FilingYears({ settings }: { readonly settings: LibrarySettings }) {
  const { filingYears, closedYears } = settings;
  const [asked, setAsked] = useState<YearDialog | null>(null);
  const label = (year: number) => filingYearLabel(year, settings);
  const last = filingYears.at(-1) ?? new Date().getFullYear();
  const first = filingYears[0] ?? last;
  return (
    <section aria-label="Filing years">
      <h2 className="mb-1.5 font-condensed">Filing years</h2>
      <ul className="mb-3 max-w-[420px] rounded-sm border border-line bg-sheet empty:hidden">
        {filingYears.map((year) => {
          const closed = closedYears.includes(year);
          return (
            <li key={year} className="flex items-center gap-3 border-b border-line px-4 py-1 last:border-0">
              <span className="figures flex-1">{label(year)}</span>
              <span className="text-sm text-soft">{closed ? 'closed' : 'open'}</span>
              <Button
                look="quiet"
                aria-label={`${closed ? 'Open again' : 'Close'} ${label(year)}`}
                onClick={() => setAsked({ what: closed ? 'reopen' : 'close', startYear: year })}
              >
                {closed ? 'Open again…' : 'Close…'}
              </Button>
            </li>
          );
        })}
      </ul>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => setAsked({ what: 'open', startYear: last + 1 })}>Open {label(last + 1)}…</Button>
        <Button onClick={() => setAsked({ what: 'open', startYear: first - 1 })}>Keep {label(first - 1)} too…</Button>
      </div>
      {asked?.what === 'open' && (
        <OpenDialog startYear={asked.startYear} label={label(asked.startYear)} onClose={() => setAsked(null)} />
      )}
      {asked && asked.what !== 'open' && (
        <CloseDialog
          startYear={asked.startYear}
          label={label(asked.startYear)}
          closes={asked.what === 'close'}
          onClose={() => setAsked(null)}
        />
      )}
    </section>
  );
}

interface Props {
  readonly startYear: number;
  readonly label: string;
  readonly onClose: () => void;
}

function OpenDialog({ startYear, label, onClose }: Props) {
  const router = useRouter();
  const { data, error } = useAsk('year.openForecast', { startYear });
  const open = useAct('year.open', { quiet: true });
  return (
    <Dialog title={`Open filing year ${label}`} open onClose={onClose}>
      <Consequences error={error ?? open.error}>
        {data && (
          <>
            <li>{counted(data.dossiers, 'dossier')} will have a place for it.</li>
            {data.folders > 0 && <li>{counted(data.folders, 'folder')} of the filing plans will be made in them.</li>}
            {data.closedDossiers > 0 && (
              <li>{counted(data.closedDossiers, 'closed dossier')} will stay as they are.</li>
            )}
          </>
        )}
      </Consequences>
      <DialogActs>
        <Button
          look="main"
          disabled={!data || open.isPending}
          onClick={() =>
            open.mutate(
              { startYear },
              {
                onSuccess: ({ made, folders }) => {
                  say.done(`${label} is open in ${counted(made, 'dossier')}, with ${counted(folders, 'folder')}`);
                  router.refresh();
                  onClose();
                },
              },
            )
          }
        >
          {open.isPending ? 'Making the folders…' : `Open ${label}`}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}

function CloseDialog({ startYear, label, closes, onClose }: Props & { readonly closes: boolean }) {
  const router = useRouter();
  const { data, error } = useAsk('year.closeForecast', { startYear }, { enabled: closes, untilCounted: true });
  const [reason, setReason] = useState('');
  const set = useAct('year.setClosed', { quiet: true });
  const counting = closes && data?.state !== 'counted';
  return (
    <Dialog
      title={closes ? `Close filing year ${label}` : `Open filing year ${label} again`}
      about={
        closes
          ? 'Nothing can be filed or changed in it then, in no dossier. It can be opened again, with a reason.'
          : 'Papers can be filed and changed in it again, in every dossier.'
      }
      open
      onClose={onClose}
    >
      <Consequences error={error ?? set.error}>
        {counting && !error && <li aria-busy>Looking for what is unfinished…</li>}
        {closes && data?.state === 'counted' && (
          <>
            <li>It closes in {counted(data.places, 'dossier')}.</li>
            <li className={data.gaps > 0 ? 'text-ember-ink' : ''}>
              {data.gaps === 0
                ? 'No expected paper is missing.'
                : `${counted(data.gaps, 'expected paper is', 'expected papers are')} missing: ${data.gapsBySeries
                    .map((each) => `${each.name} ${each.count}`)
                    .join(', ')}.`}
            </li>
            {data.undescribed > 0 && (
              <li className="text-ember-ink">
                {data.undescribed === 1
                  ? '1 paper lacks a value that it has'
                  : `${data.undescribed} papers lack a value that they have`}{' '}
                to have.
              </li>
            )}
            {data.uploads > 0 && (
              <li className="text-ember-ink">
                {counted(data.uploads, 'file is', 'files are')} on the way into it, and would be refused; nothing of
                them is lost.
              </li>
            )}
          </>
        )}
      </Consequences>
      <LongField
        label={closes ? 'Reason, if there is one' : 'Reason'}
        value={reason}
        maxLength={400}
        rows={2}
        onChange={(event) => setReason(event.target.value)}
      />
      <DialogActs>
        <Button
          look="main"
          disabled={set.isPending || counting || (!closes && reason.trim() === '')}
          onClick={() =>
            set.mutate(
              { startYear, closed: closes, reason },
              {
                onSuccess: ({ places }) => {
                  say.done(`${label} is ${closes ? 'closed' : 'open again'} in ${counted(places, 'dossier')}`);
                  router.refresh();
                  onClose();
                },
              },
            )
          }
        >
          {closes ? `Close ${label}` : `Open ${label} again`}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}

function Consequences({ error, children }: { readonly error: Error | null; readonly children: ReactNode }) {
  return (
    <>
      <ul className="mb-3 list-disc space-y-1 pl-5">{children}</ul>
      {error && (
        <p role="alert" className="mb-2 text-ember-ink">
          {saysOf(error)}
        </p>
      )}
    </>
  );
}
