'use client';

import { momentInWords } from '@/core/text/moment';
import { counted } from '@/core/text/measure';
import { useState } from 'react';
import { Button } from '../kit/button';
import { say } from '../kit/notice';
import { useAct, useAsk } from '../server/useCall';

/** Whether the journal is whole, held to what was written down of it outside the database; for keepers. */
export function JournalHold({ timeZone }: { readonly timeZone: string }) {
  const [check, setCheck] = useState(false);
  const { data, isFetching } = useAsk('journal.held', { check }, { keepPrevious: true });
  const anchor = useAct('journal.anchor');
  if (!data) return null;
  return (
    <section aria-label="The journal" className="mt-6">
      <h2 className="mb-1 font-condensed text-lg">The journal</h2>
      <p className="mb-2 max-w-[420px] text-soft">
        Each entry of the journal carries a mark of the one before it. The mark of the last one is also written to a
        file outside the database, at each start and once a day, so that a journal whose end was cut off is told.
      </p>
      <p className="mb-2">
        {!data.isKept && 'No file is named for it on this machine.'}
        {data.isKept && data.last === null && 'Nothing has been written down yet.'}
        {data.last !== null &&
          `Written down ${counted(data.anchors, 'time')}, last at entry ${data.last.entryId.toLocaleString('en-GB')}, ${momentInWords(data.last.at, timeZone)}.`}
      </p>
      {check && data.checked && (
        <p role="status" className={data.checked.how === 'whole' ? 'mb-2' : 'mb-2 font-semibold text-ember-ink'}>
          {
            {
              whole: `The journal is whole: its ${counted(data.checked.entries, 'entry', 'entries')} follow from one another, and agree with all that was written down.`,
              changed: `Entry ${data.checked.brokenAt} was changed, or one before it is missing.`,
              cutOff: `Entry ${data.checked.brokenAt} was written down, and is not in the journal as it was then.`,
            }[data.checked.how]
          }
        </p>
      )}
      <div className="flex gap-2">
        <Button onClick={() => setCheck(true)} disabled={isFetching}>
          {isFetching && check ? 'Checking…' : 'Check the journal'}
        </Button>
        {data.isKept && (
          <Button
            onClick={() => anchor.mutate({}, { onSuccess: () => say.done('The journal’s last entry is written down') })}
            disabled={anchor.isPending}
          >
            Write it down now
          </Button>
        )}
      </div>
    </section>
  );
}
