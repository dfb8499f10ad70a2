'use client';

import { useState } from 'react';
import type { SlotRow } from '@/core/expected/contract';
import { dayInWords } from '@/core/calendar/moment';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { say } from '../kit/notice';
import { Pick } from '../kit/pick';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useChoices } from '../server/useChoices';
import { useSurroundings } from '../surroundings/Surroundings';
import { slotName } from './slotName';

interface Props {
  readonly slot: SlotRow;
  readonly onClose: () => void;
}

/** “Minutes”, 14 Jul 2026 */
function useNamed({ name, meeting }: SlotRow): string {
  const { timeZone } = useSurroundings();
  return meeting ? `“${name}”, ${dayInWords(`${meeting.day}T12:00:00Z`, timeZone)}` : `“${name}”`;
}

const boxed = 'min-h-[34px] w-full rounded-sm border border-edge bg-sheet px-2.5 py-1 text-left';

/** Says which paper an expected one is. */
export function PointDialog({ slot, onClose }: Props) {
  const named = useNamed(slot);
  const [picked, setPicked] = useState<{ readonly id: string; readonly name: string } | null>(null);
  const { found, asking } = useChoices('document');
  const point = useAct('expected.say', { quiet: true });
  return (
    <Dialog title={`Which paper is ${named}?`} about="The paper stays where it is." open onClose={onClose}>
      <Pick
        label="The paper"
        shown={picked?.name ?? <span className="text-soft">Type a word of its title</span>}
        {...asking}
        picked={picked ? [picked.id] : []}
        onPick={(id) => setPicked(found.find((each) => each.id === id) ?? null)}
        className={boxed}
      />
      <Failure error={point.error} />
      <DialogActs>
        <Button
          look="main"
          disabled={picked === null || point.isPending}
          onClick={() =>
            picked && point.mutate({ ...slotName(slot), says: { paper: picked.id } }, { onSuccess: onClose })
          }
        >
          Use this paper
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}

/** Says that an expected paper is not needed, and why. */
export function NotNeededDialog({ slot, onClose }: Props) {
  const named = useNamed(slot);
  const [reason, setReason] = useState('');
  const waive = useAct('expected.say', { quiet: true });
  return (
    <Dialog
      title={`${named} is not needed`}
      about="It then no longer counts as a gap. The journal records who said so."
      open
      onClose={onClose}
    >
      <LongField
        label="Reason"
        value={reason}
        maxLength={400}
        rows={2}
        onChange={(event) => setReason(event.target.value)}
      />
      <Failure error={waive.error} />
      <DialogActs>
        <Button
          look="main"
          disabled={reason.trim() === '' || waive.isPending}
          onClick={() => waive.mutate({ ...slotName(slot), says: { notNeeded: reason } }, { onSuccess: onClose })}
        >
          Not needed here
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}

/** Asks a colleague for an expected paper, the officer of the dossier first. */
export function AskDialog({
  slot,
  officer,
  onClose,
}: Props & { readonly officer: { readonly id: string; readonly name: string } | null }) {
  const named = useNamed(slot);
  const [text, setText] = useState('');
  const [person, setPerson] = useState(officer);
  const { found, asking } = useChoices('person');
  const ask = useAct('expected.ask', { quiet: true });
  return (
    <Dialog title={`Ask for ${named}`} about="A message goes out by mail." open onClose={onClose}>
      <p className="mb-1 text-sm font-semibold">To whom</p>
      <Pick
        label="To whom"
        shown={person?.name ?? <span className="text-soft">A colleague</span>}
        {...asking}
        picked={person ? [person.id] : []}
        onPick={(id) => setPerson(found.find((each) => each.id === id) ?? null)}
        className={`${boxed} mb-3.5`}
      />
      <LongField
        label="Message"
        help="Optional. The message names the paper and where to file it."
        value={text}
        maxLength={2000}
        rows={3}
        onChange={(event) => setText(event.target.value)}
      />
      <Failure error={ask.error} />
      <DialogActs>
        <Button
          look="main"
          disabled={person === null || ask.isPending}
          onClick={() =>
            person &&
            ask.mutate(
              { ...slotName(slot), personId: person.id, words: text },
              {
                onSuccess: ({ sent }) => {
                  if (sent) say.done(`${person.name} has been asked for ${named}`);
                  else say.refusal('The message could not be sent just now. Ask again in a while.');
                  onClose();
                },
              },
            )
          }
        >
          Ask {person?.name ?? 'for it'}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}

const Failure = ({ error }: { readonly error: Error | null }) =>
  error && (
    <p role="alert" className="mt-2 text-sm text-ember-ink">
      {saysOf(error)}
    </p>
  );
