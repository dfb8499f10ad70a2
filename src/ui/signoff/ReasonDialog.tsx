'use client';

import { useState } from 'react';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { saysOf } from '../server/call';

/** Asks for the reason of something, and does it. */
export function ReasonDialog({
  title,
  about,
  does,
  error,
  isBusy,
  onDo,
  onClose,
}: {
  readonly title: string;
  readonly about: string;
  readonly does: string;
  readonly error: Error | null;
  readonly isBusy: boolean;
  readonly onDo: (reason: string) => void;
  readonly onClose: () => void;
}) {
  const [reason, setReason] = useState('');
  const isReady = !isBusy && reason.trim() !== '';
  return (
    <Dialog title={title} about={about} open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (isReady) onDo(reason.trim());
        }}
      >
        <LongField label="Reason" value={reason} maxLength={1000} onChange={(event) => setReason(event.target.value)} />
        {error && (
          <p role="alert" className="mb-2 text-ember-ink">
            {saysOf(error)}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={!isReady}>
            {does}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
