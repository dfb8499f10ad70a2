'use client';

import { useCallback } from 'react';
import { counted } from '@/core/text/measure';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';

/** Puts labels on papers and takes them off, with an undo. */
export function useLabelActs() {
  const { mutateAsync: doPut } = useAct('label.put');

  const put = useCallback(
    async (
      label: { readonly id: string; readonly name: string },
      papers: readonly { readonly id: string }[],
      on: boolean,
    ): Promise<void> => {
      const done = await doPut({ labelId: label.id, documentIds: papers.map((paper) => paper.id), on }).catch(
        () => null,
      );
      if (!done) return;
      const { changed } = done;
      if (changed.length === 0) return void say.done(on ? 'They have it already' : 'None of them has it');
      say.undoable(
        `“${label.name}” ${on ? 'put on' : 'taken off'} ${counted(changed.length, 'paper')}`,
        () => void doPut({ labelId: label.id, documentIds: [...changed], on: !on }).catch(() => undefined),
      );
    },
    [doPut],
  );
  return { put };
}
