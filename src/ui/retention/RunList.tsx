'use client';

import { useState } from 'react';
import { dayInWords } from '@/core/calendar/moment';
import type { RunRow } from '@/core/retention/contract';
import { itemStates, itemStateWords, runStateWords } from '@/core/retention/run';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { PrepareDialog } from './PrepareDialog';

/** How the papers of a run stand, in words: `12 to be destroyed, 1 under a hold`. */
export const countsInWords = (counts: RunRow['counts']): string =>
  itemStates
    .flatMap((state) => (counts[state] ? [`${counts[state].toLocaleString('en-GB')} ${itemStateWords[state]}`] : []))
    .join(', ');

/** All disposals by the schedule. */
export function RunList({ onOpen }: { readonly onOpen: (runId: string) => void }) {
  const { timeZone } = useSurroundings();
  const { data, error } = useAsk('runs.list', {});
  const [preparing, setPreparing] = useState(false);
  if (error) return <p role="alert">{saysOf(error)}</p>;
  if (!data) return <p aria-busy>…</p>;
  return (
    <>
      <div className="mb-3">
        <Button look="main" onClick={() => setPreparing(true)}>
          Prepare a disposal…
        </Button>
      </div>
      {data.length === 0 ? (
        <p className="rounded-sm border border-line bg-sheet px-4 py-6 text-soft">
          No disposal has been prepared. One lists what is due for destruction by the schedule; another keeper looks
          through it and approves. Then the papers wait in the disposal tray, and a certificate is filed when they are
          gone.
        </p>
      ) : (
        <ul className="rounded-sm border border-line bg-sheet">
          {data.map((run) => (
            <li
              key={run.id}
              className="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-b border-line px-4 py-2.5 last:border-0"
            >
              <button type="button" className="font-medium hover:underline" onClick={() => onOpen(run.id)}>
                Disposal of {dayInWords(run.preparedAt, timeZone)}
              </button>
              <span className={run.state === 'prepared' ? 'text-ember-ink' : ''}>{runStateWords[run.state]}</span>
              <span className="text-sm text-soft">{countsInWords(run.counts)}</span>
              <span className="ml-auto text-sm text-soft">
                prepared by {run.preparedBy}
                {run.approvedBy !== null && `, approved by ${run.approvedBy}`}
              </span>
              {run.certificateId !== null && (
                <Link href={`/paper/${run.certificateId}`} className="text-sm text-brine-ink hover:underline">
                  Certificate
                </Link>
              )}
            </li>
          ))}
        </ul>
      )}
      {preparing && (
        <PrepareDialog
          onClose={() => setPreparing(false)}
          onPrepared={(runId) => {
            setPreparing(false);
            onOpen(runId);
          }}
        />
      )}
    </>
  );
}
