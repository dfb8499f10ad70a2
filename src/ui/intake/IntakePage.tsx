'use client';

import clsx from 'clsx';
import { parseAsString, parseAsStringLiteral, useQueryState } from 'nuqs';
import { dayInWords } from '@/core/calendar/moment';
import type { ArrivalRow } from '@/core/intake/contract';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Tabs } from '../kit/tabs';
import { useNarrow } from '../kit/useNarrow';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { CheckArrival } from './CheckArrival';
import { RuleList } from './RuleList';

const parts = ['waiting', 'done', 'rules'] as const;
const partWords = { waiting: 'Waiting', done: 'Done', rules: 'Filing rules' } as const;
/** Arrivals come by themselves: the list is asked for again so often. */
const againMs = 5000;

/** What has arrived: at the left what waits, oldest first; at the right the one that is checked. */
export function IntakePage() {
  const [which, setWhich] = useQueryState('show', parseAsStringLiteral(parts).withDefault('waiting'));
  const [chosen, setChosen] = useQueryState('arrival', parseAsString);
  const { me } = useSurroundings();
  const listed = which === 'done' ? 'done' : 'waiting';
  const { data, error } = useAsk('arrivals.list', { which: listed }, { again: () => which === 'waiting' && againMs });
  const isNarrow = useNarrow();
  const arrivals = data?.arrivals ?? [];
  const at = chosen ?? (isNarrow ? null : (arrivals[0]?.id ?? null));
  const goOn = () => {
    const here = arrivals.findIndex(({ id }) => id === at);
    void setChosen((arrivals[here + 1] ?? arrivals[here - 1])?.id ?? null);
  };
  const show = (part: (typeof parts)[number]) => {
    void setWhich(part);
    void setChosen(null);
  };
  return (
    <main id="main" className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="border-b border-line bg-sheet px-6 pt-3 max-sm:px-3">
        <h1 className="font-condensed text-xl">Intake</h1>
        <Tabs
          label="Which arrivals"
          parts={me.keeper ? parts : parts.filter((each) => each !== 'rules')}
          words={partWords}
          shown={which}
          onShow={show}
        />
      </div>
      {error && (
        <p role="alert" className="p-6">
          {saysOf(error)}
        </p>
      )}
      {which === 'rules' && me.keeper && <RuleList />}
      {data && which !== 'rules' && (
        <div className="flex min-h-0 flex-1">
          {(!isNarrow || at === null) && (
            <div className="w-[300px] shrink-0 overflow-y-auto border-r border-line bg-sheet max-[900px]:w-full max-[900px]:border-r-0">
              <ArrivalList {...data} which={listed} chosen={at} onChoose={(id) => void setChosen(id)} />
            </div>
          )}
          {at !== null && (
            <div className="flex min-w-0 flex-1 flex-col">
              {isNarrow && (
                <p className="border-b border-line bg-sheet px-3 py-1">
                  <Button look="quiet" onClick={() => void setChosen(null)}>
                    Back to the list
                  </Button>
                </p>
              )}
              <CheckArrival key={at} arrivalId={at} onDone={goOn} />
            </div>
          )}
        </div>
      )}
    </main>
  );
}

function ArrivalList({
  arrivals,
  hasMore,
  unread,
  which,
  chosen,
  onChoose,
}: {
  readonly arrivals: readonly ArrivalRow[];
  readonly hasMore: boolean;
  readonly unread: number;
  readonly which: 'waiting' | 'done';
  readonly chosen: string | null;
  readonly onChoose: (id: string) => void;
}) {
  return (
    <>
      <ul aria-label="Arrivals">
        {arrivals.map((arrival) => (
          <ArrivalLine key={arrival.id} arrival={arrival} isChosen={arrival.id === chosen} onChoose={onChoose} />
        ))}
      </ul>
      {arrivals.length === 0 && (
        <p className="px-4 py-4 text-soft">
          {which === 'done'
            ? 'Nothing has been seen to yet.'
            : 'Nothing waits. Mail that is sent to the library comes here, and is filed once somebody has looked at it.'}
        </p>
      )}
      {hasMore && <p className="px-4 py-2 text-sm text-soft">There are more: these come first.</p>}
      {unread > 0 && (
        <p role="status" className="px-4 py-2 text-sm text-soft">
          {counted(unread, 'arrival is', 'arrivals are')} being read.
        </p>
      )}
    </>
  );
}

function ArrivalLine({
  arrival: { id, sender, subject, arrivedAt, dossier, papers, state, sure },
  isChosen,
  onChoose,
}: {
  readonly arrival: ArrivalRow;
  readonly isChosen: boolean;
  readonly onChoose: (id: string) => void;
}) {
  const { timeZone } = useSurroundings();
  return (
    <li className="border-b border-line">
      <button
        type="button"
        aria-current={isChosen || undefined}
        onClick={() => onChoose(id)}
        className="block w-full px-4 py-2 text-left hover:bg-fog aria-[current]:bg-brine-wash"
      >
        <span className="flex items-baseline gap-2">
          <span className="min-w-0 flex-1 truncate font-medium">{sender === '' ? 'No sender' : sender}</span>
          <span className="shrink-0 text-sm text-soft">{dayInWords(arrivedAt, timeZone)}</span>
        </span>
        <span className="block truncate">{subject === '' ? 'No subject' : subject}</span>
        <span className={clsx('flex gap-2 text-sm', dossier === null ? 'text-ember-ink' : 'text-soft')}>
          <span className="min-w-0 flex-1 truncate">
            {state === 'notOurs' ? 'Not ours' : `${counted(papers, 'paper')}, ${dossier ?? 'no place known'}`}
          </span>
          {sure !== null && (
            <span className="figures" title="How likely the place is right">
              {Math.round(sure * 100)} %
            </span>
          )}
        </span>
      </button>
    </li>
  );
}
