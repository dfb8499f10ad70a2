'use client';

import { QueryClientProvider } from '@tanstack/react-query';
import { useState } from 'react';
import { PaperContent, type ShownPaper } from '../documents/PaperContent';
import { makeQueryClient } from '../server/useCall';

/** A paper on the screen of someone outside: the paper, the way back, and a copy where copies may be taken. */
export function OutsideReader({
  token,
  documentId,
  paper,
  copies,
}: {
  readonly token: string;
  readonly documentId: string;
  readonly paper: ShownPaper;
  readonly copies: boolean;
}) {
  const [queries] = useState(makeQueryClient);
  const address = `/api/outside/${token}/paper/${documentId}`;
  return (
    <QueryClientProvider client={queries}>
      <div className="flex h-full flex-col">
        <div className="no-print flex items-center gap-3 border-b border-line bg-sheet px-4 py-2">
          <a href={`/outside/${token}`} className="shrink-0 text-brine-ink hover:underline">
            Back
          </a>
          <h1 className="min-w-0 flex-1 truncate font-condensed text-lg">{paper.title}</h1>
          {copies && (
            <a
              href={`${address}?copy`}
              className="inline-flex h-[30px] items-center rounded-sm border border-line bg-sheet px-3 hover:border-edge"
            >
              Download
            </a>
          )}
        </div>
        <main className="min-h-0 flex-1 overflow-auto bg-mist">
          <PaperContent paper={paper} address={address} mayTake={copies} />
        </main>
      </div>
    </QueryClientProvider>
  );
}
