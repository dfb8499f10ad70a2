import type { PlaceChoice } from '@/core/places/contract';
import { PlaceChooser } from '../choosing/PlaceChooser';
import { Dialog } from '../kit/dialog';

/** Asks for a place that something is filed in. */
export function WhereDialog({
  onChoose,
  onClose,
}: {
  readonly onChoose: (place: PlaceChoice) => void;
  readonly onClose: () => void;
}) {
  return (
    <Dialog title="Where it goes" open onClose={onClose}>
      <PlaceChooser
        label="Where it goes"
        capability="add"
        onChoose={(place) => {
          onChoose(place);
          onClose();
        }}
      />
    </Dialog>
  );
}
