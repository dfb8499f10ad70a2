'use client';

import type { PaperInHand } from '@/core/hand/contract';
import { counted, sizeInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';

/** Says what an archive of the papers in hand will hold, and what it cannot, before it is made. */
export function ExportDialog({
  papers,
  onClose,
}: {
  readonly papers: readonly PaperInHand[];
  readonly onClose: () => void;
}) {
  const { data, error } = useAsk('papers.notCopiable', { documentIds: papers.map(({ id }) => id) });
  const kept = new Set(data ?? []);
  const taken = papers.filter(({ id }) => !kept.has(id));
  const bytes = taken.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);
  return (
    <Dialog
      title="Export what is in hand"
      about="One ZIP archive: each paper in a folder named for its place, a list of them with their values as CSV, and sums by which they are checked."
      open
      onClose={onClose}
    >
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && (
        <p role="status">
          {taken.length === 0
            ? 'No copies of these papers may be taken.'
            : `${counted(taken.length, 'paper')}, ${sizeInWords(bytes)}.`}
          {kept.size > 0 && taken.length > 0 && (
            <> {counted(kept.size, 'paper')} will be left out: no copies of them may be taken.</>
          )}
        </p>
      )}
      <DialogActs>
        <Button
          look="main"
          disabled={taken.length === 0 || !data}
          onClick={() => {
            window.location.assign('/api/export/hand');
            onClose();
          }}
        >
          Export
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
