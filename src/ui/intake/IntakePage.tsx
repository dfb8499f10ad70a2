'use client';

import clsx from 'clsx';
import { useDropzone } from 'react-dropzone';
import { parseAsString, parseAsStringLiteral, useQueryState } from 'nuqs';
import { dayInWords } from '@/core/calendar/moment';
import { writeDay } from '@/core/calendar/typedDay';
import type { ArrivalRow } from '@/core/intake/contract';
import { mostTogether, withoutSender } from '@/core/intake/model';
import { counted } from '@/core/text/measure';
import { percentSure } from '@/core/stated/sureness';
import { Button } from '../kit/button';
import { say } from '../kit/notice';
import { Tabs } from '../kit/tabs';
import { useNarrow } from '../kit/useNarrow';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { droppedFiles } from '../uploads/droppedFiles';
import { useSurroundings } from '../surroundings/Surroundings';
import { CheckArrival } from './CheckArrival';
import { IntakeNumbers } from './IntakeNumbers';
import { PutIn, SendingList } from './PutIn';
import { RuleList } from './RuleList';
import { usePutIn } from './usePutIn';
import { WaysIn } from './WaysIn';

const parts = ['waiting', 'later', 'byRule', 'done', 'rules', 'ways', 'numbers'] as const;
const keepersParts: readonly (typeof parts)[number][] = ['rules', 'ways', 'numbers'];
const partWords = {
  waiting: 'Waiting',
  later: 'Put off',
  byRule: 'Filed by rules',
  done: 'Done',
  rules: 'Filing rules',
  ways: 'Ways in',
  numbers: 'Numbers',
} as const;
type Which = 'waiting' | 'later' | 'byRule' | 'done';
/** Arrivals come by themselves: the list is asked for again so often. */
const againMs = 5000;

