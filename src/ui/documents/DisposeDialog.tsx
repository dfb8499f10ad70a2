'use client';

import { papersInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { NotAll, useActable } from './NotAll';
import { usePaperActs } from './usePaperActs';

/** Asks before several papers go into the disposal tray, and says which cannot. */
export function DisposeDialog({
  papers,
  onClose,
  onDone,
}: {
  readonly papers: readonly { readonly id: string; readonly title: string }[];
  readonly onClose: () => void;
  readonly onDone: (ids: readonly string[]) => void;
}) {
  const { dispose } = usePaperActs();
  const sorted = useActable(papers, 'dispose');
  const may = sorted?.may ?? [];
  return (
    <Dialog
      title={`Dispose of ${papersInWords(papers)}`}
      about="They wait in the disposal tray, from which they can be put back."
      open
      onClose={onClose}
    >
      {sorted && <NotAll sorted={sorted} total={papers.length} />}
      <DialogActs>
        <Button
          look="main"
          disabled={may.length === 0}
          onClick={() =>
            void dispose(may).then((done) => {
              if (!done) return;
              onDone(may.map(({ id }) => id));
              onClose();
            })
          }
        >
          Put {papersInWords(may)} into the tray
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
