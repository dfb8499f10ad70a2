'use client';

import { shiftOf, type Shift } from '@/core/outline/move';
import type { PackEntryRow, PackSheet } from '@/core/packs/contract';
import { counted } from '@/core/text/measure';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';

/** What can be done with the entries of a pack, each with what is said of it. */
export function usePackActs({ id: packId, entries }: PackSheet) {
  const move = useAct('pack.moveEntry');
  const remove = useAct('pack.removeEntry');
  const add = useAct('pack.addPapers');
  return {
    moveBefore(entryId: string, beforeId: string | null) {
      const before = entries.find(({ id }) => id === beforeId);
      move.mutate({ entryId, parentId: before?.parentId ?? null, beforeId });
    },
    /** Moves by keys; into a paper nothing goes. */
    shift(entryId: string, way: Shift) {
      const to = shiftOf(entries, entryId, way);
      const into = entries.find(({ id }) => id === to?.parentId);
      if (to && into?.kind !== 'paper') move.mutate({ entryId, ...to });
    },
    remove({ id: entryId, title }: PackEntryRow) {
      remove.mutate(
        { entryId, removed: true },
        {
          onSuccess: ({ entries: gone }) =>
            say.undoable(
              gone === 1 ? `“${title}” is out of the pack` : `“${title}” is out of the pack, with what lies in it`,
              () => remove.mutate({ entryId, removed: false }),
            ),
        },
      );
    },
    /** Adds papers last in a section; without one, where the agenda has them, else at the end. */
    add(documentIds: readonly string[], parentId: string | null, onDone?: () => void) {
      add.mutate(
        { packId, parentId, documentIds: documentIds.slice(0, 200) },
        {
          onSuccess: ({ added, already }) => {
            const words = added === 0 ? 'Nothing added' : `${counted(added, 'paper')} added`;
            say.done(
              already === 0 ? words : `${words}; ${already === 1 ? 'one is' : `${already} are`} in the pack already`,
            );
            onDone?.();
          },
        },
      );
    },
    isAdding: add.isPending,
  };
}
