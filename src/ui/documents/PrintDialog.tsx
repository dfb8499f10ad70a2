'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { counted, papersInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { mostPrinted, PrintPages } from '../reading/PrintPages';
import { NotAll, useActable } from './NotAll';

interface Printed {
  readonly id: string;
  readonly title: string;
  readonly pageCount: number | null;
}

/** Prints the pages of several papers one after the other, in the order of their titles. */
export function PrintDialog({
  papers,
  onClose,
}: {
  readonly papers: readonly Printed[];
  readonly onClose: () => void;
}) {
  const [addresses, setAddresses] = useState<readonly string[] | null>(null);
  const sorted = useActable(papers, 'copy');
  const closing = useRef(onClose);
  useEffect(() => {
    closing.current = onClose;
  });
  // The same function each time: a new one would print again.
  const close = useCallback(() => closing.current(), []);
  const may = new Set(sorted?.may.map(({ id }) => id));
  const taken = papers
    .filter(({ id }) => may.has(id))
    .sort((one, other) => one.title.localeCompare(other.title, 'en-GB', { numeric: true }));
  const printed = taken.filter(({ pageCount }) => pageCount !== null && pageCount > 0);
  const pages = printed.reduce((sum, { pageCount }) => sum + (pageCount ?? 0), 0);
  const without = taken.length - printed.length;
  if (addresses) return <PrintPages addresses={addresses} onDone={close} />;
  return (
    <Dialog
      title={`Print ${papersInWords(papers)}`}
      about="All their pages, one paper after the other by title."
      open
      onClose={onClose}
    >
      {sorted && <NotAll sorted={sorted} total={papers.length} />}
      {without > 0 && (
        <p className="mb-2 text-soft">
          {counted(without, 'paper has', 'papers have')} no pages to print yet, and will be left out.
        </p>
      )}
      {pages > mostPrinted && (
        <p role="alert" className="mb-2 text-ember-ink">
          {counted(pages, 'page')} are more than print well from here: at most {mostPrinted}. Put some papers down, or
          export them and print the files.
        </p>
      )}
      <DialogActs>
        <Button
          look="main"
          disabled={pages === 0 || pages > mostPrinted}
          onClick={() =>
            setAddresses(
              printed.flatMap(({ id, pageCount }) =>
                Array.from({ length: pageCount ?? 0 }, (_page, at) => `/api/paper/${id}/content?page=${at + 1}`),
              ),
            )
          }
        >
          Print {counted(pages, 'page')} of {counted(printed.length, 'paper')}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
