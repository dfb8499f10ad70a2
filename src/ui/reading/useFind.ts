import { useSearchParams } from 'next/navigation';
import { useDeferredValue, useMemo, useState } from 'react';
import { useAsk } from '../server/useCall';
import type { Source } from './source';

/** One time that the phrase stands in the paper: on which page, and which of those on it. */
export interface Hit {
  readonly page: number;
  readonly at: number;
}

/** A longer phrase from an address is cut. */
const mostGiven = 200;

/**
 * Finding in the paper: the server says on which pages, whoever reads.
 * @param startAt the page at which the paper was opened
 */
export function useFind(source: Source, startAt: number) {
  // Opened from what a search found, it looks for the same.
  const given = useSearchParams().get('find')?.slice(0, mostGiven) ?? '';
  const [open, setOpen] = useState(given !== '');
  const [phrase, setPhrase] = useState(given);
  // Null until someone steps: then the first hit from the page on at which the paper was opened.
  const [stepped, setIndex] = useState<number | null>(null);
  const asked = useDeferredValue(phrase.trim());
  const { data, isFetching } = useAsk(
    'paper.findIn',
    { documentId: source.find?.documentId ?? '', ...source.find, phrase: asked },
    { enabled: open && source.find !== null && asked !== '', keepPrevious: true },
  );
  const hits = useMemo<readonly Hit[]>(
    () =>
      asked === ''
        ? []
        : (data?.pages ?? []).flatMap(({ page, count }) =>
            Array.from({ length: count }, (_each, at) => ({ page, at })),
          ),
    [data, asked],
  );
  const index =
    stepped ??
    Math.max(
      0,
      hits.findIndex(({ page }) => page >= startAt),
    );
  const current = hits.length === 0 ? null : (hits[((index % hits.length) + hits.length) % hits.length] ?? null);
  return {
    open,
    phrase,
    asked: open ? asked : '',
    hits,
    current,
    index: current === null ? 0 : ((index % hits.length) + hits.length) % hits.length,
    isLooking: isFetching || asked !== phrase.trim(),
    start: () => setOpen(true),
    close: () => setOpen(false),
    type: (next: string) => {
      setPhrase(next);
      setIndex(null);
    },
    step: (by: number) => setIndex(index + by),
  };
}
export type Find = ReturnType<typeof useFind>;
