import { useDeferredValue, useMemo, useState } from 'react';
import { useAsk } from '../server/useCall';
import type { Source } from './source';

/** One time that the phrase stands in the paper: on which page, and which of those on it. */
export interface Hit {
  readonly page: number;
  readonly at: number;
}

/** Finding in the paper: the server says on which pages, whoever reads. */
export function useFind(source: Source) {
  const [open, setOpen] = useState(false);
  const [phrase, setPhrase] = useState('');
  const [index, setIndex] = useState(0);
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
      setIndex(0);
    },
    step: (by: number) => setIndex((before) => before + by),
  };
}
export type Find = ReturnType<typeof useFind>;
