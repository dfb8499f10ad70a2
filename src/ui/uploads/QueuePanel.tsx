'use client';

import { useState } from 'react';
import { bytesPerSecond, secondsLeft } from '@/core/uploads/pace';
import { isUnderWay, queueTotals, type QueueItem } from '@/core/uploads/queue';
import { counted, sizeInWords, speedInWords, timeLeftInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { downloadCsv } from '../kit/downloadCsv';
import { say } from '../kit/notice';
import { PlaceChooser } from '../choosing/PlaceChooser';
import { saysOf } from '../server/call';
import { QueueList } from './QueueList';
import { stateInWords } from './QueueLine';
import { useUploads } from './uploadsContext';

/** The files that were not filed and why, as a table. */
const listed = (items: readonly QueueItem[]): string[][] => [
  ['Folder', 'File', 'Place', 'Bytes', 'What is in its way'],
  ...items
    .filter((item) => !isUnderWay(item) && (item.state !== 'filed' || item.notSet.length > 0))
    .map((item) => [item.relativePath, item.fileName, item.placeName, String(item.sizeBytes), stateInWords(item)]),
];

/** The files on their way in: each with its progress, and the queue as a whole. */
export function QueuePanel() {
  const { items, queue } = useUploads();
  const [folded, setFolded] = useState(false);
  const [choosing, setChoosing] = useState(false);
  if (items.length === 0) return null;
  const totals = queueTotals(items);
  const speed = bytesPerSecond(queue.pace()) ?? 0;
  const left = secondsLeft(totals.sizeBytes - totals.sentBytes, speed);
  const places = [...new Set(items.filter((item) => item.state !== 'filed').map((item) => item.placeName))];
  const open = items.some((item) => isUnderWay(item) || item.state === 'asking' || item.state === 'interrupted');

  return (
    <section
      aria-label="Papers on their way in"
      className="no-print fixed right-3 bottom-[54px] z-30 flex max-h-[60vh] w-[min(440px,calc(100vw-24px))] flex-col rounded-sm border border-edge bg-sheet shadow-lg"
    >
      <header className="flex items-center gap-2 border-b border-line px-3 py-2">
        <div className="min-w-0 flex-1" role="status">
          <p className="figures font-condensed">
            {totals.filed.toLocaleString('en-GB')} of {counted(totals.files, 'paper')} filed
            {totals.needing > 0 && (
              <span className="text-ember-ink">
                {' '}
                · {totals.needing.toLocaleString('en-GB')} {totals.needing === 1 ? 'needs' : 'need'} a look
              </span>
            )}
          </p>
          {totals.underWay > 0 && (
            <p className="figures truncate text-sm text-soft">
              {sizeInWords(totals.sentBytes)} of {sizeInWords(totals.sizeBytes)}
              {queue.isPaused ? ' · paused' : speed > 0 && ` · ${speedInWords(speed)}`}
              {!queue.isPaused && left !== null && ` · ${timeLeftInWords(left)} left`}
            </p>
          )}
        </div>
        {(totals.underWay > 0 || queue.isPaused) &&
          (queue.isPaused ? (
            <Button onClick={() => queue.resume()}>Go on</Button>
          ) : (
            <Button onClick={() => void queue.pause()}>Pause</Button>
          ))}
        {open && <Button onClick={() => setChoosing(true)}>Place…</Button>}
        <Button onClick={() => setFolded(!folded)} aria-expanded={!folded}>
          {folded ? 'Show' : 'Fold'}
        </Button>
        {!open && <Button onClick={() => queue.clear()}>Done</Button>}
      </header>
      {totals.underWay > 0 && (
        <progress
          aria-label="All papers"
          max={Math.max(1, totals.sizeBytes)}
          value={totals.sentBytes}
          className="block h-[4px] w-full appearance-none [&::-webkit-progress-bar]:bg-mist [&::-webkit-progress-value]:bg-brine-ink"
        />
      )}
      {!folded && (
        <>
          {open && places.length > 0 && (
            <p className="truncate border-b border-line px-3 py-1.5 text-sm">
              Into <strong>{places.join(', ')}</strong>
            </p>
          )}
          <QueueList items={items} queue={queue} />
          {items.length > 1 && totals.needing > 0 && (
            <p className="border-t border-line px-3 py-1.5">
              <Button look="quiet" onClick={() => downloadCsv('Not filed.csv', listed(items))}>
                Download the list of what was not filed
              </Button>
            </p>
          )}
        </>
      )}
      <Dialog title="File the rest in another place" open={choosing} onClose={() => setChoosing(false)}>
        <PlaceChooser
          label="Where to file the rest"
          capability="add"
          onChoose={(place) => {
            setChoosing(false);
            queue.redirect(place).catch((error: unknown) => say.refusal(saysOf(error)));
          }}
        />
      </Dialog>
    </section>
  );
}
