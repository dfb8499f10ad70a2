'use client';

import { useState } from 'react';
import type { FieldIssue } from '@/core/errors/issue';
import { isColleague, isDay, type DetailField } from '@/core/dossiers/details';
import { ChoiceField, TextField } from '../kit/field';
import { Pick } from '../kit/pick';
import { useChoices } from '../server/useChoices';

const inputTypes: Partial<Record<DetailField['kind'], string>> = { email: 'email', telephone: 'tel' };

/** A field for each detail that a series has of its dossiers. */
export function DetailFields({
  fields,
  typed,
  names = {},
  wrongs,
  onTyped,
}: {
  readonly fields: readonly DetailField[];
  /** What stands in them, by their ids. */
  readonly typed: Readonly<Record<string, string>>;
  /** The names of the colleagues among it. */
  readonly names?: Readonly<Record<string, string>>;
  /** What is wrong: `details.` and the field's id. */
  readonly wrongs: readonly FieldIssue[];
  readonly onTyped: (typed: Readonly<Record<string, string>>) => void;
}) {
  const [found, setFound] = useState<Readonly<Record<string, string>>>({});
  return fields.map((field) => {
    const value = typed[field.id] ?? '';
    const set = (next: string) => onTyped({ ...typed, [field.id]: next });
    const wrong = wrongs.find((each) => each.path === `details.${field.id}`)?.says;
    if (isColleague(field.kind))
      return (
        <Colleague
          key={field.id}
          label={field.name}
          value={value}
          name={found[value] ?? names[value]}
          onPick={(id, name) => {
            set(id);
            setFound({ ...found, [id]: name });
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
  });
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
  const { found, asking } = useChoices('person');
  return (
    <div className="mb-3.5">
      <p className="mb-1 text-sm font-semibold">{label}</p>
      <Pick
        label={label}
        shown={value === '' ? <span className="text-soft">Nobody</span> : (name ?? 'A colleague who has left')}
        {...asking}
        picked={value === '' ? [] : [value]}
        onPick={(id) => onPick(id, found.find((each) => each.id === id)?.name ?? '')}
        onClear={value === '' ? undefined : onClear}
        className="min-h-[34px] w-full rounded-sm border border-edge bg-sheet px-2.5 py-1 text-left"
      />
    </div>
  );
}
