'use client';

import { useState } from 'react';
import type { AgendaSheet } from '@/core/agenda/contract';
import { Refusal } from '@/core/errors/refusal';
import type { OutcomeRow } from '@/core/minutes/contract';
import { mostOutcomeLength, type OutcomeKind } from '@/core/minutes/model';
import { Button } from '../kit/button';
import { LongField, TextField } from '../kit/field';
import { WhoField, type Who } from '../people/WhoField';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

const labels: Readonly<Record<OutcomeKind, string>> = {
  decision: 'What was decided',
  action: 'What is to be done',
};

/** Records a decision or an action under an item; or changes one. */
export function OutcomeForm({
  itemId,
  kind,
  outcome,
  attendees,
  onClose,
}: {
  readonly itemId: string;
  readonly kind: OutcomeKind;
  /** Null: a new one. */
  readonly outcome: OutcomeRow | null;
  readonly attendees: AgendaSheet['attendees'];
  readonly onClose: () => void;
}) {
  const record = useAct('outcome.record', { quiet: true });
  const change = useAct('outcome.change', { quiet: true });
  const [text, setText] = useState(outcome?.text ?? '');
  const [doer, setDoer] = useState<Who>({ personId: outcome?.personId ?? null, who: outcome?.who ?? '' });
  const [dueOn, setDueOn] = useState(outcome?.dueOn ?? '');
  const error = record.error ?? change.error;
  const issue = error instanceof Refusal ? error.issue : null;
  const wrong = (path: string) => issue?.fields?.find((field) => field.path === path)?.says;
  const submit = () => {
    const says = { text, ...doer, dueOn: dueOn === '' ? null : dueOn };
    if (outcome === null) record.mutate({ itemId, kind, ...says }, { onSuccess: onClose });
    else change.mutate({ outcomeId: outcome.id, ...says, revision: outcome.revision }, { onSuccess: onClose });
  };
  return (
    <form
      noValidate
      className="mt-1"
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose();
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) submit();
      }}
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <LongField
        label={labels[kind]}
        autoFocus
        rows={2}
        value={text}
        maxLength={mostOutcomeLength}
        wrong={wrong('text')}
        onChange={({ target }) => setText(target.value)}
      />
      {kind === 'action' && (
        <div className="grid gap-x-4 sm:grid-cols-[2fr_1fr]">
          <WhoField
            label="Who does it"
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
        </div>
      )}
      {issue && !issue.fields && (
        <p role="alert" className="mb-2 text-sm text-ember-ink">
          {saysOf(error)}
        </p>
      )}
      <span className="mb-1 flex gap-2">
        <Button type="submit" disabled={record.isPending || change.isPending}>
          {outcome === null ? `Record the ${kind}` : 'Save'}
        </Button>
        <Button look="quiet" onClick={onClose}>
          Cancel
        </Button>
      </span>
    </form>
  );
}
