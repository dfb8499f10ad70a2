'use client';

import { useQueryClient } from '@tanstack/react-query';
import { createContext, use, useCallback, useMemo, useRef, useState, type ReactNode } from 'react';
import type { PaperInHand } from '@/core/hand/contract';
import type { PlacedPaper } from '@/core/documents/contract';
import { say } from '../kit/notice';
import { call, saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** A paper of a list as it is held. */
export const asHeld = (
  row: Pick<PlacedPaper, 'id' | 'title' | 'stamp' | 'sizeBytes' | 'pageCount' | 'homeId'>,
  homeName: string,
): PaperInHand => ({
  id: row.id,
  title: row.title,
  stamp: row.stamp,
  sizeBytes: row.sizeBytes,
  pageCount: row.pageCount,
  homeId: row.homeId,
  homeName,
});

interface Hand {
  readonly held: ReadonlyMap<string, PaperInHand>;
  readonly pickUp: (papers: readonly PaperInHand[]) => void;
  readonly putDown: (ids: readonly string[]) => void;
  readonly putAllDown: () => void;
  /** Whether the label panel is open: it stays so while what is in hand changes. */
  readonly labelling: boolean;
  readonly setLabelling: (open: boolean) => void;
}

const HandContext = createContext<Hand | null>(null);

/** The papers in hand; throws outside of `HandProvider`. */
export function useHand(): Hand {
  const hand = use(HandContext);
  if (!hand) throw new Error('There is no hand around this component');
  return hand;
}

/** The label panel, opened and closed from anywhere. */
export function useLabelPanel() {
  const { labelling, setLabelling } = useHand();
  return { open: labelling, setOpen: setLabelling };
}

const key = ['hand.papers', {}];
const none: readonly PaperInHand[] = [];

/** A change of what is in hand. */
type Change = (before: readonly PaperInHand[]) => readonly PaperInHand[];

/**
 * Holds the papers in hand. The server keeps them, for the person and all their devices; here they change at once, and what
 * the server refuses is put back. Who looks as another has a hand of their own for as long as the page lasts.
 */
export function HandProvider({ children }: { readonly children: ReactNode }) {
  const isOwn = useSurroundings().seenBy === null;
  const queries = useQueryClient();
  const [labelling, setLabelling] = useState(false);
  const [borrowed, setBorrowed] = useState(none);
  const { data } = useAsk('hand.papers', {}, { enabled: isOwn });
  const [pending, setPending] = useState<readonly Change[]>([]);
  const papers = useMemo(
    // What the server has not confirmed yet holds over whatever it told meanwhile. Done twice, a change is the same.
    () => (isOwn ? pending.reduce((before, change) => change(before), data ?? none) : borrowed),
    [isOwn, pending, data, borrowed],
  );
  const held = useMemo(() => new Map(papers.map((paper) => [paper.id, paper])), [papers]);

  /** One after the other: what was picked up and put down again is down. */
  const turn = useRef<Promise<unknown>>(Promise.resolve());
  const waiting = useRef(0);
  const saved = useRef(new Set<Change>());
  const change = useCallback(
    (next: Change, save: () => Promise<unknown>) => {
      if (!isOwn) return setBorrowed(next);
      setPending((before) => [...before, next]);
      waiting.current += 1;
      turn.current = turn.current
        .then(save)
        .catch((error: unknown) => say.refusal(saysOf(error)))
        .then(async () => {
          saved.current.add(next);
          waiting.current -= 1;
          if (waiting.current > 0) return;
          const done = new Set(saved.current);
          await queries.invalidateQueries({ queryKey: key });
          saved.current = new Set([...saved.current].filter((each) => !done.has(each)));
          setPending((before) => before.filter((each) => !done.has(each)));
        });
    },
    [isOwn, queries],
  );

  const hand = useMemo<Hand>(
    () => ({
      held,
      pickUp: (some) => {
        if (some.length === 0) return;
        const ids = new Set(some.map(({ id }) => id));
        change(
          (before) => [...before.filter(({ id }) => !ids.has(id)), ...some],
          () => call('hand.pickUp', { documentIds: [...ids] }),
        );
      },
      putDown: (some) => {
        const ids = new Set(some);
        if (ids.size === 0) return;
        change(
          (before) => before.filter(({ id }) => !ids.has(id)),
          () => call('hand.putDown', { documentIds: [...ids] }),
        );
      },
      putAllDown: () =>
        change(
          () => none,
          () => call('hand.putDown', { documentIds: null }),
        ),
      labelling,
      setLabelling,
    }),
    [held, change, labelling],
  );

  return <HandContext value={hand}>{children}</HandContext>;
}
