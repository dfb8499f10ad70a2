'use client';

import { useState } from 'react';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { DoorList } from './DoorList';

/** The sign-in journal of all accounts, sixty lines at a time. */
export function DoorDialog({ onClose }: { readonly onClose: () => void }) {
  const [starts, setStarts] = useState<readonly (number | null)[]>([null]);
  const { data, error } = useAsk('door.list', { before: starts.at(-1) ?? null });
  const last = data?.at(-1);
  return (
    <Dialog
      title="Sign-in journal"
      about="Every sign-in attempt, and every change to how someone signs in."
      open
      onClose={onClose}
      shape="sheet"
    >
      {error && <p role="alert">{saysOf(error)}</p>}
      {data ? (
        <DoorList lines={data} withWho />
      ) : (
        <p aria-busy className="text-soft">
          Loading the journal…
        </p>
      )}
      <DialogActs>
        {starts.length > 1 && <Button onClick={() => setStarts(starts.slice(0, -1))}>Later lines</Button>}
        {data?.length === 60 && last && <Button onClick={() => setStarts([...starts, last.id])}>Earlier lines</Button>}
      </DialogActs>
    </Dialog>
  );
}
