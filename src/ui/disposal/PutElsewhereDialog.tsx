'use client';

import type { DisposedPaper } from '@/core/disposal/model';
import { placeInWords } from '@/core/places/way';
import { papersInWords } from '@/core/text/measure';
import { PlaceChooser } from '../choosing/PlaceChooser';
import { Dialog } from '../kit/dialog';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';
import { usePaperActs } from '../documents/usePaperActs';

/** Puts papers of the disposal tray into another place than the one where they were. */
export function PutElsewhereDialog({
  papers,
  onClose,
  onDone,
}: {
  readonly papers: readonly DisposedPaper[];
  readonly onClose: () => void;
  readonly onDone: () => void;
}) {
  const putBack = useAct('papers.putBack');
  const { dispose } = usePaperActs();
  const words = papersInWords(papers);
  return (
    <Dialog
      title={`Put ${words} elsewhere`}
      about="That place becomes the home, and decides who can open what is put there. Other places that list it stay."
      open
      onClose={onClose}
    >
      <PlaceChooser
        label="Where to"
        capability="add"
        onChoose={(place) =>
          putBack.mutate(
            { documentIds: papers.map(({ id }) => id), toId: place.id },
            {
              onSuccess: () => {
                // Not called Undo: in the tray again, it would go back to that place and not to the former one.
                say.done(`${words} put into “${placeInWords(place.path)}”`, {
                  label: 'Back into the tray',
                  act: () => void dispose(papers),
                });
                onDone();
                onClose();
              },
            },
          )
        }
      />
    </Dialog>
  );
}
