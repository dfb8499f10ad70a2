'use client';

import { useState } from 'react';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { useAsk } from '../server/useCall';
import { JournalLine } from './JournalLine';

const atFirst = 5;

/** The last entries of the journal about a place or a paper, and the way to all of them. */
export function JournalList({
  subject,
  id,
  mayUndo = false,
  mayManage = false,
}: {
  readonly subject: 'place' | 'document';
  readonly id: string;
  readonly mayUndo?: boolean;
  readonly mayManage?: boolean;
}) {
  const [all, setAll] = useState(false);
  const { data } = useAsk('journal.of', { subject, id, before: null });
  if (!data) return <p className="text-soft">…</p>;
  if (data.length === 0) return <p className="text-soft">Nothing has happened here yet.</p>;
  return (
    <>
      <ol className="space-y-1">
        {data.slice(0, all ? undefined : atFirst).map((line) => (
          <li key={line.id}>
            <JournalLine line={line} mayUndo={mayUndo} mayManage={mayManage} />
          </li>
        ))}
      </ol>
      <div className="mt-1 flex gap-3">
        {!all && data.length > atFirst && (
          <Button look="quiet" className="-ml-3" onClick={() => setAll(true)}>
            Show {data.length - atFirst} more
          </Button>
        )}
        <Link
          href={`/journal?of=${subject}&id=${id}`}
          className="inline-flex items-center text-brine-ink hover:underline"
        >
          The whole journal
        </Link>
      </div>
    </>
  );
}
