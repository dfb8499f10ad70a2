'use client';

import { useState, type FormEvent } from 'react';
import { Refusal } from '@/core/errors/refusal';
import type { DetailsOf } from '@/core/dossiers/contract';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { DetailFields } from './DetailFields';
import { useAsOpened } from '../forms/useAsOpened';

/** The details of a dossier, to be filled in and changed. */
export function DetailsDialog({
  dossier,
  told: toldNow,
  onClose,
}: {
  readonly dossier: { readonly id: string; readonly name: string };
  readonly told: DetailsOf;
  readonly onClose: () => void;
}) {
  const told = useAsOpened(toldNow);
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>(told.details);
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
        <DetailFields fields={told.fields} typed={typed} names={told.names} wrongs={wrongs} onTyped={setTyped} />
        {save.error && wrongs.length === 0 && (
          <p role="alert" className="mt-2 text-ember-ink">
            {saysOf(save.error)}
          </p>
        )}
        <DialogActs>
          <Button type="submit" look="main" disabled={save.isPending}>
            Save the details
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
