'use client';

import { useState } from 'react';
import { dayInWords } from '@/core/calendar/moment';
import type { HoldRow } from '@/core/holds/contract';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** All holds: what each is on, and lifting it. */
export function HoldList() {
  const { timeZone } = useSurroundings();
  const { data, error } = useAsk('holds.list', {});
  const release = useAct('hold.release');
  const [lifting, setLifting] = useState<HoldRow | null>(null);
  if (error) return <p role="alert">{saysOf(error)}</p>;
  if (!data) return <p aria-busy>…</p>;
  if (data.length === 0)
    return (
      <p className="rounded-sm border border-line bg-sheet px-4 py-6 text-soft">
        No hold has been put on anything. Choose <em>Hold…</em> in the menu of a place, a paper, a view, or of what is
        in hand, where something must not be destroyed: a claim, an inquiry, an audit.
      </p>
    );
  return (
    <>
      <ul className="space-y-3">
        {data.map((hold) => (
          <li key={hold.id} className="rounded-sm border border-line bg-sheet px-4 py-3">
            <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
              <h2 className="font-condensed text-lg">{hold.name}</h2>
              <span className="text-sm text-soft">
                {hold.liftedAt === null ? counted(hold.papers, 'paper') + ' under it now' : 'lifted'}
              </span>
              {hold.liftedAt === null && (
                <Button className="ml-auto" onClick={() => setLifting(hold)}>
                  Lift…
                </Button>
              )}
            </div>
            <p>{hold.reason}</p>
            <p className="text-sm text-soft">
              Put on by {hold.placedBy}, {dayInWords(hold.placedAt, timeZone)}
              {hold.liftedAt !== null &&
                `; lifted by ${hold.liftedBy ?? ''}, ${dayInWords(hold.liftedAt, timeZone)}: ${hold.liftReason}`}
            </p>
            {hold.liftedAt === null ? (
              <ul className="mt-2">
                {hold.things.map((thing) => (
                  <li key={thing.id} className="flex items-center gap-2 border-t border-line py-1">
                    <span className="w-[52px] shrink-0 text-sm text-soft">{thing.kind}</span>
                    <Link href={thing.address} className="min-w-0 flex-1 truncate hover:underline">
                      {thing.name}
                    </Link>
                    {hold.thingCount > 1 && (
                      <Button
                        look="quiet"
                        onClick={() => release.mutate({ holdId: hold.id, thingId: thing.id, revision: hold.revision })}
                      >
                        Take out
                      </Button>
                    )}
                  </li>
                ))}
                {hold.thingCount > hold.things.length && (
                  <li className="border-t border-line py-1 text-soft">
                    and {(hold.thingCount - hold.things.length).toLocaleString('en-GB')} more
                  </li>
                )}
              </ul>
            ) : (
              <p className="text-sm text-soft">It was on: {hold.wasOn.slice(0, 10).join('; ')}</p>
            )}
          </li>
        ))}
      </ul>
      {lifting && <LiftDialog hold={lifting} onClose={() => setLifting(null)} />}
    </>
  );
}

function LiftDialog({ hold, onClose }: { readonly hold: HoldRow; readonly onClose: () => void }) {
  const lift = useAct('hold.lift', { quiet: true });
  const [reason, setReason] = useState('');
  const isReady = reason.trim() !== '' && !lift.isPending;
  return (
    <Dialog
      title={`Lift the hold “${hold.name}”`}
      about={`${counted(hold.papers, 'paper')} may then be destroyed again. What it was on is kept in words; a hold that was lifted is not put on again.`}
      open
      onClose={onClose}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (isReady)
            lift.mutate(
              { holdId: hold.id, reason: reason.trim(), revision: hold.revision },
              {
                onSuccess: () => {
                  say.done(`The hold “${hold.name}” is lifted`);
                  onClose();
                },
              },
            );
        }}
      >
        <LongField label="Why" value={reason} maxLength={1000} onChange={(event) => setReason(event.target.value)} />
        {lift.error && (
          <p role="alert" className="mb-2 text-ember-ink">
            {saysOf(lift.error)}
          </p>
        )}
        <DialogActs>
          <Button onClick={onClose}>Keep it</Button>
          <Button look="main" type="submit" disabled={!isReady}>
            Lift it
          </Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
