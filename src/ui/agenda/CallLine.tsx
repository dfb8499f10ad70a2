'use client';

import { useState } from 'react';
import type { PaperCallRow } from '@/core/agenda/contract';
import { dayNumber } from '@/core/calendar/period';
import { writeDay } from '@/core/calendar/typedDay';
import { FoundChooser } from '../choosing/FoundChooser';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { Menu } from '../kit/menu';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';
import { useToday } from '../surroundings/useToday';

/** A paper that somebody is asked for: from whom, by when, and handing it in. */
export function CallLine({ call, mayChange }: { readonly call: PaperCallRow; readonly mayChange: boolean }) {
  const [isOpen, setOpen] = useState(false);
  const handIn = useAct('agenda.handIn');
  const uncall = useAct('agenda.uncall');
  const today = useToday();
  const { id: callId, what, who, dueOn, handedIn, isMine } = call;
  const isLate = !handedIn && dueOn !== null && (dayNumber(dueOn) ?? 0) < today;
  const by = dueOn === null ? '' : `, by ${writeDay(dueOn)}`;
  return (
    <li className="mt-1 flex flex-wrap items-center gap-x-2 text-sm">
      <span className={isLate ? 'text-ember-ink' : 'text-soft'}>
        {handedIn ? `“${what}” was handed in by ${who}` : `“${what}” is asked of ${who}${by}${isLate ? ': late' : ''}`}
      </span>
      {!handedIn && (isMine || mayChange) && (
        <Button look="quiet" className="h-6 text-sm" aria-label={`Hand in “${what}”`} onClick={() => setOpen(true)}>
          Hand in…
        </Button>
      )}
      {mayChange && (
        <Menu
          label="More"
          look="quiet"
          name={`More to do with the call for “${what}”`}
          className="h-6 text-sm"
          acts={[
            ...(handedIn
              ? [{ label: 'It was the wrong paper', act: () => handIn.mutate({ callId, documentId: null }) }]
              : []),
            {
              label: 'Ask no more',
              act: () =>
                uncall.mutate(
                  { callId, removed: true },
                  {
                    onSuccess: () =>
                      say.undoable(`${who} is asked for “${what}” no more`, () =>
                        uncall.mutate({ callId, removed: false }),
                      ),
                  },
                ),
              apart: true,
            },
          ]}
        />
      )}
      {isOpen && (
        <Dialog
          title={`Hand in “${what}”`}
          about="File the paper where it belongs first, then find it here. Whoever may not see it there does not see it on the agenda."
          open
          shape="wide"
          onClose={() => setOpen(false)}
        >
          <FoundChooser
            label="Find the paper to hand in"
            placeholder="Find the paper by its title"
            holds={({ kind }) => kind === 'paper'}
            onChoose={({ id: documentId }) =>
              handIn.mutate(
                { callId, documentId },
                {
                  onSuccess: () => {
                    setOpen(false);
                    say.undoable(`“${what}” is handed in`, () => handIn.mutate({ callId, documentId: null }));
                  },
                },
              )
            }
          />
          <DialogActs>
            <Button onClick={() => setOpen(false)}>Cancel</Button>
          </DialogActs>
        </Dialog>
      )}
    </li>
  );
}
