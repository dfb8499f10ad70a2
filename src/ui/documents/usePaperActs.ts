'use client';

import { useCallback } from 'react';
import { counted } from '@/core/text/measure';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';

interface Named {
  readonly id: string;
  readonly title: string;
}

const named = (papers: readonly Named[]): string =>
  papers.length === 1 && papers[0] ? `“${papers[0].title}”` : counted(papers.length, 'paper');

/** What can be done with papers from anywhere, each with its way back. The promises say whether it was done. */
export function usePaperActs() {
  const disposing = useAct('papers.dispose');
  const puttingBack = useAct('papers.putBack');
  const moving = useAct('papers.move');
  const returning = useAct('papers.putInPlaces');
  const { mutateAsync: doDispose } = disposing;
  const { mutateAsync: doPutBack } = puttingBack;
  const { mutateAsync: doMove } = moving;
  const { mutateAsync: doReturn } = returning;

  const putBack = useCallback(
    async (papers: readonly Named[]) => {
      await doPutBack({ documentIds: papers.map(({ id }) => id) });
      say.done(`${named(papers)} ${papers.length === 1 ? 'is' : 'are'} back in place`);
    },
    [doPutBack],
  );

  const dispose = useCallback(
    async (papers: readonly Named[]): Promise<boolean> => {
      const done = await doDispose({ documentIds: papers.map(({ id }) => id) }).catch(() => null);
      if (!done) return false;
      say.undoable(`${named(papers)} put into the disposal tray`, () => void putBack(papers).catch(() => undefined));
      return true;
    },
    [doDispose, putBack],
  );

  const move = useCallback(
    async (papers: readonly Named[], to: { id: string; name: string }): Promise<boolean> => {
      const done = await doMove({ documentIds: papers.map(({ id }) => id), toId: to.id }).catch(() => null);
      if (!done) return false;
      say.undoable(
        `${named(papers)} moved to “${to.name}”`,
        () => void doReturn({ homes: done.backTo, undoing: done.entryId }).catch(() => undefined),
      );
      return true;
    },
    [doMove, doReturn],
  );

  return { dispose, putBack, move };
}
