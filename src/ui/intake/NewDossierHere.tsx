'use client';

import { useState } from 'react';
import { Refusal } from '@/core/errors/refusal';
import { detailsOf, type Newcomer } from '@/core/intake/newDossier';
import { DetailFields } from '../dossiers/DetailFields';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, TextField } from '../kit/field';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

/** Makes a dossier for a sender whom the library does not know, with what the arrival says of them filled in. */
export function NewDossierHere({
  newcomer,
  onMade,
  onClose,
}: {
  readonly newcomer: Newcomer;
  readonly onMade: (place: { readonly id: string; readonly path: readonly string[] }) => void;
  readonly onClose: () => void;
}) {
  const { data: series } = useAsk('places.series', {});
  const [chosen, setChosen] = useState<string | null>(null);
  const seriesId = chosen ?? series?.[0]?.id ?? null;
  const isKnown = seriesId !== null;
  const next = useAsk('place.nextReference', { seriesId: seriesId ?? '' }, { enabled: isKnown });
  const fields = useAsk('details.fields', { seriesId: seriesId ?? '' }, { enabled: isKnown });
  const create = useAct('dossier.create', { quiet: true });
  const [name, setName] = useState(newcomer.name);
  const [typed, setTyped] = useState<Readonly<Record<string, string>> | null>(null);
  const its = fields.data?.fields ?? [];
  const details = typed ?? detailsOf(its, newcomer);
  const wrongs = create.error instanceof Refusal ? (create.error.issue.fields ?? []) : [];
  const wrongName = wrongs.find(({ path }) => path === 'name')?.says;
  return (
    <Dialog title="New dossier" open onClose={onClose} shape="sheet">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (seriesId === null || create.isPending) return;
          create.mutate(
            { seriesId, name, reference: null, details },
            {
              onSuccess: ({ id }) => {
                onMade({ id, path: [series?.find((each) => each.id === seriesId)?.name ?? '', name] });
                onClose();
              },
            },
          );
        }}
      >
        <ChoiceField
          label="In which series"
          value={seriesId ?? ''}
          onChange={({ target }) => {
            setChosen(target.value);
            setTyped(null);
          }}
          help={next.data?.reference ? `Its reference will be ${next.data.reference}.` : undefined}
        >
          {series?.map((each) => (
            <option key={each.id} value={each.id}>
              {each.name}
            </option>
          ))}
        </ChoiceField>
        <TextField
          label="Name"
          value={name}
          maxLength={120}
          onChange={({ target }) => setName(target.value)}
          wrong={wrongName}
        />
        <DetailFields fields={its} typed={details} wrongs={wrongs} onTyped={setTyped} />
        {create.error && wrongs.length === 0 && (
          <p role="alert" className="text-ember-ink">
            {saysOf(create.error)}
          </p>
        )}
        <DialogActs>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="main" disabled={seriesId === null || name.trim() === '' || create.isPending}>
            Make the dossier
          </Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
