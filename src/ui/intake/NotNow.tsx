'use client';

import { useState } from 'react';
import type { ArrivalSheet } from '@/core/intake/contract';
import { useActForm } from '../forms/useActForm';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField, TextField } from '../kit/field';
import { Menu } from '../kit/menu';
import { say } from '../kit/notice';
import { Pick } from '../kit/pick';
import { useAct } from '../server/useCall';
import { useChoices } from '../server/useChoices';
import { CutDialog } from './CutDialog';
import { JoinDialog } from './JoinDialog';

type Part = 'later' | 'ask' | 'pages' | 'join';

/** What can be done with an arrival instead of filing it: wait until a day, ask somebody, or see to its pages. */
export function NotNow({ sheet, onDone }: { readonly sheet: ArrivalSheet; readonly onDone: () => void }) {
  const [open, setOpen] = useState<Part | null>(null);
  const putOff = useAct('arrival.putOff');
  const { id: arrivalId, revision, putOffUntil } = sheet;
  const close = () => setOpen(null);
  return (
    <>
      <Menu
        label="Otherwise"
        acts={[
          ...(sheet.isScan
            ? [
                { label: 'Pages…', act: () => setOpen('pages') },
                { label: 'Join with others…', act: () => setOpen('join') },
              ]
            : []),
          { label: 'Later…', act: () => setOpen('later') },
          { label: 'Ask somebody…', act: () => setOpen('ask') },
          ...(putOffUntil === null
            ? []
            : [{ label: 'Have it wait now', act: () => putOff.mutate({ arrivalId, revision, until: null }) }]),
        ]}
      />
      {open === 'later' && <LaterDialog {...{ sheet, onDone }} onClose={close} />}
      {open === 'pages' && <CutDialog {...{ sheet, onDone }} onClose={close} />}
      {open === 'join' && <JoinDialog {...{ sheet, onDone }} onClose={close} />}
      {open === 'ask' && <AskDialog {...{ sheet, onDone }} onClose={close} />}
    </>
  );
}

interface Open {
  readonly sheet: ArrivalSheet;
  readonly onDone: () => void;
  readonly onClose: () => void;
}

function LaterDialog({ sheet: { id: arrivalId, revision }, onDone, onClose }: Open) {
  const { form, submit, wrong, refused, isPending } = useActForm(
    'arrival.putOff',
    { arrivalId, revision, until: '' },
    () => {
      say.done('Put off. It is under “Put off”, and waits again on that day.');
      onDone();
      onClose();
    },
  );
  return (
    <Dialog title="Later" open onClose={onClose}>
      <form onSubmit={submit}>
        <TextField label="It waits again on" type="date" {...form.register('until')} wrong={wrong('until')} autoFocus />
        {refused && (
          <p role="alert" className="text-ember-ink">
            {refused}
          </p>
        )}
        <DialogActs>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="main" disabled={isPending}>
            Put off
          </Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}

function AskDialog({ sheet: { id: arrivalId, revision }, onDone, onClose }: Open) {
  const [whom, setWhom] = useState<{ readonly id: string; readonly name: string } | null>(null);
  const { found, asking } = useChoices('person');
  const { form, submit, wrong, refused, isPending } = useActForm(
    'arrival.ask',
    { arrivalId, revision, personId: '', says: '' },
    ({ sent }) => {
      say.done(`${whom?.name ?? ''} is asked${sent ? '' : ', and no mail could be sent: tell them'}.`);
      onDone();
      onClose();
    },
  );
  const set = (person: typeof whom) => {
    setWhom(person);
    form.setValue('personId', person?.id ?? '');
    form.clearErrors('personId');
  };
  return (
    <Dialog title="Ask somebody" open onClose={onClose}>
      <form onSubmit={submit}>
        <p className="mb-3 text-soft">
          They see it among what waits for them, and are told by mail. They may answer, or file it.
        </p>
        <div className="mb-3.5">
          <span className="mb-1 block text-sm font-semibold">Whom</span>
          <Pick
            label="Whom"
            shown={whom?.name ?? <span className="text-soft">Nobody yet</span>}
            {...asking}
            picked={whom ? [whom.id] : []}
            onPick={(id) => set(found.find((each) => each.id === id) ?? null)}
            onClear={() => set(null)}
            className="flex min-h-[34px] w-full items-center rounded-sm border border-edge bg-sheet px-2.5 text-left"
          />
          {wrong('personId') !== undefined && (
            <p role="alert" className="mt-1 text-sm text-ember-ink">
              {whom === null ? 'Choose whom to ask.' : wrong('personId')}
            </p>
          )}
        </div>
        <LongField label="What you want to know" {...form.register('says')} wrong={wrong('says')} />
        {refused && wrong('personId') === undefined && (
          <p role="alert" className="text-ember-ink">
            {refused}
          </p>
        )}
        <DialogActs>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="main" disabled={isPending}>
            Ask
          </Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
