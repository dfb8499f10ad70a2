'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { z } from 'zod';
import { Refusal } from '@/core/errors/refusal';
import { call, saysOf } from '../server/call';

const unsent = z.array(
  z.object({
    // Those that were written before notes had one get theirs here.
    id: z.uuid().default(() => crypto.randomUUID()),
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
  const queries = useQueryClient();
  const [waiting, setWaiting] = useState<readonly UnsentNote[]>(() => stored(key));
  useEffect(() => {
    if (waiting.length === 0) localStorage.removeItem(key);
    else localStorage.setItem(key, JSON.stringify(waiting));
  }, [key, waiting]);
  // One at a time: a note that is on its way is not sent again, and one that is written meanwhile waits behind it.
  const isSending = useRef(false);
  useEffect(() => {
    const next = waiting.find(({ refused }) => refused === null);
    if (!next) return;
    const { id: noteId, page, text } = next;
    const send = async () => {
      if (isSending.current) return;
      isSending.current = true;
      try {
        await call('pack.writeNote', { issueId, noteId, page, text });
        setWaiting((all) => all.filter((each) => each !== next));
        void queries.invalidateQueries();
      } catch (error) {
        // Tried again, unless it can never be taken: then it stays here, with why.
        if (!isAway(error))
          setWaiting((all) => all.map((each) => (each === next ? { ...next, refused: saysOf(error) } : each)));
      } finally {
        isSending.current = false;
      }
    };
    const timer = setInterval(() => void send(), triesAgainMs);
    return () => clearInterval(timer);
  }, [waiting, issueId, queries]);
  return {
    waiting,
    wait: (id: string, page: number, text: string) => setWaiting((all) => [...all, { id, page, text, refused: null }]),
    remove: (at: number) => setWaiting((all) => all.toSpliced(at, 1)),
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
