'use client';

import { useEffect, useState } from 'react';
import { createPortal } from 'react-dom';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { say } from '../kit/notice';

/** More pages are better printed from the files themselves. */
export const mostPrinted = 300;

/** Fetches pages as the server draws them, then opens the browser's own printing, with the pages alone. */
export function PrintPages({
  addresses,
  onDone,
}: {
  /** Of the pages, in their order; the same array each time, for another is fetched anew. */
  readonly addresses: readonly string[];
  readonly onDone: () => void;
}) {
  const [here, setHere] = useState(0);
  const pages = addresses.length;
  const tooMany = pages > mostPrinted;
  useEffect(() => {
    if (!tooMany) return;
    say.done(`${counted(pages, 'page')} are more than print well from here. Download the paper and print the file.`);
    onDone();
  }, [tooMany, pages, onDone]);
  useEffect(() => {
    if (tooMany || here < pages) return;
    document.body.dataset['printing'] = '';
    window.addEventListener('afterprint', onDone, { once: true });
    window.print();
    return () => {
      delete document.body.dataset['printing'];
      window.removeEventListener('afterprint', onDone);
    };
  }, [here, pages, tooMany, onDone]);
  if (tooMany) return null;
  return createPortal(
    <>
      {here < pages && (
        <div
          role="status"
          className="no-print fixed bottom-4 left-1/2 z-50 flex -translate-x-1/2 items-center gap-3 rounded-sm border border-line bg-sheet px-4 py-2 shadow-md"
        >
          {`Fetching page ${here + 1} of ${pages} to print`}
          <Button onClick={onDone}>Cancel</Button>
        </div>
      )}
      <div className="printed-pages">
        {/* One after the other: the server draws few at a time, for others too. */}
        {addresses.slice(0, here + 1).map((address, at) => (
          <img
            key={at}
            src={address}
            alt={`Page ${at + 1}`}
            onLoad={() => setHere((before) => Math.max(before, at + 1))}
            onError={() => setHere((before) => Math.max(before, at + 1))}
          />
        ))}
      </div>
    </>,
    document.body,
  );
}
