'use client';

import { useRouter } from 'next/navigation';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import type { PlaceDialogProps } from './placeDialog';

/** Removes an empty place. */
export function RemovePlaceDialog({ page: { place }, onClose }: PlaceDialogProps) {
  const router = useRouter();
  const remove = useAct('place.remove', { quiet: true });
  return (
    <Dialog
      title={`Remove “${place.name}”`}
      about="Only an empty place is removed; papers are never removed with it."
      open
      onClose={onClose}
    >
      {remove.error && (
        <p role="alert" className="text-ember-ink">
          {saysOf(remove.error)}
        </p>
      )}
      <DialogActs>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          look="main"
          disabled={remove.isPending}
          onClick={() =>
            remove.mutate(
              { placeId: place.id },
              {
                onSuccess: ({ parentId }) => {
                  say.done(`“${place.name}” is removed`);
                  router.push(place.kind === 'series' ? '/desk' : `/place/${parentId}`);
                },
              },
            )
          }
        >
          Remove it
        </Button>
      </DialogActs>
    </Dialog>
  );
}
