'use client';

import { useCallback } from 'react';
import type { FilingKind } from '@/core/documents/model';
import { papersInWords } from '@/core/text/measure';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';
import { whereInWords } from './whereInWords';

interface Named {
  readonly id: string;
  readonly title: string;
}

/** A place that papers go to. */
interface Target {
  readonly id: string;
  readonly name: string;
}

/** Acts on papers, each with an undo. The promises resolve to whether it was done. */
export function usePaperActs() {
  const disposing = useAct('papers.dispose');
  const puttingBack = useAct('papers.putBack');
  const moving = useAct('papers.move');
  const returning = useAct('papers.putInPlaces');
  const { mutateAsync: doFile } = useAct('papers.crossFile');
  const { mutateAsync: doLeave } = useAct('paper.leave');
  const { mutateAsync: doLeaveAll } = useAct('papers.leave');
  const { mutateAsync: doCopy } = useAct('papers.copy');
  const { mutateAsync: doLock } = useAct('papers.setLock');
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
    async (paper: Named, at: Target): Promise<boolean> => {
      const done = await doLeave({ documentId: paper.id, placeId: at.id }).catch(() => null);
      if (!done) return false;
      say.undoable(
        `${papersInWords([paper])} removed from “${at.name}”`,
        () => void doFile({ documentIds: [paper.id], toIds: [at.id], kind: done.kind }).catch(() => undefined),
      );
      return true;
    },
    [doFile, doLeave],
  );

  const file = useCallback(
    async (papers: readonly Named[], to: readonly Target[], kind: FilingKind): Promise<boolean> => {
      const done = await doFile({ documentIds: idsOf(papers), toIds: idsOf(to), kind }).catch(() => null);
      if (!done) return false;
      if (done.filed.length === 0)
        say.done(`${papersInWords(papers)} ${papers.length === 1 ? 'is' : 'are'} there already`);
      else
        say.undoable(
          `${papersInWords(papers)} filed in ${quoted(to)} as well`,
          () => void doLeaveAll({ filings: [...done.filed] }).catch(() => undefined),
        );
      return true;
    },
    [doFile, doLeaveAll],
  );

  const copy = useCallback(
    async (papers: readonly Named[], to: readonly Target[], onSameName: 'number' | 'leaveOut'): Promise<boolean> => {
      const done = await doCopy({ documentIds: idsOf(papers), toIds: idsOf(to), onSameName }).catch(() => null);
      if (!done) return false;
      if (done.copies.length === 0) say.done('Papers of these names are there already. Nothing was copied');
      else
        say.undoable(
          `${papersInWords(papers)} copied to ${quoted(to)}`,
          () => void doDispose({ documentIds: [...done.copies] }).catch(() => undefined),
        );
      return true;
    },
    [doCopy, doDispose],
  );

  const lock = useCallback(
    async (papers: readonly Named[], locked: boolean): Promise<boolean> => {
      const done = await doLock({ documentIds: idsOf(papers), locked }).catch(() => null);
      if (!done) return false;
      const words = `${papersInWords(papers)} ${papers.length === 1 ? 'is' : 'are'}`;
      if (done.turned.length === 0) say.done(`${words} ${locked ? 'locked' : 'unlocked'} already`);
      else
        say.undoable(
          locked ? `${words} locked` : `${words} unlocked`,
          () => void doLock({ documentIds: [...done.turned], locked: !locked }).catch(() => undefined),
        );
      return true;
    },
    [doLock],
  );

  return { dispose, putBack, move, file, leave, copy, lock };
}

const idsOf = (some: readonly { readonly id: string }[]): string[] => some.map(({ id }) => id);
const quoted = (places: readonly Target[]): string =>
  places.length === 1 ? `“${whereInWords(places)}”` : whereInWords(places);
