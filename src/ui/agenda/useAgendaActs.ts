'use client';

import type { AgendaItemRow, AgendaSheet } from '@/core/agenda/contract';
import { shiftOf, type Shift } from '@/core/outline/move';
import { counted } from '@/core/text/measure';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';

/** What can be done with the items of an agenda, each with what is said of it. */
export function useAgendaActs({ items }: AgendaSheet) {
  const move = useAct('agenda.moveItem');
  const remove = useAct('agenda.removeItem');
  const attach = useAct('agenda.attach');
  const detach = useAct('agenda.detach');
  const changePaper = useAct('agenda.changePaper');
  return {
    /** Puts an item before another, at its level; null: last at the top. */
    moveBefore(itemId: string, beforeId: string | null) {
      const parentId = items.find(({ id }) => id === beforeId)?.parentId ?? null;
      move.mutate({ itemId, parentId, beforeId });
    },
    shift(itemId: string, way: Shift) {
      const to = shiftOf(items, itemId, way);
      if (to) move.mutate({ itemId, ...to });
    },
    remove({ id: itemId, title }: AgendaItemRow) {
      remove.mutate(
        { itemId, removed: true },
        {
          onSuccess: ({ items: gone }) =>
            say.undoable(
              gone === 1
                ? `“${title ?? ''}” is off the agenda`
                : `“${title ?? ''}” is off the agenda, with what lies in it`,
              () => remove.mutate({ itemId, removed: false }),
            ),
        },
      );
    },
    attach(itemId: string, documentIds: readonly string[], onDone?: () => void) {
      attach.mutate(
        { itemId, documentIds: [...documentIds] },
        {
          onSuccess: ({ attached, already }) => {
            say.done(
              attached === 0
                ? 'It is there already'
                : `${counted(attached, 'paper')} attached${already > 0 ? `; ${already} there already` : ''}`,
            );
            onDone?.();
          },
        },
      );
    },
    detach(itemId: string, agendaPaperId: string, documentId: string) {
      detach.mutate(
        { agendaPaperId },
        {
          onSuccess: () =>
            say.undoable('It is no paper of this item any more; it stays where it is filed', () =>
              attach.mutate({ itemId, documentIds: [documentId] }),
            ),
        },
      );
    },
    hold(agendaPaperId: string, heldVersion: number | null) {
      changePaper.mutate({ agendaPaperId, heldVersion });
    },
    isAttaching: attach.isPending,
  };
}
