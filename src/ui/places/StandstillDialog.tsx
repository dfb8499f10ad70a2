'use client';

import { useState, type FormEvent } from 'react';
import type { PlacePage } from '@/core/places/model';
import { Refusal } from '@/core/errors/refusal';
import { ImpactLines } from '../access/ImpactLines';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useAsOpened } from '../forms/useAsOpened';

type State = 'open' | 'locked' | 'closed';

const choices: Readonly<Record<State, { label: string; about: string; done: string }>> = {
  open: { label: 'Open', about: 'Papers are filed and changed as access allows.', done: 'is open' },
  locked: {
    label: 'Locked',
    about: 'Papers can still be filed. What is here and below is not changed, renamed, moved or disposed of.',
    done: 'is locked',
  },
  closed: {
    label: 'Closed',
    about: 'Nothing is filed or changed, here and below. Everyone goes on reading.',
    done: 'is closed',
  },
};
const states = ['open', 'locked', 'closed'] as const;

/** Closes or locks a place, or opens it again, told before who can then do less or more. */
export function StandstillDialog({ page, onClose }: { readonly page: PlacePage; readonly onClose: () => void }) {
  const { place } = useAsOpened(page);
  const now: State = place.closed ? 'closed' : place.locked ? 'locked' : 'open';
  const [state, setState] = useState<State>(now);
  const [reason, setReason] = useState('');
  const wanted = { locked: state === 'locked', closed: state === 'closed' };
  const { data: lines } = useAsk('standstill.forecast', { on: { kind: 'place', id: place.id }, ...wanted });
  const set = useAct('place.setStandstill', { quiet: true });
  const fields = set.error instanceof Refusal ? set.error.issue.fields : undefined;

  function submit(event: FormEvent) {
    event.preventDefault();
    set.mutate(
      { placeId: place.id, ...wanted, reason, revision: place.revision },
      {
        onSuccess: () => {
          say.done(`“${place.name}” ${choices[state].done}`);
          onClose();
        },
      },
    );
  }

  return (
    <Dialog title={`Close or lock “${place.name}”`} open onClose={onClose}>
      <form onSubmit={submit} noValidate>
        <fieldset>
          <legend className="sr-only">State</legend>
          {states.map((each) => (
            <label key={each} className="flex gap-2.5 py-1.5">
              <input
                type="radio"
                name="standstill"
                checked={state === each}
                onChange={() => setState(each)}
                className="mt-1 accent-brine"
              />
              <span>
                <span className="font-medium">{choices[each].label}</span>
                <span className="block text-sm text-soft">{choices[each].about}</span>
              </span>
            </label>
          ))}
        </fieldset>
        {state !== now && (
          <div className="mt-3 rounded-sm border border-line bg-fog px-4 py-3">
            <ImpactLines lines={lines} />
            <p className="text-sm text-soft">This applies to keepers too.</p>
          </div>
        )}
        <div className="mt-3">
          <TextField
            label="Reason"
            help={now === 'open' ? 'The journal keeps it.' : 'Needed to open it again; the journal keeps it.'}
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            wrong={
              fields?.find((field) => field.path === 'reason')?.says ??
              (set.error && !fields ? saysOf(set.error) : undefined)
            }
          />
        </div>
        <DialogActs>
          <Button type="submit" look="main" disabled={state === now || set.isPending}>
            {state === 'open' ? 'Open it again' : state === 'locked' ? 'Lock it' : 'Close it'}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
