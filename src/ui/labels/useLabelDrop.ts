'use client';

import { useDroppable } from '@dnd-kit/core';
import type { PaperRow } from '@/core/documents/model';

/** Lets a label be dropped on a paper, and papers be put before it where people give the order. */
export function useLabelDrop(
  paper: PaperRow,
  onPutBefore?: (beforeId: string, papers: readonly { readonly id: string }[]) => void,
) {
  const { setNodeRef, isOver, active } = useDroppable({
    id: `labelled-${paper.id}`,
    data: { kind: 'ledger-paper', paper, onPutBefore },
  });
  const kind: unknown = active?.data.current?.['kind'];
  return { setNodeRef, over: isOver && (kind === 'label' || (kind === 'paper' && onPutBefore !== undefined)) };
}
