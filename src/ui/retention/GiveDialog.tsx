'use client';

import { useState } from 'react';
import type { ClassRow } from '@/core/retention/contract';
import type { OfType } from '@/core/rules/rules';
import { PlaceChooser } from '../choosing/PlaceChooser';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { OfTypeField } from '../rules/OfTypeField';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** Gives the papers of a place, all or those of a type, a retention class. */
export function GiveDialog({ row, onClose }: { readonly row: ClassRow; readonly onClose: () => void }) {
  const { library } = useSurroundings();
  const give = useAct('retention.give', { quiet: true });
  const [place, setPlace] = useState<{ readonly id: string; readonly name: string } | null>(null);
  const [ofType, setOfType] = useState<OfType | null>(null);
  return (
    <Dialog
      title={`Where “${row.name}” counts`}
      about="For the papers of a place and everything below it. Where several classes speak of a paper, the longest counts."
      shape="wide"
      open
      onClose={onClose}
    >
      {place === null ? (
        <>
          <PlaceChooser
            label="Place"
            capability="manage"
            onChoose={({ id, path }) => setPlace({ id, name: path.join(' / ') })}
          />
          <DialogActs>
            <Button onClick={() => setPlace({ id: library.rootId, name: 'The whole library' })}>
              The whole library
            </Button>
            <Button onClick={onClose}>Cancel</Button>
          </DialogActs>
        </>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            give.mutate(
              { classId: row.id, placeId: place.id, ofType },
              {
                onSuccess: () => {
                  say.done(`“${row.name}” counts in ${place.name}`);
                  onClose();
                },
              },
            );
          }}
        >
          <p className="mb-3">
            <span className="font-semibold">Place</span> {place.name}{' '}
            <Button look="quiet" onClick={() => setPlace(null)}>
              Another
            </Button>
          </p>
          <OfTypeField placeId={place.id} value={ofType} onChange={setOfType} />
          {give.error && (
            <p role="alert" className="mb-2 text-ember-ink">
              {saysOf(give.error)}
            </p>
          )}
          <DialogActs>
            <Button look="main" type="submit" disabled={give.isPending}>
              Give it to these papers
            </Button>
            <Button onClick={onClose}>Cancel</Button>
          </DialogActs>
        </form>
      )}
    </Dialog>
  );
}
