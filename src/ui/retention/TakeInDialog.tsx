'use client';

import { useState } from 'react';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { counted } from '@/core/text/measure';

const mostCharacters = 1_000_000;

/** Takes a retention schedule in from a CSV file, with what it changes said before. */
export function TakeInDialog({ onClose }: { readonly onClose: () => void }) {
  const [csv, setCsv] = useState<string | null>(null);
  const [isTooLong, setIsTooLong] = useState(false);
  const foreseen = useAsk('retention.foresee', { csv: csv ?? '' }, { enabled: csv !== null });
  const takeIn = useAct('retention.takeIn', { quiet: true });
  const { data } = foreseen;
  const changes = data ? data.added.length + data.changed.length : 0;
  return (
    <Dialog
      title="Take a retention schedule in"
      about="A CSV file with the columns Name, Authority, Counted, Date column, Kept for months, Then. Classes of the same name are changed; none is removed."
      open
      onClose={onClose}
    >
      <label className="mb-3 block">
        <span className="mb-1 block text-sm font-semibold">File</span>
        <input
          type="file"
          accept=".csv,text/csv"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            void file?.text().then((text) => {
              setIsTooLong(text.length > mostCharacters);
              setCsv(text.length > mostCharacters ? null : text);
            });
          }}
        />
      </label>
      {isTooLong && <p role="alert">The file is too large for a schedule: at most a million characters fit.</p>}
      {foreseen.error && (
        <p role="alert" className="text-ember-ink">
          {saysOf(foreseen.error)}
        </p>
      )}
      {data && (
        <>
          <p>
            {counted(data.added.length, 'new class', 'new classes')}
            {data.added.length > 0 && `: ${data.added.slice(0, 10).join(', ')}`}. {data.changed.length} changed
            {data.changed.length > 0 && `: ${data.changed.slice(0, 10).join(', ')}`}. {data.same} as they are.
          </p>
          {data.refused.length > 0 && (
            <>
              <p className="mt-2 font-medium">
                {counted(data.refused.length, 'line')} cannot be taken in and {data.refused.length === 1 ? 'is' : 'are'}{' '}
                left out:
              </p>
              <ul className="text-sm">
                {data.refused.slice(0, 50).map(({ line, says }) => (
                  <li key={line}>
                    Line {line}: {says}
                  </li>
                ))}
              </ul>
            </>
          )}
        </>
      )}
      {takeIn.error && (
        <p role="alert" className="text-ember-ink">
          {saysOf(takeIn.error)}
        </p>
      )}
      <DialogActs>
        <Button
          look="main"
          disabled={csv === null || changes === 0 || takeIn.isPending}
          onClick={() =>
            takeIn.mutate(
              { csv: csv ?? '' },
              {
                onSuccess: ({ added, changed }) => {
                  say.done(`${counted(added, 'class', 'classes')} added, ${changed} changed`);
                  onClose();
                },
              },
            )
          }
        >
          Take in {counted(changes, 'class', 'classes')}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