/** What has arrived: at the left what waits, oldest first; at the right the one that is checked. */
export function IntakePage() {
  const [asked, setWhich] = useQueryState('show', parseAsStringLiteral(parts).withDefault('waiting'));
  const [chosen, setChosen] = useQueryState('arrival', parseAsString);
  const { me } = useSurroundings();
  // A keeper's link may lead somebody here to whom that is not open.
  const which = keepersParts.includes(asked) && !me.keeper ? 'waiting' : asked;
  const listed = keepersParts.includes(which) ? 'waiting' : (which as Which);
  const { data, error } = useAsk('arrivals.list', { which: listed }, { again: () => listed !== 'done' && againMs });
  const isNarrow = useNarrow();
  const arrivals = data?.arrivals ?? [];
  const at = chosen ?? (isNarrow ? null : (arrivals[0]?.id ?? null));
  const goOn = () => {
    const here = arrivals.findIndex(({ id }) => id === at);
    void setChosen((arrivals[here + 1] ?? arrivals[here - 1])?.id ?? null);
  };
  const putIn = usePutIn();
  const drop = useDropzone({
    noClick: true,
    noKeyboard: true,
    disabled: !data?.mayPutIn,
    getFilesFromEvent: droppedFiles,
    onDrop: (files) => void putIn.put(files),
  });
  const { tabIndex: _tab, role: _role, ...dropProps } = drop.getRootProps();
  const show = (part: (typeof parts)[number]) => {
    void setWhich(part);
    void setChosen(null);
  };
  return (
    <main {...dropProps} id="main" className="relative flex min-h-0 min-w-0 flex-1 flex-col">
      {drop.isDragActive && (
        <p className="absolute inset-2 z-30 grid place-items-center border-2 border-dashed border-brine bg-brine-wash/90 font-condensed text-xl">
          Let go to put it into the intake
        </p>
      )}
      <div className="border-b border-line bg-sheet px-6 pt-3 max-sm:px-3">
        <div className="flex flex-wrap items-center gap-2">
          <h1 className="flex-1 font-condensed text-xl">Intake</h1>
          {data?.mayPutIn && <PutIn putIn={putIn} />}
        </div>
        <Tabs
          label="Which arrivals"
          parts={parts.filter((each) =>
            keepersParts.includes(each)
              ? me.keeper
              : each === which || (each !== 'later' && each !== 'byRule') || (data?.elsewhere[each] ?? 0) > 0,
          )}
          words={partWords}
          shown={which}
          onShow={show}
        />
      </div>
      <SendingList putIn={putIn} />
      {error && (
        <p role="alert" className="p-6">
          {saysOf(error)}
        </p>
      )}
      {!data && !error && !keepersParts.includes(which) && (
        <p aria-busy className="p-6 text-soft">
          Looking at what waits…
        </p>
      )}
      {which === 'rules' && <RuleList />}
      {which === 'ways' && <WaysIn />}
      {which === 'numbers' && <IntakeNumbers />}
      {data && !keepersParts.includes(which) && (
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
  readonly which: Which;
  readonly chosen: string | null;
  readonly onChoose: (id: string) => void;
}) {
  return (
    <>
      {which === 'byRule' && arrivals.length > 0 && <TakeAllBack ids={arrivals.map(({ id }) => id)} />}
      <ul aria-label="Arrivals">
        {arrivals.map((arrival) => (
          <ArrivalLine key={arrival.id} arrival={arrival} isChosen={arrival.id === chosen} onChoose={onChoose} />
        ))}
      </ul>
      {arrivals.length === 0 && (
        <p className="px-4 py-4 text-soft">
          {which === 'done'
            ? 'Nothing has been seen to yet.'
            : which === 'later'
              ? 'Nothing is put off.'
              : which === 'byRule'
                ? 'No rule has filed anything in the last day.'
                : 'Nothing waits. What is sent to the library, scanned, fetched or put in comes here, and is filed once somebody has looked at it.'}
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
  arrival: {
    id,
    way,
    sender,
    subject,
    arrivedAt,
    dossier,
    papers,
    state,
    sure,
    askedOf,
    putOffUntil,
    byRule,
    broughtBy,
  },
  isChosen,
  onChoose,
}: {
  readonly arrival: ArrivalRow;
  readonly isChosen: boolean;
  readonly onChoose: (id: string) => void;
}) {
  const { timeZone, me } = useSurroundings();
  return (
    <li className="border-b border-line">
      <button
        type="button"
        aria-current={isChosen || undefined}
        onClick={() => onChoose(id)}
        className="block w-full px-4 py-2 text-left hover:bg-fog aria-[current]:bg-brine-wash"
      >
        <span className="flex items-baseline gap-2">
          <span className="min-w-0 flex-1 truncate font-medium">
            {sender !== '' ? sender : broughtBy === null ? withoutSender[way] : `Put in by ${broughtBy}`}
          </span>
          <span className="shrink-0 text-sm text-soft">{dayInWords(arrivedAt, timeZone)}</span>
        </span>
        <span className="block truncate">{subject === '' ? 'No subject' : subject}</span>
        <span className={clsx('flex gap-2 text-sm', dossier === null ? 'text-ember-ink' : 'text-soft')}>
          <span className="min-w-0 flex-1 truncate">
            {state === 'notOurs'
              ? 'Not ours'
              : state === 'cut'
                ? 'Taken apart'
                : state === 'joined'
                  ? 'Joined with others'
                  : `${counted(papers, 'paper')}, ${dossier ?? 'no place known'}`}
          </span>
          {sure !== null && (
            <span className="figures" title="How likely the place is right">
              {percentSure(sure)} %
            </span>
          )}
        </span>
        {askedOf !== null && (
          <span className="block truncate text-sm text-brine-ink">
            {askedOf.id === me.id ? 'You are asked' : `${askedOf.name} is asked`}
          </span>
        )}
        {putOffUntil !== null && <span className="block text-sm text-soft">Until {writeDay(putOffUntil)}</span>}
        {byRule !== null && <span className="block truncate text-sm text-soft">By the rule “{byRule}”</span>}
      </button>
    </li>
  );
}

/** What rules have filed in the last day waits again, all of it that is listed. */
function TakeAllBack({ ids }: { readonly ids: readonly string[] }) {
  const back = useAct('arrivals.takeBack');
  const taken = ids.slice(0, mostTogether);
  return (
    <div className="border-b border-line px-4 py-2">
      <p className="text-sm text-soft">Filed by rules in the last day, without a person.</p>
      <Button
        className="mt-1"
        disabled={back.isPending}
        onClick={() =>
          back.mutate(
            { arrivalIds: [...taken] },
            {
              onSuccess: ({ takenBack }) =>
                say.done(
                  `${counted(takenBack, 'arrival waits', 'arrivals wait')} again. The papers are in the disposal tray.`,
                ),
            },
          )
        }
      >
        Take {taken.length === 1 ? 'it' : `all ${taken.length}`} back
      </Button>
    </div>
  );
}
