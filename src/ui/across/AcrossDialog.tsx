'use client';

import { useState } from 'react';
import type { InputOf } from '@/core/contract';
import { counted } from '@/core/text/measure';
import { mostInHand } from '@/core/hand/contract';
import { asHeld, useHand } from '../hand/HandProvider';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { useLabels } from '../labels/useLabels';
import { call, saysOf } from '../server/call';
import { useAsk, useRefresh } from '../server/useCall';

/** What is done with the papers that were ticked. */
export type AcrossAct = 'dispose' | 'lock' | 'label' | 'hand';

const actWords: Readonly<Record<AcrossAct, { title: string; about: string; does: string; done: string }>> = {
  dispose: {
    title: 'Dispose of',
    about: 'They wait in the disposal tray, from which they can be put back.',
    does: 'Put into the disposal tray',
    done: 'put into the disposal tray',
  },
  lock: {
    title: 'Lock',
    about: 'A locked paper is not changed, renamed, moved or disposed of until it is unlocked.',
    does: 'Lock',
    done: 'locked',
  },
  label: { title: 'Label', about: 'A label is put on each of them.', does: 'Label', done: 'labelled' },
  hand: {
    title: 'Pick up',
    about: 'They are in hand then, at most 5,000, with all that can be done there.',
    does: 'Pick up',
    done: 'picked up',
  },
};
/** Papers of one act: more are several acts, one after the other. */
const atATime = 5000;
/** Above this a number is typed before papers are disposed of. */
const typedFrom = 2;

/** Does something with all papers that were ticked, in steps, and says how far it is. */
export function AcrossDialog({
  act,
  question,
  total,
  onClose,
}: {
  readonly act: AcrossAct;
  readonly question: InputOf<'across.papers'>;
  readonly total: number;
  readonly onClose: () => void;
}) {
  const { data: ids, error } = useAsk('across.papers', question);
  const labels = useLabels();
  const hand = useHand();
  const refresh = useRefresh();
  const [labelId, setLabelId] = useState('');
  const [typed, setTyped] = useState('');
  const [done, setDone] = useState<number | null>(null);
  const words = actWords[act];
  const tooMany = act === 'hand' && total > mostInHand;
  const mustType = act === 'dispose' && total >= typedFrom;
  const isReady =
    ids !== undefined &&
    ids !== null &&
    done === null &&
    !tooMany &&
    (act !== 'label' || labelId !== '') &&
    (!mustType || typed.trim() === String(total));

  async function work(some: string[]): Promise<number> {
    if (act === 'hand') {
      const rows = await call('papers.rows', { documentIds: some });
      hand.pickUp(rows.map((row) => asHeld(row, row.homeName)));
      return some.length;
    }
    const { may } = await call('papers.actable', { documentIds: some, act: act === 'label' ? 'change' : act });
    if (may.length === 0) return 0;
    const documentIds = [...may];
    if (act === 'dispose') await call('papers.dispose', { documentIds });
    else if (act === 'lock') await call('papers.setLock', { documentIds, locked: true });
    else await call('label.put', { labelId, documentIds, on: true });
    return may.length;
  }

  async function go(all: readonly string[]) {
    setDone(0);
    let acted = 0;
    try {
      for (let at = 0; at < all.length; at += atATime) {
        acted += await work(all.slice(at, at + atATime));
        setDone(Math.min(all.length, at + atATime));
      }
    } catch (refused) {
      say.refusal(saysOf(refused));
    }
    refresh();
    const left = all.length - acted;
    say.done(
      `${counted(acted, 'paper')} ${words.done}${left > 0 ? `; ${counted(left, 'paper')} stayed as they were: closed, locked, or not for you to change` : ''}`,
    );
    onClose();
  }

  return (
    <Dialog title={`${words.title} ${counted(total, 'paper')}`} about={words.about} open onClose={onClose}>
      {error && <p role="alert">{saysOf(error)}</p>}
      {ids === null && (
        <p role="alert">These are more than 50,000 papers. Tick fewer, or narrow them by year or kind.</p>
      )}
      {tooMany && (
        <p role="alert">At most 5,000 papers are in hand at once. Tick fewer, or narrow them by year or kind.</p>
      )}
      {act === 'label' && (
        <ChoiceField label="Which label" value={labelId} onChange={(event) => setLabelId(event.target.value)}>
          <option value="">choose one</option>
          {[...labels.values()].map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </ChoiceField>
      )}
      {mustType && (
        <TextField
          label={`Type ${total} to go on`}
          inputMode="numeric"
          autoComplete="off"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      )}
      {done !== null && ids && (
        <p role="status" className="figures">
          {done.toLocaleString('en-GB')} of {counted(ids.length, 'paper')}…
        </p>
      )}
      <DialogActs>
        <Button look="main" disabled={!isReady} onClick={() => ids && void go(ids)}>
          {words.does}
        </Button>
        <Button disabled={done !== null} onClick={onClose}>
          Cancel
        </Button>
      </DialogActs>
    </Dialog>
  );
}
