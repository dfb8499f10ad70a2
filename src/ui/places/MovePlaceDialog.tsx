'use client';

import { useState } from 'react';
import { MoveTarget, type Target } from '../choosing/MoveTarget';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { useAct, useAsk } from '../server/useCall';

/** Moves a place with all below it, after saying who loses and gains sight of it. */
export function MovePlaceDialog({
  placeId,
  name,
  to,
  onClose,
}: {
  readonly placeId: string;
  readonly name: string;
  readonly to?: Target;
  readonly onClose: () => void;
}) {
  const [chosen, setChosen] = useState<Target | undefined>(to);
  const move = useAct('place.move');
  const forecast = useAsk('place.moveForecast', { placeId, toId: chosen?.id ?? '' }, { enabled: chosen !== undefined });
  return (
    <Dialog title={`Move “${name}”`} open onClose={onClose}>
      <MoveTarget chosen={chosen} capability="manage" forecast={forecast} onChoose={setChosen} />
      <DialogActs>
        {chosen && (
          <Button
            look="main"
            disabled={!forecast.data || move.isPending}
            onClick={() =>
              move.mutate(
                { placeId, toId: chosen.id },
                {
                  onSuccess: ({ fromId }) => {
                    say.undoable(`“${name}” moved to “${chosen.name}”`, () => move.mutate({ placeId, toId: fromId }));
                    onClose();
                  },
                },
              )
            }
          >
            Move it to {chosen.name}
          </Button>
        )}
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
