'use client';

import { useState } from 'react';
import { Refusal } from '@/core/errors/refusal';
import { detailKinds, detailKindWords, type DetailField } from '@/core/dossiers/details';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

const box = 'h-[32px] min-w-0 rounded-sm border border-edge bg-sheet px-2';

/** Which details a series has of each of its dossiers. */
export function FieldsDialog({
  series,
  onClose,
}: {
  readonly series: { readonly id: string; readonly name: string };
  readonly onClose: () => void;
}) {
  const { data, error } = useAsk('details.fields', { seriesId: series.id });
  return (
    <Dialog
      title={`Details of each dossier of ${series.name}`}
      about="Facts about a committee, a tenant or a job, besides its papers."
      open
      onClose={onClose}
      shape="wide"
    >
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && <Fields key={data.revision} seriesId={series.id} {...data} onClose={onClose} />}
    </Dialog>
  );
}

function Fields({
  seriesId,
  fields: before,
  revision,
  mayChange,
  onClose,
}: {
  readonly seriesId: string;
  readonly fields: readonly DetailField[];
  readonly revision: number;
  readonly mayChange: boolean;
  readonly onClose: () => void;
}) {
  const [fields, setFields] = useState(before);
  const save = useAct('details.setFields', { quiet: true });
  const put = (at: number, change: Partial<DetailField>) =>
    setFields(fields.map((each, index) => (index === at ? { ...each, ...change } : each)));
  const shift = (at: number) => {
    const next = [...fields];
    const [moved] = next.splice(at, 1);
    if (moved) next.splice(at - 1, 0, moved);
    setFields(next);
  };
  const wrong = save.error instanceof Refusal ? save.error.issue.fields?.[0]?.says : undefined;
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(
          { seriesId, fields: fields.map((each) => ({ ...each, choices: [...each.choices] })), revision },
          {
            onSuccess: () => {
              say.done('The details are set. What was filled in under them is kept.');
              onClose();
            },
          },
        );
      }}
    >
      {fields.length === 0 && <p className="mb-3 text-soft">No details yet: a contact, an officer, an end.</p>}
      <ul className="space-y-2">
        {fields.map((field, at) => (
          <li
            key={field.id}
            className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-center gap-2 rounded-sm border border-line px-2 py-1.5"
          >
            <input
              aria-label={`Name of detail ${at + 1}`}
              value={field.name}
              maxLength={60}
              disabled={!mayChange}
              autoFocus={field.name === ''}
              onChange={(event) => put(at, { name: event.target.value })}
              className={box}
            />
            <select
              aria-label={`Kind of ${field.name || `detail ${at + 1}`}`}
              value={field.kind}
              disabled={!mayChange}
              onChange={(event) => put(at, { kind: detailKinds.find((each) => each === event.target.value) ?? 'text' })}
              className={box}
            >
              {detailKinds.map((kind) => (
                <option key={kind} value={kind}>
                  {detailKindWords[kind]}
                </option>
              ))}
            </select>
            {mayChange && (
              <span className="flex">
                <Button look="quiet" disabled={at === 0} aria-label={`Move ${field.name} up`} onClick={() => shift(at)}>
                  Up
                </Button>
                <Button
                  look="quiet"
                  aria-label={`Remove ${field.name}`}
                  onClick={() => setFields(fields.filter((each) => each !== field))}
                >
                  Remove
                </Button>
              </span>
            )}
            {field.kind === 'choice' && (
              <input
                aria-label={`Words of ${field.name}, with commas between`}
                placeholder="Current, In arrears, Leaving"
                defaultValue={field.choices.join(', ')}
                disabled={!mayChange}
                onChange={(event) =>
                  put(at, {
                    choices: event.target.value
                      .split(',')
                      .map((each) => each.trim())
                      .filter(Boolean),
                  })
                }
                className={`${box} col-span-full`}
              />
            )}
          </li>
        ))}
      </ul>
      {save.error && (
        <p role="alert" className="mt-2 text-ember-ink">
          {wrong ?? saysOf(save.error)}
        </p>
      )}
      {mayChange && (
        <DialogActs>
          <Button type="submit" look="main" disabled={save.isPending}>
            Save the details
          </Button>
          <Button
            onClick={() => setFields([...fields, { id: crypto.randomUUID(), name: '', kind: 'text', choices: [] }])}
          >
            Add a detail
          </Button>
        </DialogActs>
      )}
    </form>
  );
}
