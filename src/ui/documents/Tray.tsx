'use client';

import { useState } from 'react';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Stamp } from '../kit/stamp';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { usePaperActs } from './usePaperActs';

/** The disposal tray: papers that can be put back. */
export function Tray() {
  const { now, timeZone } = useSurroundings();
  const { data, error } = useAsk('papers.disposed', {});
  const { putBack } = usePaperActs();
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const chosen = data?.filter((paper) => ticked.has(paper.id)) ?? [];
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
      <div className="flex items-center gap-3">
        <h1 className="mr-auto font-condensed text-xl">Disposal tray</h1>
        {chosen.length > 0 && (
          <Button
            look="main"
            onClick={() =>
              void putBack(chosen).then(
                () => setTicked(new Set()),
                () => undefined,
              )
            }
          >
            Put {counted(chosen.length, 'paper')} back
          </Button>
        )}
      </div>
      <p className="mb-3 text-soft">Papers wait here after they are disposed of. Put back, they are where they were.</p>
      {error && <p role="alert">{saysOf(error)}</p>}
      {data?.length === 0 && (
        <p className="rounded-sm border border-line bg-sheet px-4 py-6 text-soft">The tray is empty.</p>
      )}
      <ul className="rounded-sm border border-line bg-sheet empty:hidden">
        {data?.map((paper) => (
          <li key={paper.id} className="flex h-[38px] items-center gap-2.5 border-b border-line px-3 last:border-0">
            <input
              type="checkbox"
              aria-label={`Choose ${paper.title}`}
              checked={ticked.has(paper.id)}
              onChange={() =>
                setTicked(
                  new Set(ticked.has(paper.id) ? [...ticked].filter((id) => id !== paper.id) : [...ticked, paper.id]),
                )
              }
              className="size-[15px] accent-brine"
            />
            <span className="w-[54px] shrink-0">
              <Stamp word={paper.stamp} />
            </span>
            <span className="min-w-0 truncate font-medium">{paper.title}</span>
            <span className="truncate text-sm text-soft">from {paper.homeName}</span>
            <time
              className="ml-auto shrink-0 text-sm text-soft"
              dateTime={paper.disposedAt}
              title={momentInWords(paper.disposedAt, timeZone)}
            >
              {paper.disposedBy}, {whenInWords(paper.disposedAt, now, timeZone)}
            </time>
            <Button
              look="quiet"
              aria-label={`Put back ${paper.title}`}
              onClick={() => void putBack([paper]).catch(() => undefined)}
            >
              Put back
            </Button>
          </li>
        ))}
      </ul>
    </main>
  );
}
