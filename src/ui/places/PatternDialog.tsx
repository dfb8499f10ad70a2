'use client';

import { NameDialog } from '../forms/NameDialog';
import { useAsOpened } from '../forms/useAsOpened';
import { useAct } from '../server/useCall';
import type { PlaceDialogProps } from './placeDialog';

/** Sets the pattern by which a series numbers its dossiers. */
export function PatternDialog({ page, onClose }: PlaceDialogProps) {
  const { place } = useAsOpened(page);
  const set = useAct('series.setPattern', { quiet: true });
  return (
    <NameDialog
      title={`References in “${place.name}”`}
      label="Pattern"
      value={place.referencePattern ?? ''}
      mayBeEmpty
      help="# stands for a digit of the running number, {yy} for the filing year: T-###, W-{yy}-##."
      act="Set the pattern"
      onClose={onClose}
      onSave={(referencePattern) => set.mutateAsync({ placeId: place.id, referencePattern, revision: place.revision })}
    />
  );
}
