'use client';

import { useState } from 'react';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import type { JournalLine } from '@/core/journal/model';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { useValueActs } from '../columns/useValueActs';

const atFirst = 5;

/** The last entries of the journal about a place or a paper. */
export function JournalList({
  subject,
  id,
  mayUndo = false,
  mayManage = false,
}: {
  readonly subject: 'place' | 'document';
  readonly id: string;
  /** Whether the reader may undo changes of values. */
  readonly mayUndo?: boolean;
  /** Whether the reader may undo changes of access. */
  readonly mayManage?: boolean;
}) {
  const { undo } = useValueActs();
  const undoAccess = useAct('access.undo');
  const { now, timeZone } = useSurroundings();
  const [all, setAll] = useState(false);
  const [takingBack, setTakingBack] = useState<JournalLine | null>(null);
  const { data } = useAsk('journal.of', { subject, id, before: null });
  if (!data) return <p className="text-soft">…</p>;
  if (data.length === 0) return <p className="text-soft">Nothing has happened here yet.</p>;
  return (
    <>
      <ol className="space-y-1">
        {data.slice(0, all ? undefined : atFirst).map((line) => (
          <li key={line.id}>
            <strong className="font-medium">{line.who}</strong> {line.words}{' '}
            <time className="text-sm text-soft" dateTime={line.at} title={momentInWords(line.at, timeZone)}>
              {whenInWords(line.at, now, timeZone)}
            </time>
            {((line.undoes === 'values' && mayUndo) || (line.undoes === 'access' && mayManage)) && (
              <Button
                look="quiet"
                className="!h-[22px] !px-1"
                aria-label={`Undo: ${line.words}`}
                onClick={() => setTakingBack(line)}
              >
                Undo
              </Button>
            )}
          </li>
        ))}
      </ol>
      {!all && data.length > atFirst && (
        <Button look="quiet" className="-ml-3" onClick={() => setAll(true)}>
          Show {data.length - atFirst} more
        </Button>
      )}
      {takingBack && (
        <Dialog
          title="Take this back"
          about={
            takingBack.undoes === 'access'
              ? 'The sheet becomes what it was before, unless it has been changed again since.'
              : 'Every paper that still has what was set gets back what it had before, wherever it is filed; those changed since stay as they are.'
          }
          open
          onClose={() => setTakingBack(null)}
        >
          <p>
            {takingBack.who} {takingBack.words}, {whenInWords(takingBack.at, now, timeZone)}.
          </p>
          <DialogActs>
            <Button onClick={() => setTakingBack(null)}>Cancel</Button>
            <Button
              look="main"
              onClick={() => {
                setTakingBack(null);
                if (takingBack.undoes === 'access')
                  undoAccess.mutate(
                    { entryId: takingBack.id },
                    { onSuccess: () => say.done('Who can open it is as it was before') },
                  );
                else void undo(takingBack.id).catch(() => undefined);
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
