'use client';

import { useState } from 'react';
import type { Turn } from '@/core/intake/cut';
import type { ArrivalRow, ArrivalSheet } from '@/core/intake/contract';
import { mostJoined } from '@/core/intake/join';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { moved, PageCard, smallButton } from './PageCard';

interface Laid {
  readonly arrival: ArrivalRow;
  readonly turn: Turn;
}

/** Joins what was scanned or put in apart into one paper: which, in which order, and how they lie. */
export function JoinDialog({
  sheet,
  onDone,
  onClose,
}: {
  readonly sheet: ArrivalSheet;
  readonly onDone: () => void;
  readonly onClose: () => void;
}) {
  const { data, error } = useAsk('arrivals.list', { which: 'waiting' });
  const join = useAct('arrivals.join', { quiet: true });
  const back = useAct('arrival.takeBack');
  const [laid, setLaid] = useState<readonly Laid[]>([{ arrival: sheet, turn: 0 }]);
  const others = (data?.arrivals ?? []).filter(
    ({ id, isScan }) => isScan && !laid.some(({ arrival }) => arrival.id === id),
  );
  const send = () =>
    join.mutate(
      { arrivals: laid.map(({ arrival: { id, revision }, turn }) => ({ id, revision, turn })) },
      {
        onSuccess: () => {
          say.undoable(
            `${counted(laid.length, 'arrival becomes', 'arrivals become')} one paper. They are kept as they came.`,
            () => back.mutate({ arrivalId: sheet.id }),
          );
          onClose();
          onDone();
        },
      },
    );
  return (
    <Dialog
      title={`Join ${sheet.subject} with others`}
      about="All their pages become one paper, in this order."
      open
      onClose={onClose}
      shape="sheet"
    >
      <ol aria-label="What becomes one paper" className="grid grid-cols-[repeat(auto-fill,minmax(132px,1fr))] gap-2">
        {laid.map(({ arrival: { id, subject }, turn }, at) => (
          <PageCard
            key={id}
            name={subject}
            caption={`${at + 1}. ${subject}`}
            address={`/api/arrival/${id}?page=1`}
            turn={turn}
            isFirst={at === 0}
            isLast={at === laid.length - 1}
            onTurn={(next) => setLaid(laid.map((each, index) => (index === at ? { ...each, turn: next } : each)))}
            onMove={(by) => setLaid(moved(laid, at, by))}
          >
            {id !== sheet.id && (
              <Button
                className={smallButton}
                aria-label={`Leave out ${subject}`}
                onClick={() => setLaid(laid.filter(({ arrival }) => arrival.id !== id))}
              >
                Leave out
              </Button>
            )}
          </PageCard>
        ))}
      </ol>
      <h3 className="mt-4 font-condensed text-[11.5px] tracking-wide text-soft uppercase">What else waits</h3>
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && others.length === 0 && <p className="text-soft">Nothing else with pages waits.</p>}
      <ul>
        {others.map((arrival) => (
          <li key={arrival.id} className="flex items-center gap-2 border-b border-line py-1">
            <img
              src={`/api/arrival/${arrival.id}?page=1`}
              alt=""
              loading="lazy"
              className="h-[44px] w-[34px] border border-line bg-white object-contain"
            />
            <span className="min-w-0 flex-1 truncate">{arrival.subject}</span>
            <Button
              aria-label={`Add ${arrival.subject}`}
              disabled={laid.length >= mostJoined}
              onClick={() => setLaid([...laid, { arrival, turn: 0 }])}
            >
              Add
            </Button>
          </li>
        ))}
      </ul>
      {join.error && (
        <p role="alert" className="mt-2 text-ember-ink">
          {saysOf(join.error)}
        </p>
      )}
      <DialogActs>
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" disabled={laid.length < 2 || join.isPending} onClick={send}>
          {laid.length < 2 ? 'Join them' : `Join these ${laid.length}`}
        </Button>
      </DialogActs>
    </Dialog>
  );
}
