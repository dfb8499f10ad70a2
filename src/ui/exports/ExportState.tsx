'use client';

import { dayInWords } from '@/core/calendar/moment';
import { exportFaultWords, type Export } from '@/core/exports/contract';
import { counted, sizeInWords, timeLeftInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

const againMs = 700;

/** Whether an export is still to come. */
export const isUnderWay = ({ state }: Export): boolean => state === 'waiting' || state === 'making';

/** The person's exports, asked for again as long as one is under way. */
export const useExports = (): readonly Export[] | undefined =>
  useAsk('exports.mine', {}, { again: (all) => all.some(isUnderWay) && againMs }).data;

/** How far an export is, or what became of it; it can be cancelled, fetched and removed. */
export function ExportState({ found }: { readonly found: Export }) {
  const { timeZone } = useSurroundings();
  const remove = useAct('export.remove');
  const end = (words: string) => (
    <Button
      look="quiet"
      aria-label={`${words} ${found.name}`}
      disabled={remove.isPending}
      onClick={() => remove.mutate({ exportId: found.id })}
    >
      {words}
    </Button>
  );
  const left =
    found.leftOut === null || found.leftOut === 0
      ? ''
      : `; ${counted(found.leftOut, 'paper')} left out, of which no copies may be taken`;
  if (found.state === 'failed')
    return (
      <div className="flex flex-wrap items-center gap-2">
        <p role="alert" className="min-w-0 flex-1 text-ember-ink">
          {found.fault ? exportFaultWords[found.fault] : 'It could not be made.'}
        </p>
        {end('Remove')}
      </div>
    );
  if (found.state === 'done')
    return (
      <div className="flex flex-wrap items-center gap-2">
        <p role="status" className="min-w-0 flex-1">
          {counted(found.papers ?? 0, 'paper')}, {sizeInWords(found.bytes)}
          {left}.{' '}
          {found.expiresAt !== null && (
            <span className="text-sm text-soft">Kept until {dayInWords(found.expiresAt, timeZone)}.</span>
          )}
        </p>
        <a
          href={`/api/export/${found.id}`}
          className="inline-flex h-[30px] items-center rounded-sm border border-line bg-sheet px-3 hover:border-edge"
        >
          Download
        </a>
        {end('Remove')}
      </div>
    );
  const part = found.ofBytes ? Math.min(1, found.bytes / found.ofBytes) : 0;
  return (
    <div>
      <div
        role="progressbar"
        aria-label={found.name}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(part * 100)}
        className="h-[6px] overflow-hidden rounded-sm bg-mist"
      >
        <div className="h-full bg-brine" style={{ width: `${part * 100}%` }} />
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <p role="status" className="figures min-w-0 flex-1 text-sm text-soft">
          {found.state === 'waiting' || found.ofBytes === null
            ? 'Waits for its turn'
            : `${sizeInWords(found.bytes)} of ${sizeInWords(found.ofBytes)}${found.secondsLeft === null ? '' : `, ${timeLeftInWords(found.secondsLeft)} left`}${left}`}
        </p>
        {end('Cancel')}
      </div>
    </div>
  );
}
