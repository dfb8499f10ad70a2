'use client';

import { useState, type FormEvent } from 'react';
import { Refusal } from '@/core/errors/refusal';
import type { DetailsOf } from '@/core/filing/contract';
import { isColleague, isDay, type DetailField } from '@/core/filing/details';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, TextField } from '../kit/field';
import { Pick } from '../kit/pick';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

const inputTypes: Partial<Record<DetailField['kind'], string>> = { email: 'email', telephone: 'tel' };

/** The details of a dossier, to be filled in and changed. */
export function DetailsDialog({
  dossier,
  told,
  onClose,
}: {
  readonly dossier: { readonly id: string; readonly name: string };
  readonly told: DetailsOf;
  readonly onClose: () => void;
}) {
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>(told.details);
  const [names, setNames] = useState(told.names);
  const save = useAct('details.set', { quiet: true });
  const wrongs = save.error instanceof Refusal ? (save.error.issue.fields ?? []) : [];
  function submit(event: FormEvent) {
    event.preventDefault();
    const details = Object.fromEntries(told.fields.map(({ id }) => [id, typed[id] ?? '']));
    save.mutate({ dossierId: dossier.id, details, revision: told.revision }, { onSuccess: onClose });
  }
  return (
    <Dialog title={`Details of ${dossier.name}`} open onClose={onClose}>
      <form onSubmit={submit} noValidate>
        {told.fields.map((field) => {
          const value = typed[field.id] ?? '';
          const set = (next: string) => setTyped({ ...typed, [field.id]: next });
          const wrong = wrongs.find((each) => each.path === `details.${field.id}`)?.says;
          if (isColleague(field.kind))
            return (
              <Colleague
                key={field.id}
                label={field.name}
                value={value}
                name={names[value]}
                onPick={(id, name) => {
                  set(id);
                  setNames({ ...names, [id]: name });
                }}
                onClear={() => set('')}
              />
            );
          if (field.kind === 'choice')
            return (
              <ChoiceField
                key={field.id}
                label={field.name}
                value={value}
                wrong={wrong}
                onChange={(event) => set(event.target.value)}
              >
                <option value="">–</option>
                {field.choices.map((choice) => (
                  <option key={choice}>{choice}</option>
                ))}
              </ChoiceField>
            );
          return (
            <TextField
              key={field.id}
              label={field.name}
              type={isDay(field.kind) ? 'date' : (inputTypes[field.kind] ?? 'text')}
              value={value}
              wrong={wrong}
              onChange={(event) => set(event.target.value)}
            />
          );
        })}
        {save.error && wrongs.length === 0 && (
          <p role="alert" className="mt-2 text-ember-ink">
            {saysOf(save.error)}
          </p>
        )}
        <DialogActs>
          <Button type="submit" look="main" disabled={save.isPending}>
            Save the details
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}

function Colleague({
  label,
  value,
  name,
  onPick,
  onClear,
}: {
  readonly label: string;
  readonly value: string;
  readonly name: string | undefined;
  readonly onPick: (id: string, name: string) => void;
  readonly onClear: () => void;
}) {
  const [words, setWords] = useState('');
  const { data } = useAsk('values.choices', { kind: 'person', words: words.slice(0, 200) }, { keepPrevious: true });
  return (
    <div className="mb-3.5">
      <p className="mb-1 text-sm font-semibold">{label}</p>
      <Pick
        label={label}
        shown={value === '' ? <span className="text-soft">Nobody</span> : (name ?? 'A colleague who has left')}
        items={data ?? []}
        picked={value === '' ? [] : [value]}
        onWords={setWords}
        onPick={(id) => onPick(id, data?.find((each) => each.id === id)?.name ?? '')}
        onClear={value === '' ? undefined : onClear}
        className="min-h-[34px] w-full rounded-sm border border-edge bg-sheet px-2.5 py-1 text-left"
      />
    </div>
  );
}
