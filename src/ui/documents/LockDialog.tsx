'use client';

import { papersInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { NotAll, useActable } from './NotAll';
import { usePaperActs } from './usePaperActs';

/** Locks or unlocks several papers. */
export function LockDialog({
  papers,
  onClose,
}: {
  readonly papers: readonly { readonly id: string; readonly title: string }[];
  readonly onClose: () => void;
}) {
  const { lock } = usePaperActs();
  const sorted = useActable(papers, 'lock');
  const may = sorted?.may ?? [];
  const act = (locked: boolean) => void lock(may, locked).then((done) => done && onClose());
  return (
    <Dialog
      title={`Lock or unlock ${papersInWords(papers)}`}
      about="A locked paper is not changed, renamed, moved or disposed of until it is unlocked. It can still be read and copied."
      open
      onClose={onClose}
    >
      {sorted && <NotAll sorted={sorted} total={papers.length} />}
      <DialogActs>
        <Button look="main" disabled={may.length === 0} onClick={() => act(true)}>
          Lock {papersInWords(may)}
        </Button>
        <Button disabled={may.length === 0} onClick={() => act(false)}>
          Unlock {may.length === 1 ? 'it' : 'them'}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
