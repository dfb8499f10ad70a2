'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Refusal } from '@/core/errors/refusal';
import { DetailFields } from '../dossiers/DetailFields';
import { NameDialog } from '../forms/NameDialog';
import { TextField } from '../kit/field';
import { useAct, useAsk } from '../server/useCall';
import type { PlaceDialogProps } from './placeDialog';

/** Makes a dossier in a series. */
export function NewDossierDialog({ page, onClose }: PlaceDialogProps) {
  const router = useRouter();
  const create = useAct('dossier.create', { quiet: true });
  const next = useAsk('place.nextReference', { seriesId: page.place.id });
  const [reference, setReference] = useState<string | null>(null);
  const proposed = next.data?.reference ?? '';
  const fields = useAsk('details.fields', { seriesId: page.place.id });
  const [details, setDetails] = useState<Readonly<Record<string, string>>>({});
  const wrongs = create.error instanceof Refusal ? (create.error.issue.fields ?? []) : [];
  return (
    <NameDialog
      title={`New dossier in ${page.place.name}`}
      label="Name"
      help="The committee, client, supplier or project."
      act="Make the dossier"
      isElsewhere={(path) => path.startsWith('details.')}
      onClose={onClose}
      onSave={async (name) => {
        const typed = reference ?? '';
        const made = await create.mutateAsync({
          seriesId: page.place.id,
          name,
          reference: typed === '' ? null : typed,
          details,
        });
        router.push(`/place/${made.id}`);
      }}
    >
      <TextField
        label="Reference"
        value={reference ?? proposed}
        onChange={(event) => setReference(event.target.value)}
        help={
          proposed === '' ? 'Optional; this series has no pattern for references.' : `The next free one is ${proposed}.`
        }
      />
      <DetailFields fields={fields.data?.fields ?? []} typed={details} wrongs={wrongs} onTyped={setDetails} />
    </NameDialog>
  );
}
