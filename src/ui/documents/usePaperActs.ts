'use client';

import { useCallback } from 'react';
import type { FilingKind } from '@/core/documents/model';
import { papersInWords } from '@/core/text/measure';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';

interface Named {
  readonly id: string;
  readonly title: string;
}

/** Acts on papers, each with an undo. The promises resolve to whether it was done. */
export function usePaperActs() {
  const disposing = useAct('papers.dispose');
  const puttingBack = useAct('papers.putBack');
  const moving = useAct('papers.move');
  const returning = useAct('papers.putInPlaces');
  const { mutateAsync: doFile } = useAct('papers.crossFile');
  const { mutateAsync: doLeave } = useAct('paper.leave');
  const { mutateAsync: doDispose } = disposing;
  const { mutateAsync: doPutBack } = puttingBack;
  const { mutateAsync: doMove } = moving;
  const { mutateAsync: doReturn } = returning;

  const putBack = useCallback(
    async (papers: readonly Named[]) => {
      await doPutBack({ documentIds: papers.map(({ id }) => id) });
      say.done(`${papersInWords(papers)} ${papers.length === 1 ? 'is' : 'are'} back in place`);
    },
    [doPutBack],
  );

  const dispose = useCallback(
    async (papers: readonly Named[]): Promise<boolean> => {
      const done = await doDispose({ documentIds: papers.map(({ id }) => id) }).catch(() => null);
      if (!done) return false;
      say.undoable(
        `${papersInWords(papers)} put into the disposal tray`,
        () => void putBack(papers).catch(() => undefined),
      );
      return true;
    },
    [doDispose, putBack],
  );

  const move = useCallback(
    async (papers: readonly Named[], to: { id: string; name: string }): Promise<boolean> => {
      const done = await doMove({ documentIds: papers.map(({ id }) => id), toId: to.id }).catch(() => null);
      if (!done) return false;
      say.undoable(
        `${papersInWords(papers)} moved to “${to.name}”`,
        () => void doReturn({ homes: done.backTo, undoing: done.entryId }).catch(() => undefined),
      );
      return true;
    },
    [doMove, doReturn],
  );

  const leave = useCallback(
    async (paper: Named, at: { id: string; name: string }): Promise<boolean> => {
      const done = await doLeave({ documentId: paper.id, placeId: at.id }).catch(() => null);
      if (!done) return false;
      say.undoable(
        `${papersInWords([paper])} removed from “${at.name}”`,
        () => void doFile({ documentIds: [paper.id], toId: at.id, kind: done.kind }).catch(() => undefined),
      );
      return true;
    },
    [doFile, doLeave],
  );

  const file = useCallback(
    async (papers: readonly Named[], to: { id: string; name: string }, kind: FilingKind): Promise<boolean> => {
      const done = await doFile({ documentIds: papers.map(({ id }) => id), toId: to.id, kind }).catch(() => null);
      if (!done) return false;
      if (done.filed.length === 0)
        say.done(`${papersInWords(papers)} ${papers.length === 1 ? 'is' : 'are'} there already`);
      else
        say.undoable(`${papersInWords(papers)} filed in “${to.name}” as well`, () => {
          for (const documentId of done.filed) doLeave({ documentId, placeId: to.id }).catch(() => undefined);
        });
      return true;
    },
    [doFile, doLeave],
  );

  return { dispose, putBack, move, file, leave };
}
