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
  const { data, isFetching } = useFoundPages(source, open ? asked : '');
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

const noPaper = { documentId: '', version: null, attachment: null };

/** The pages on which a phrase stands; nothing is asked while it is empty. */
function useFoundPages({ find }: Source, phrase: string) {
  const isPack = find !== null && 'issueId' in find;
  const inPaper = useAsk(
    'paper.findIn',
    { ...(find === null || isPack ? noPaper : find), phrase },
    { enabled: find !== null && !isPack && phrase !== '', keepPrevious: true },
  );
  const inPack = useAsk(
    'pack.findIn',
    { issueId: isPack ? find.issueId : '', phrase },
    { enabled: isPack && phrase !== '', keepPrevious: true },
  );
  return isPack ? inPack : inPaper;
}

/** Where a phrase stands on a page. */
export function useSpots({ find }: Source, phrase: string, page: number, enabled: boolean) {
  const isPack = find !== null && 'issueId' in find;
  const inPaper = useAsk(
    'paper.spots',
    { ...(find === null || isPack ? noPaper : find), phrase, page },
    { enabled: enabled && find !== null && !isPack },
  );
  const inPack = useAsk(
    'pack.spots',
    { issueId: isPack ? find.issueId : '', phrase, page },
    { enabled: enabled && isPack },
  );
  return (isPack ? inPack : inPaper).data?.spots ?? [];
}
