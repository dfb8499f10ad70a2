'use client';

import { useState } from 'react';
import type { AgendaItemRow, AgendaSheet } from '@/core/agenda/contract';
import { Refusal } from '@/core/errors/refusal';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { WhoField } from '../people/WhoField';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** Asks somebody for a paper for an item. */
export function CallDialog({
  item,
  number,
  attendees,
  onClose,
}: {
  readonly item: AgendaItemRow;
  readonly number: string;
  readonly attendees: AgendaSheet['attendees'];
  readonly onClose: () => void;
}) {
  const ask = useAct('agenda.call', { quiet: true });
  const [what, setWhat] = useState('');
  const [doer, setDoer] = useState<{ personId: string | null; who: string }>({ personId: null, who: '' });
  const [dueOn, setDueOn] = useState('');
  const issue = ask.error instanceof Refusal ? ask.error.issue : null;
  const wrong = (path: string) => issue?.fields?.find((field) => field.path === path)?.says;
  return (
    <Dialog
      title={`Ask for a paper for ${number} ${item.title ?? ''}`}
      about="It stands on their desk until it is handed in, and a mail says so."
      open
      onClose={onClose}
    >
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          ask.mutate(
            { itemId: item.id, what, ...doer, dueOn: dueOn === '' ? null : dueOn },
            {
              onSuccess: ({ sent }) => {
                say.done(
                  sent
                    ? `${doer.who} is asked, by mail too`
                    : doer.personId === null
                      ? `It is noted that ${doer.who} is asked`
                      : `${doer.who} is asked; the mail could not be sent`,
                );
                onClose();
              },
            },
          );
        }}
      >
        <TextField
          label="Which paper"
          autoFocus
          value={what}
          maxLength={300}
          wrong={wrong('what')}
          onChange={({ target }) => setWhat(target.value)}
        />
        <WhoField
          label="Who is asked for it"
          attendees={attendees}
          who={doer}
          onWho={setDoer}
          wrong={wrong('personId') ?? wrong('who')}
        />
        <TextField
          label="By when"
          type="date"
          value={dueOn}
          wrong={wrong('dueOn')}
          onChange={({ target }) => setDueOn(target.value)}
        />
        {issue && !issue.fields && (
          <p role="alert" className="mb-2 text-sm text-ember-ink">
            {saysOf(ask.error)}
          </p>
        )}
        <DialogActs>
          <Button type="submit" look="main" disabled={ask.isPending}>
            Ask for it
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
