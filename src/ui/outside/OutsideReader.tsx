'use client';

import { QueryClientProvider } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import type { ReadablePaper } from '@/core/reading/contract';
import type { AskedOutside } from '@/core/signoff/contract';
import { PaperContent } from '../reading/PaperContent';
import { sourceOf } from '../reading/source';
import { makeQueryClient } from '../server/useCall';
import { SignPanel } from './SignPanel';

/** A paper on the screen of someone outside: the paper, the way back, and a copy where copies may be taken. */
export function OutsideReader({
  token,
  documentId,
  title,
  paper,
  asked,
}: {
  readonly token: string;
  readonly documentId: string;
  readonly title: string;
  readonly paper: ReadablePaper;
  /** What they are asked to sign; null where they only read. */
  readonly asked: AskedOutside | null;
}) {
  const [queries] = useState(makeQueryClient);
  const address = `/api/outside/${token}/paper/${documentId}`;
  const source = useMemo(() => sourceOf(address, title, paper, {}, null), [address, title, paper]);
  return (
    <QueryClientProvider client={queries}>
      <div className="flex h-full flex-col">
        <div className="no-print flex items-center gap-3 border-b border-line bg-sheet px-4 py-2">
          {asked === null && (
            <a href={`/outside/${token}`} className="shrink-0 text-brine-ink hover:underline">
              Back
            </a>
          )}
          <h1 className="min-w-0 flex-1 truncate font-condensed text-lg">{title}</h1>
          {paper.mayTake && (
            <a
              href={`${address}?copy`}
              className="inline-flex h-[30px] items-center rounded-sm border border-line bg-sheet px-3 hover:border-edge"
            >
              Download
            </a>
          )}
        </div>
        {asked && <SignPanel token={token} title={title} asked={asked} />}
        <main className="min-h-0 flex-1 bg-mist">
          <PaperContent source={source} startAt={1} onAttachment={null} />
        </main>
      </div>
    </QueryClientProvider>
  );
}
