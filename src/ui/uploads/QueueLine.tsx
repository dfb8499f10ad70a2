'use client';

import { bytesPerSecond, secondsLeft } from '@/core/uploads/pace';
import { isUnderWay, needsLook, type QueueItem } from '@/core/uploads/queue';
import { sizeInWords, speedInWords, timeLeftInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { LikeThis } from './LikeThis';
import type { UploadQueue } from './UploadQueue';

/** Where a file stands, in words. */
export function stateInWords(item: QueueItem): string {
  switch (item.state) {
    case 'waiting':
      return `${sizeInWords(item.sizeBytes)}, waiting`;
    case 'reading':
      return 'Being read on this computer';
    case 'sending': {
      const speed = bytesPerSecond(item.readings);
      const left = secondsLeft(item.sizeBytes - item.sentBytes, speed);
      const pace = speed === null ? '' : ` · ${speedInWords(speed)}`;
      return `${sizeInWords(item.sentBytes)} of ${sizeInWords(item.sizeBytes)}${pace}${left === null ? '' : ` · ${timeLeftInWords(left)} left`}`;
    }
    case 'checking':
      return 'Arrived; being checked and filed';
    case 'filed':
      return [`Filed in ${item.placeName}`, ...item.notSet.map((says) => `Not taken over: ${says}`)].join(' · ');
    case 'asking':
      return item.sameContent.length > 0
        ? 'The same content is filed already:'
        : 'A paper of that title is there already.';
    case 'refused':
    case 'interrupted':
      return item.issue?.says ?? '';
    case 'lost':
      return 'Interrupted. Choose the file again to continue.';
    case 'cancelled':
      return 'Stopped. Nothing was filed.';
    case 'left-out':
      return 'Left out: it is filed already.';
  }
}

interface Props {
  readonly item: QueueItem;
  readonly queue: UploadQueue;
  /** Its place in the list, for measuring it, and how far below the list's beginning it stands, in pixels. */
  readonly index: number;
  readonly top: number;
  readonly ref: (line: HTMLLIElement | null) => void;
}

/** One file of the queue. */
export function QueueLine({ item, queue, index, top, ref }: Props) {
  const alarming = needsLook(item);
  return (
    <li
      ref={ref}
      data-index={index}
      aria-label={item.fileName}
      className="absolute inset-x-0 border-b border-line px-3 py-2"
      style={{ top }}
    >
      <div className="flex items-center gap-2">
        <span className="min-w-0 flex-1 truncate font-medium">
          {item.state === 'filed' && item.documentId ? (
            <Link href={`/place/${item.placeId}?paper=${item.documentId}`} className="hover:underline">
              {item.title}
            </Link>
          ) : (
            item.fileName
          )}
        </span>
        {(item.state === 'interrupted' || item.state === 'cancelled') && (
          <Button look="quiet" onClick={() => queue.retry(item.key)}>
            Try again
          </Button>
        )}
        {/* What is being filed can no longer be stopped. */}
        {((isUnderWay(item) && item.state !== 'checking') || item.state === 'interrupted') && (
          <Button look="quiet" aria-label={`Stop ${item.fileName}`} onClick={() => void queue.cancel(item.key)}>
            Stop
          </Button>
        )}
      </div>
      <p className={`figures text-sm ${alarming ? 'text-ember-ink' : 'text-soft'}`}>{stateInWords(item)}</p>
      {item.state === 'filed' && item.documentId && <LikeThis documentId={item.documentId} />}
      {item.state === 'sending' && (
        <progress
          aria-label={`Progress of ${item.fileName}`}
          max={Math.max(1, item.sizeBytes)}
          value={item.sentBytes}
          className="mt-1 block h-[3px] w-full appearance-none [&::-webkit-progress-bar]:bg-mist [&::-webkit-progress-value]:bg-brine-ink"
        />
      )}
      {item.state === 'asking' && (
        <div className="mt-1">
          {item.sameContent.map((place) => (
            <p key={place.documentId} className="truncate text-sm">
              “{place.title}” in {place.placeName}
            </p>
          ))}
          <div className="mt-1.5 flex gap-2">
            {item.sameContent.length > 0 ? (
              <>
                <Button onClick={() => void queue.answer(item.key, { onSameContent: 'leave' })}>Leave it out</Button>
                <Button onClick={() => void queue.answer(item.key, { onSameContent: 'file' })}>File it anyway</Button>
              </>
            ) : (
              <>
                <Button onClick={() => void queue.answer(item.key, { onSameName: 'both' })}>Keep both</Button>
                <Button onClick={() => void queue.answer(item.key, { onSameName: 'version' })}>
                  File as a new version
                </Button>
              </>
            )}
          </div>
        </div>
      )}
    </li>
  );
}
