'use client';

import { dayNumber } from '@/core/calendar/period';
import { writeDay } from '@/core/calendar/typedDay';
import type { OutcomeRow } from '@/core/minutes/contract';
import { outcomeKindWords } from '@/core/minutes/model';
import type { ReactNode } from 'react';
import { Button } from '../kit/button';
import { useSettle } from './useSettle';
import { useToday } from '../surroundings/useToday';

/** A decision or an action with who does it by when, and whether it is done. `children`: what else can be done with it. */
export function OutcomeLine({
  outcome,
  saysKind = true,
  from,
  children,
}: {
  readonly outcome: OutcomeRow;
  readonly saysKind?: boolean;
  /** The meeting that it is of, where that is another. */
  readonly from?: ReactNode;
  readonly children?: ReactNode;
}) {
  const { kind, text, who, dueOn, done, maySettle } = outcome;
  const settle = useSettle();
  const today = useToday();
  const isLate = done === null && dueOn !== null && (dayNumber(dueOn) ?? 0) < today;
  const about = [who, dueOn === null ? '' : `by ${writeDay(dueOn)}`].filter((each) => each !== '').join(', ');
  return (
    <>
      {saysKind && (
        <span className="w-16 shrink-0 pt-px font-condensed text-sm text-soft">{outcomeKindWords[kind]}</span>
      )}
      <div className="min-w-0 flex-1 basis-48">
        <p className={`whitespace-pre-line ${done === null ? '' : 'text-soft'}`}>{text}</p>
        {(about !== '' || done !== null || from !== undefined) && (
          <p className="text-sm text-soft">
            {from}
            {from !== undefined && about !== '' && ' · '}
            {about !== '' && <span className={isLate ? 'text-ember-ink' : ''}>{about}</span>}
            {isLate && <span className="text-ember-ink">: late</span>}
            {done !== null &&
              `${about === '' && from === undefined ? '' : ' · '}done on ${writeDay(done.on)} by ${done.by}${done.remark === '' ? '' : `: ${done.remark}`}`}
          </p>
        )}
      </div>
      {maySettle && (
        <Button
          look="quiet"
          className="h-6"
          aria-label={done === null ? `Done: ${text}` : `Open again: ${text}`}
          disabled={settle.isPending}
          onClick={() => settle.settle(outcome, done === null)}
        >
          {done === null ? 'Done' : 'Open again'}
        </Button>
      )}
      {children}
    </>
  );
}
