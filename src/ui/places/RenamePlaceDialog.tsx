'use client';

import { NameDialog } from '../forms/NameDialog';
import { useAsOpened } from '../forms/useAsOpened';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';
import type { PlaceDialogProps } from './placeDialog';

/** Renames a place. */
export function RenamePlaceDialog({ page, onClose }: PlaceDialogProps) {
  const { place } = useAsOpened(page);
  const rename = useAct('place.rename', { quiet: true });
  return (
    <NameDialog
      title={`Rename “${place.name}”`}
      label="Name"
      value={place.name}
      act="Rename it"
      onClose={onClose}
      onSave={async (name) => {
        const { revision } = await rename.mutateAsync({ placeId: place.id, name, revision: place.revision });
        say.undoable(`Renamed to “${name.trim()}”`, () =>
          rename.mutate({ placeId: place.id, name: place.name, revision }),
        );
      }}
    />
  );
}
