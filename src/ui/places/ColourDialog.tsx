'use client';

import { hues } from '@/core/text/hue';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { useAct } from '../server/useCall';
import type { PlaceDialogProps } from './placeDialog';

/** Puts a colour mark on a place, or takes it off. */
export function ColourDialog({ page: { place }, onClose }: PlaceDialogProps) {
  const recolour = useAct('place.recolour');
  const choose = (colour: (typeof hues)[number] | null) =>
    recolour.mutate({ placeId: place.id, colour }, { onSuccess: onClose });
  return (
    <Dialog
      title={`Colour mark of “${place.name}”`}
      about="A narrow mark at its row, the same for everyone."
      open
      onClose={onClose}
    >
      <div className="grid grid-cols-3 gap-2">
        {hues.map((hue) => (
          <Button
            key={hue}
            data-hue={hue}
            aria-pressed={place.colour === hue}
            onClick={() => choose(hue)}
            className={place.colour === hue ? '!border-ink' : ''}
          >
            <span aria-hidden className="h-4 w-[5px]" style={{ background: 'var(--hue)' }} />
            <span className="first-letter:uppercase">{hue}</span>
          </Button>
        ))}
      </div>
      <DialogActs>
        <Button onClick={() => choose(null)}>No mark</Button>
      </DialogActs>
    </Dialog>
  );
}
