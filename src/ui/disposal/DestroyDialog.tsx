'use client';

import { useState } from 'react';
import type { DisposedPaper } from '@/core/disposal/model';
import { counted, papersInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';

/** Asks before papers are destroyed: once for one, and for several with their number typed. */
export function DestroyDialog({
  papers,
  onClose,
  onDone,
}: {
  readonly papers: readonly DisposedPaper[];
  readonly onClose: () => void;
  readonly onDone: () => void;
}) {
  const [typed, setTyped] = useState('');
  const destroy = useAct('papers.destroy');
  const [it, has] = papers.length === 1 ? ['it', 'has'] : ['them', 'have'];
  const isSure = papers.length === 1 || typed.trim() === String(papers.length);
  return (
    <Dialog title={`Destroy ${papersInWords(papers)}`} about="This cannot be undone." open onClose={onClose}>
      <p>
        Every version goes, with all that was noted on {it}. Content that another paper has as well stays with that
        paper. The journal keeps that {papers.length === 1 ? 'it was' : 'they were'} here. Backups made before still{' '}
        {has === 'has' ? 'have it' : 'have them'}.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!isSure || destroy.isPending) return;
          destroy.mutate(
            { documentIds: papers.map(({ id }) => id) },
            {
              onSuccess: ({ destroyed }) => {
                say.done(`${counted(destroyed, 'paper')} destroyed`);
                onDone();
                onClose();
              },
            },
          );
        }}
      >
        {papers.length > 1 && (
          <div className="mt-3 max-w-[240px]">
            <TextField
              label={`Type ${papers.length} to go on`}
              inputMode="numeric"
              autoComplete="off"
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
            />
          </div>
        )}
        <DialogActs>
          <Button onClick={onClose}>Keep {it}</Button>
          <Button look="main" type="submit" disabled={!isSure || destroy.isPending}>
            Destroy {papersInWords(papers)}
          </Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
