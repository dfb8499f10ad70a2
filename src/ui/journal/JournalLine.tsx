'use client';

import { useState } from 'react';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import type { JournalLine as Line } from '@/core/journal/model';
import { useValueActs } from '../columns/useValueActs';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** An entry of the journal, and what it did can be taken back where it still can be. */
export function JournalLine({
  line,
  mayUndo,
  mayManage,
}: {
  readonly line: Line;
  /** Whether the reader may undo changes of values. */
  readonly mayUndo: boolean;
  /** Whether the reader may undo changes of access. */
  readonly mayManage: boolean;
}) {
  const { undo } = useValueActs();
  const undoAccess = useAct('access.undo');
  const { now, timeZone } = useSurroundings();
  const [asking, setAsking] = useState(false);
  const close = () => setAsking(false);
  return (
    <>
      <strong className="font-medium">{line.who}</strong> {line.words}{' '}
      <time className="text-sm text-soft" dateTime={line.at} title={momentInWords(line.at, timeZone)}>
        {whenInWords(line.at, now, timeZone)}
      </time>
      {((line.undoes === 'values' && mayUndo) || (line.undoes === 'access' && mayManage)) && (
        <Button
          look="quiet"
          className="!h-[22px] !px-1"
          aria-label={`Undo: ${line.words}`}
          onClick={() => setAsking(true)}
        >
          Undo
        </Button>
      )}
      {asking && (
        <Dialog
          title="Take this back"
          about={
            line.undoes === 'access'
              ? 'The sheet becomes what it was before, unless it has been changed again since.'
              : 'Every paper that still has what was set gets back what it had before, wherever it is filed; those changed since stay as they are.'
          }
          open
          onClose={close}
        >
          <p>
            {line.who} {line.words}, {whenInWords(line.at, now, timeZone)}.
          </p>
          <DialogActs>
            <Button onClick={close}>Cancel</Button>
            <Button
              look="main"
              onClick={() => {
                close();
                if (line.undoes === 'access')
                  undoAccess.mutate(
                    { entryId: line.id },
                    { onSuccess: () => say.done('Who can open it is as it was before') },
                  );
                else void undo(line.id).catch(() => undefined);
              }}
            >
              Take it back
            </Button>
          </DialogActs>
        </Dialog>
      )}
    </>
  );
}
