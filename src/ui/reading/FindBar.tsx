'use client';

import { useEffect, useRef } from 'react';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import type { Find } from './useFind';

/** The field in which a phrase is looked for in the paper that is open. */
export function FindBar({ find, onHit }: { readonly find: Find; readonly onHit: (page: number) => void }) {
  const field = useRef<HTMLInputElement>(null);
  const { current } = find;
  useEffect(() => field.current?.select(), []);
  useEffect(() => {
    if (current) onHit(current.page);
    // Only another hit moves the pages, not another function to do it with.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [current?.page, current?.at]);
  const says =
    find.asked === ''
      ? ''
      : find.isLooking && find.hits.length === 0
        ? 'Looking…'
        : find.hits.length === 0
          ? 'Not in this paper'
          : `${find.index + 1} of ${counted(find.hits.length, 'place')}, page ${current?.page ?? 1}`;
  return (
    <div
      role="search"
      className="no-print flex flex-wrap items-center gap-2 border-b border-straw-edge bg-straw px-3 py-1.5 text-straw-ink"
    >
      <label className="flex items-center gap-2">
        Find in this paper
        <input
          ref={field}
          value={find.phrase}
          autoFocus
          onChange={(event) => find.type(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') find.step(event.shiftKey ? -1 : 1);
            else if (event.key === 'Escape') find.close();
            else return;
            event.preventDefault();
            event.stopPropagation();
          }}
          className="h-[28px] w-[220px] rounded-sm border border-straw-edge bg-sheet px-2 text-ink"
        />
      </label>
      <Button look="straw" className="!h-[28px]" disabled={find.hits.length === 0} onClick={() => find.step(-1)}>
        Back
      </Button>
      <Button look="straw" className="!h-[28px]" disabled={find.hits.length === 0} onClick={() => find.step(1)}>
        Next
      </Button>
      <span role="status" className="figures min-w-0 flex-1">
        {says}
      </span>
      <Button look="straw" className="!h-[28px]" onClick={find.close}>
        Close
      </Button>
    </div>
  );
}
