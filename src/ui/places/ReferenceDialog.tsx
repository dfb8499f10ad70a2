'use client';

import { NameDialog } from '../forms/NameDialog';
import { useAsOpened } from '../forms/useAsOpened';
import { useAct } from '../server/useCall';
import type { PlaceDialogProps } from './placeDialog';

/** Sets the reference of a dossier. */
export function ReferenceDialog({ page, onClose }: PlaceDialogProps) {
  const { place } = useAsOpened(page);
  const set = useAct('dossier.setReference', { quiet: true });
  return (
    <NameDialog
      title={`Reference of “${place.name}”`}
      label="Reference"
      value={place.reference ?? ''}
      mayBeEmpty
      act="Set the reference"
      onClose={onClose}
      onSave={(reference) => set.mutateAsync({ placeId: place.id, reference, revision: place.revision })}
    />
  );
}
