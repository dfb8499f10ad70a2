'use client';

import { useDeferredValue, useState } from 'react';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { waitInWords } from '@/core/disposal/due';
import { trayOrders, type DisposedPaper, type TrayOrder } from '@/core/disposal/model';
import { counted, sizeInWords } from '@/core/text/measure';
import { usePaperActs } from '../documents/usePaperActs';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Stamp } from '../kit/stamp';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { DestroyDialog } from './DestroyDialog';
import { PutElsewhereDialog } from './PutElsewhereDialog';

const orderWords: Readonly<Record<TrayOrder, string>> = {
  newest: 'newest first',
  oldest: 'soonest destroyed first',
  title: 'by title',
  place: 'by place',
  person: 'by who disposed of them',
};
const stillWords = {
  closedPlace: 'its place is closed',
  lockedPlace: 'its place is locked',
  held: 'a hold is on it',
} as const;
/** A hold keeps a paper from being destroyed, and from nothing else. */
const staysInTray = ({ still }: DisposedPaper): boolean => still !== null && still !== 'held';
const isStillHere = ({ still }: DisposedPaper): boolean => still !== null;
const step = 200;

/** The disposal tray: papers wait in it until they are put back, or destroyed. */
export function Tray() {
  const { seenBy } = useSurroundings();
  const [words, setWords] = useState('');
  const [order, setOrder] = useState<TrayOrder>('newest');
  const [most, setMost] = useState(step);
  const { data, error } = useAsk(
    'papers.disposed',
    { words: useDeferredValue(words), order, most },
    { keepPrevious: true },
  );
  const { putBack } = usePaperActs();
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [asking, setAsking] = useState<{ what: 'destroy' | 'elsewhere'; papers: readonly DisposedPaper[] } | null>(
    null,
  );
  const papers = data?.papers ?? [];
  const chosen = papers.filter((paper) => ticked.has(paper.id));
  const untick = () => setTicked(new Set());
  const tick = (ids: readonly string[], on: boolean) =>
    setTicked(new Set(on ? [...ticked, ...ids] : [...ticked].filter((id) => !ids.includes(id))));
  const allTicked = papers.length > 0 && chosen.length === papers.length;
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      <h1 className="font-condensed text-xl">Disposal tray</h1>
      {data && (
        <p className="mb-3 text-soft">
          {data.trayDays === null
            ? 'Papers wait here until they are put back, or until someone destroys them.'
            : `Papers wait here for ${counted(data.trayDays, 'day')}, and are destroyed then if nobody puts them back.`}
        </p>
      )}
      {error && <p role="alert">{saysOf(error)}</p>}
      <div className="mb-2 flex min-h-[34px] flex-wrap items-center gap-2">
        <input
          type="search"
          aria-label="Show only those with these words"
          placeholder="Title, place or person"
          value={words}
          onChange={(event) => setWords(event.target.value)}
          className="h-[30px] w-[240px] rounded-sm border border-edge bg-sheet px-2.5 placeholder:text-soft"
        />
        <select
          aria-label="Order"
          value={order}
          onChange={(event) => setOrder(trayOrders.find((each) => each === event.target.value) ?? 'newest')}
          className="h-[30px] rounded-sm border border-edge bg-sheet px-2"
        >
          {trayOrders.map((each) => (
            <option key={each} value={each}>
              {orderWords[each]}
            </option>
          ))}
        </select>
        <span role="status" className="figures mr-auto text-sm text-soft">
          {data && counted(data.total, 'paper')}
        </span>
        {chosen.length > 0 && seenBy === null && (
          <>
            <Button
              look="main"
              disabled={chosen.some(staysInTray)}
              onClick={() => void putBack(chosen).then(untick, () => undefined)}
            >
              Put {counted(chosen.length, 'paper')} back
            </Button>
            {chosen.every(({ mayDestroy }) => mayDestroy) && (
              <>
                <Button onClick={() => setAsking({ what: 'elsewhere', papers: chosen })}>Put elsewhere…</Button>
                <Button
                  disabled={chosen.some(isStillHere)}
                  onClick={() => setAsking({ what: 'destroy', papers: chosen })}
                >
                  Destroy…
                </Button>
              </>
            )}
          </>
        )}
      </div>
      {data?.total === 0 && (
        <p className="rounded-sm border border-line bg-sheet px-4 py-6 text-soft">
          {words.trim() === ''
            ? 'The tray is empty. What someone disposes of waits here.'
            : `Nothing in the tray has “${words.trim()}” in its title, its place or the name of who put it here.`}
        </p>
      )}
      {papers.length > 0 && (
        <>
          <label className="mb-1 flex items-center gap-2.5 px-3 text-sm text-soft">
            <input
              type="checkbox"
              checked={allTicked}
              onChange={() =>
                allTicked
                  ? untick()
                  : tick(
                      papers.map(({ id }) => id),
                      true,
                    )
              }
              className="size-[15px] accent-brine"
            />
            Choose all shown
          </label>
          <ul className="rounded-sm border border-line bg-sheet">
            {papers.map((paper) => (
              <TrayLine
                key={paper.id}
                paper={paper}
                ticked={ticked.has(paper.id)}
                onTick={(on) => tick([paper.id], on)}
              />
            ))}
          </ul>
          {data && data.total > papers.length && (
            <Button className="mt-2" onClick={() => setMost(Math.min(5000, most + step))}>
              Show more of {data.total.toLocaleString('en-GB')}
            </Button>
          )}
        </>
      )}
      {asking?.what === 'destroy' && (
        <DestroyDialog papers={asking.papers} onClose={() => setAsking(null)} onDone={untick} />
      )}
      {asking?.what === 'elsewhere' && (
        <PutElsewhereDialog papers={asking.papers} onClose={() => setAsking(null)} onDone={untick} />
      )}
    </main>
  );
}

