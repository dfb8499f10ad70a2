'use client';

import { useState } from 'react';
import { PlaceChooser } from '../choosing/PlaceChooser';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

/** Prepares a disposal: by which classes, and where its certificate will be filed. */
export function PrepareDialog({
  onClose,
  onPrepared,
}: {
  readonly onClose: () => void;
  readonly onPrepared: (runId: string) => void;
}) {
  const { data } = useAsk('retention.classes', {});
  const prepare = useAct('run.prepare', { quiet: true });
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [place, setPlace] = useState<{ readonly id: string; readonly name: string } | null>(null);
  const [note, setNote] = useState('');
  const classes = data?.filter(({ end, papers }) => end === 'destroy' && papers !== 0) ?? [];
  const classIds = classes.map(({ id }) => id).filter((id) => !left.has(id));
  const isReady = classIds.length > 0 && place !== null && !prepare.isPending;
  return (
    <Dialog
      title="Prepare a disposal"
      about="It lists every paper whose time is over and that is to be destroyed then. Nothing happens to them before another keeper approves."
      shape="wide"
      open
      onClose={onClose}
    >
      <fieldset className="mb-3.5">
        <legend className="mb-1 text-sm font-semibold">By which classes</legend>
        {data && classes.length === 0 && (
          <p className="text-soft">No class that ends with destruction decides about any paper.</p>
        )}
        {classes.map(({ id, name }) => (
          <label key={id} className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              className="size-[15px] accent-brine"
              checked={!left.has(id)}
              onChange={(event) =>
                setLeft(
                  event.target.checked ? new Set([...left].filter((each) => each !== id)) : new Set([...left, id]),
                )
              }
            />
            {name}
          </label>
        ))}
      </fieldset>
      <div className="mb-3.5">
        <p className="mb-1 text-sm font-semibold">Where the certificate will be filed</p>
        {place === null ? (
          <PlaceChooser
            label="Where the certificate will be filed"
            capability="add"
            onChoose={({ id, path }) => setPlace({ id, name: path.join(' / ') })}
          />
        ) : (
          <p>
            {place.name}{' '}
            <Button look="quiet" onClick={() => setPlace(null)}>
              Another
            </Button>
          </p>
        )}
      </div>
      <LongField
        label="Note, if you like"
        value={note}
        maxLength={2000}
        onChange={(event) => setNote(event.target.value)}
      />
      {prepare.error && (
        <p role="alert" className="mb-2 text-ember-ink">
          {saysOf(prepare.error)}
        </p>
      )}
      <DialogActs>
        <Button
          look="main"
          disabled={!isReady}
          onClick={() =>
            prepare.mutate(
              { classIds, placeId: place?.id ?? '', note: note.trim() },
              { onSuccess: ({ runId }) => onPrepared(runId) },
            )
          }
        >
          List what is due
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
