'use client';

import type { AgendaItemRow } from '@/core/agenda/contract';
import { counted } from '@/core/text/measure';
import { FoundChooser } from '../choosing/FoundChooser';
import { useHand } from '../hand/HandProvider';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { Stamp } from '../kit/stamp';
import type { useAgendaActs } from './useAgendaActs';

/** Attaches papers to an item: found by name one after the other, or all that are in hand. */
export function AttachDialog({
  item,
  number,
  acts,
  onClose,
}: {
  readonly item: AgendaItemRow;
  readonly number: string;
  readonly acts: ReturnType<typeof useAgendaActs>;
  readonly onClose: () => void;
}) {
  const { held } = useHand();
  const there = new Set(item.papers.map(({ documentId }) => documentId));
  const fromHand = [...held.keys()].filter((id) => !there.has(id));
  return (
    <Dialog
      title={`Papers of ${number} ${item.title ?? ''}`}
      about="A paper stays where it is filed. Whoever may not see it there does not see it here either."
      open
      shape="wide"
      onClose={onClose}
    >
      {held.size > 0 && (
        <p className="mb-3 flex flex-wrap items-center gap-3 rounded-sm border border-straw-edge bg-straw px-3 py-2 text-straw-ink">
          <span className="flex-1">{counted(held.size, 'paper')} in hand</span>
          {fromHand.length === 0 ? (
            'Attached already'
          ) : (
            <Button
              look="straw"
              disabled={acts.isAttaching}
              onClick={() => acts.attach(item.id, fromHand.slice(0, 100), onClose)}
            >
              Attach {counted(Math.min(100, fromHand.length), 'paper')}
            </Button>
          )}
        </p>
      )}
      <FoundChooser
        label="Find a paper to attach"
        placeholder="Find a paper by its title"
        holds={({ kind }) => kind === 'paper'}
        onChoose={({ id }) => acts.attach(item.id, [id])}
      />
      {item.papers.length > 0 && (
        <ul aria-label="Attached" className="mt-3">
          {item.papers.map(({ id, title, stamp }) => (
            <li key={id} className="flex items-center gap-2 py-0.5">
              <Stamp word={stamp} /> {title}
            </li>
          ))}
        </ul>
      )}
      <DialogActs>
        <Button onClick={onClose}>Done</Button>
      </DialogActs>
    </Dialog>
  );
}