function TrayLine({
  paper,
  ticked,
  onTick,
}: {
  readonly paper: DisposedPaper;
  readonly ticked: boolean;
  readonly onTick: (on: boolean) => void;
}) {
  const { now, timeZone, seenBy } = useSurroundings();
  const { putBack } = usePaperActs();
  return (
    <li className="flex min-h-[38px] flex-wrap items-center gap-x-2.5 border-b border-line px-3 py-1 last:border-0">
      <input
        type="checkbox"
        aria-label={`Choose ${paper.title}`}
        checked={ticked}
        onChange={() => onTick(!ticked)}
        className="size-[15px] accent-brine"
      />
      <span className="w-[54px] shrink-0">
        <Stamp word={paper.stamp} />
      </span>
      <span className="min-w-0 flex-1 basis-[200px]">
        <Link href={`/paper/${paper.id}`} className="block truncate font-medium hover:underline">
          {paper.title}
        </Link>
        <span className="block truncate text-sm text-soft">
          from {paper.homeName} · {sizeInWords(paper.sizeBytes)}
        </span>
      </span>
      <span className="text-right text-sm text-soft max-sm:text-left">
        <time className="block" dateTime={paper.disposedAt} title={momentInWords(paper.disposedAt, timeZone)}>
          {paper.disposedBy}, {whenInWords(paper.disposedAt, now, timeZone)}
        </time>
        <span title={paper.dueAt === null ? undefined : momentInWords(paper.dueAt, timeZone)}>
          {paper.still === null ? waitInWords(paper.dueAt, now) : `stays: ${stillWords[paper.still]}`}
        </span>
      </span>
      {seenBy === null && (
        <Button
          look="quiet"
          aria-label={`Put back ${paper.title}`}
          disabled={staysInTray(paper)}
          onClick={() => void putBack([paper]).catch(() => undefined)}
        >
          Put back
        </Button>
      )}
    </li>
  );
}
