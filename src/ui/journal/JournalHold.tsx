'use client';

import { momentInWords } from '@/core/calendar/moment';
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
        Every entry of the journal is sealed with the one before it. The seal of the last entry is also written to a
        file outside the database, at each start and once a day. Checking shows whether anything was changed or removed
        since.
      </p>
      <p className="mb-2">
        {!data.isKept && 'No file is set for it on this machine (EMBRIN_ANCHORS).'}
        {data.isKept && data.last === null && 'Nothing has been written to it yet.'}
        {data.last !== null &&
          `${counted(data.anchors, 'seal')} written, the last for entry ${data.last.entryId.toLocaleString('en-GB')} on ${momentInWords(data.last.at, timeZone)}.`}
      </p>
      {check && data.checked && (
        <p
          role="status"
          className={`mb-2 max-w-[420px] ${data.checked.how === 'whole' ? '' : 'font-semibold text-ember-ink'}`}
        >
          {
            {
              whole: `Nothing was changed or removed: the ${counted(data.checked.entries, 'entry', 'entries')} agree with each other and with the file.`,
              changed: `Entry ${data.checked.brokenAt} was changed, or an entry before it was removed.`,
              cutOff: `Entry ${data.checked.brokenAt} is in the file, and no longer in the journal as it was then.`,
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
            onClick={() =>
              anchor.mutate({}, { onSuccess: () => say.done('The journal’s seal is written to the file') })
            }
            disabled={anchor.isPending}
          >
            Write the seal now
          </Button>
        )}
      </div>
    </section>
  );
}
