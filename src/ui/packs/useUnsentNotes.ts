'use client';

import { useEffect, useState } from 'react';
import { z } from 'zod';
import { Refusal } from '@/core/errors/refusal';
import { call, saysOf } from '../server/call';
import { useRefresh } from '../server/useCall';

const unsent = z.array(
  z.object({
    page: z.number().int(),
    text: z.string(),
    /** Why the library did not take it; null: it was not asked yet. */
    refused: z.string().nullable(),
  }),
);
type UnsentNote = z.output<typeof unsent>[number];

const triesAgainMs = 5000;
const isAway = (error: unknown): boolean => error instanceof Refusal && error.issue.kind === 'unavailable';

/** Notes that were written while the library could not be reached: kept in this browser, and sent once it can be. */
export function useUnsentNotes(issueId: string, personId: string) {
  const key = `embrin-notes ${personId} ${issueId}`;
  const refresh = useRefresh();
  const [waiting, setWaiting] = useState<readonly UnsentNote[]>(() => stored(key));
  const put = (notes: readonly UnsentNote[]) => {
    setWaiting(notes);
    if (notes.length === 0) localStorage.removeItem(key);
    else localStorage.setItem(key, JSON.stringify(notes));
  };
  useEffect(() => {
    const at = waiting.findIndex(({ refused }) => refused === null);
    const next = waiting[at];
    if (!next) return;
    const { page, text } = next;
    const timer = setTimeout(() => {
      void call('pack.writeNote', { issueId, page, text }).then(
        () => {
          put(waiting.toSpliced(at, 1));
          refresh();
        },
        (error: unknown) => {
          // Tried again, unless it can never be taken: then it stays here, with why.
          if (isAway(error)) setWaiting([...waiting]);
          else put(waiting.with(at, { ...next, refused: saysOf(error) }));
        },
      );
    }, triesAgainMs);
    return () => clearTimeout(timer);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [waiting, issueId]);
  return {
    waiting,
    wait: (page: number, text: string) => put([...waiting, { page, text, refused: null }]),
    remove: (at: number) => put(waiting.toSpliced(at, 1)),
    isAway,
  };
}

/** What this browser holds; what is not of ours is nothing. */
function stored(key: string): readonly UnsentNote[] {
  try {
    return unsent.parse(JSON.parse(localStorage.getItem(key) ?? '[]'));
  } catch {
    return [];
  }
}
