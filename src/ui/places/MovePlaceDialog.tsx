'use client';

import { useState } from 'react';
import type { PlaceChoice } from '@/core/places/contract';
import { Consequences } from '../access/Consequences';
import { PlaceChooser } from '../choosing/PlaceChooser';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
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
  readonly to?: Pick<PlaceChoice, 'id' | 'name'>;
  readonly onClose: () => void;
}) {
  const [chosen, setChosen] = useState<Pick<PlaceChoice, 'id' | 'name'> | undefined>(to);
  const move = useAct('place.move');
  const forecast = useAsk('place.moveForecast', { placeId, toId: chosen?.id ?? '' }, { enabled: chosen !== undefined });
  return (
    <Dialog title={`Move “${name}”`} open onClose={onClose}>
      {chosen ? (
        <p>
          To <strong>{chosen.name}</strong>{' '}
          <Button look="quiet" onClick={() => setChosen(undefined)}>
            Choose another place
          </Button>
        </p>
      ) : (
        <PlaceChooser label="Where to" capability="manage" onChoose={setChosen} />
      )}
      {forecast.data && chosen && <Consequences {...forecast.data} />}
      {forecast.error && (
        <p role="alert" className="mt-3 text-ember-ink">
          {saysOf(forecast.error)}
        </p>
      )}
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
