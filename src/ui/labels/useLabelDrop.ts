'use client';

import { useDroppable } from '@dnd-kit/core';
import type { PaperRow } from '@/core/documents/model';

/** Lets a label be dropped on a paper. */
export function useLabelDrop(paper: PaperRow) {
  const { setNodeRef, isOver, active } = useDroppable({
    id: `labelled-${paper.id}`,
    data: { kind: 'ledger-paper', paper },
  });
  return { setNodeRef, over: isOver && active?.data.current?.['kind'] === 'label' };
}
