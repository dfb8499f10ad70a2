'use client';

import { useState } from 'react';
import type { HeldThings } from '@/core/holds/contract';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, LongField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

/** Puts things under a hold: a new one, or one that stands. */
export function HoldDialog({
  on,
  what,
  onClose,
}: {
  readonly on: HeldThings;
  /** What is put under it, in words. */
  readonly what: string;
  readonly onClose: () => void;
}) {
  const { data } = useAsk('holds.list', {});
  const place = useAct('hold.place', { quiet: true });
  const extend = useAct('hold.extend', { quiet: true });
  const [holdId, setHoldId] = useState('');
  const [name, setName] = useState('');
  const [reason, setReason] = useState('');
  const standing = data?.filter(({ liftedAt }) => liftedAt === null) ?? [];
  const hold = standing.find(({ id }) => id === holdId);
  const isReady =
    !place.isPending && !extend.isPending && (hold !== undefined || (name.trim() !== '' && reason.trim() !== ''));
  const error = place.error ?? extend.error;
  const done = (called: string) => {
    say.done(`${what} ${/^\d/u.test(what) && !what.startsWith('1 ') ? 'are' : 'is'} under the hold “${called}”`);
    onClose();
  };
  return (
    <Dialog
      title={`Put ${what} under a hold`}
      about="Nothing under it is destroyed while it stands, whatever else says so: not by hand, not by the schedule, not by the days of the disposal tray."
      open
      onClose={onClose}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!isReady) return;
          if (hold)
            extend.mutate({ holdId: hold.id, on, revision: hold.revision }, { onSuccess: () => done(hold.name) });
          else place.mutate({ name: name.trim(), reason: reason.trim(), on }, { onSuccess: () => done(name.trim()) });
        }}
      >
        {standing.length > 0 && (
          <ChoiceField label="Hold" value={holdId} onChange={(event) => setHoldId(event.target.value)}>
            <option value="">A new hold</option>
            {standing.map((each) => (
              <option key={each.id} value={each.id}>
                {each.name}
              </option>
            ))}
          </ChoiceField>
        )}
        {hold === undefined && (
          <>
            <TextField
              label="Name"
              value={name}
              maxLength={200}
              onChange={(event) => setName(event.target.value)}
              help="Whoever sees the papers sees it: “Pontoon claim 2026”."
            />
            <LongField
              label="Reason"
              value={reason}
              maxLength={1000}
              onChange={(event) => setReason(event.target.value)}
            />
          </>
        )}
        {error && (
          <p role="alert" className="mb-2 text-ember-ink">
            {saysOf(error)}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={!isReady}>
            Hold {what}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
