'use client';

import { createContext, use, useCallback, useEffect, useMemo, useState, type ReactNode } from 'react';
import { z } from 'zod';
import type { PaperRow } from '@/core/documents/model';

/** A paper in hand, with what the tray shows of it. */
const heldSchema = z.object({
  id: z.uuid(),
  title: z.string(),
  sizeBytes: z.number(),
  pageCount: z.number().nullable(),
  homeId: z.string(),
});
export type PaperInHand = z.output<typeof heldSchema>;

/** A paper of a list as it is held. */
export const asHeld = (
  row: Pick<PaperRow, 'id' | 'title' | 'sizeBytes' | 'pageCount'>,
  homeId: string,
): PaperInHand => ({
  id: row.id,
  title: row.title,
  sizeBytes: row.sizeBytes,
  pageCount: row.pageCount,
  homeId,
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

/** Holds the papers in hand, across places and reloads. */
export function HandProvider({ personId, children }: { readonly personId: string; readonly children: ReactNode }) {
  const place = `embrin-hand-${personId}`;
  const [labelling, setLabelling] = useState(false);
  const [held, setHeld] = useState<ReadonlyMap<string, PaperInHand>>(new Map());

  useEffect(() => {
    const kept = z.array(heldSchema).safeParse(JSON.parse(sessionStorage.getItem(place) ?? '[]'));
    // After the first paint, since the server cannot know what this browser has stored.
    // eslint-disable-next-line react-hooks/set-state-in-effect
    if (kept.success && kept.data.length > 0) setHeld(new Map(kept.data.map((paper) => [paper.id, paper])));
  }, [place]);

  const change = useCallback(
    (next: (before: ReadonlyMap<string, PaperInHand>) => ReadonlyMap<string, PaperInHand>) =>
      setHeld((before) => {
        const after = next(before);
        sessionStorage.setItem(place, JSON.stringify([...after.values()]));
        return after;
      }),
    [place],
  );

  const hand = useMemo<Hand>(
    () => ({
      held,
      pickUp: (papers) =>
        change((before) => new Map([...before, ...papers.map((paper) => [paper.id, paper] as const)])),
      putDown: (ids) => change((before) => new Map([...before].filter(([id]) => !ids.includes(id)))),
      putAllDown: () => change(() => new Map()),
      labelling,
      setLabelling,
    }),
    [held, change, labelling],
  );

  return <HandContext value={hand}>{children}</HandContext>;
}
