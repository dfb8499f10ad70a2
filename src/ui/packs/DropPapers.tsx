'use client';

import { useState, type DragEvent, type ReactNode } from 'react';
import { z } from 'zod';

/** What papers are called while the browser drags them. */
const dragged = 'application/x-embrin-papers';
const carried = z.array(z.uuid()).min(1).max(200);

/** Begins to drag papers. */
export function carryPapers({ dataTransfer }: DragEvent, ids: readonly string[]): void {
  dataTransfer.setData(dragged, JSON.stringify(ids));
  dataTransfer.effectAllowed = 'copy';
}

/** Takes papers that are dropped on lines of an outline. `children`: the outline, told on which line they would be dropped. */
export function DropPapers({
  isOpen,
  onPapers,
  children,
}: {
  readonly isOpen: boolean;
  /** Null: on no line. */
  readonly onPapers: (ids: readonly string[], lineId: string | null) => void;
  readonly children: (overId: string | null) => ReactNode;
}) {
  const [overId, setOverId] = useState<string | null>(null);
  const isPapers = ({ dataTransfer }: DragEvent) => isOpen && dataTransfer.types.includes(dragged);
  return (
    <div
      onDragOver={(event) => {
        if (!isPapers(event)) return;
        event.preventDefault();
        setOverId(lineAt(event.target));
      }}
      onDragLeave={({ currentTarget, relatedTarget }) => {
        if (!(relatedTarget instanceof Node && currentTarget.contains(relatedTarget))) setOverId(null);
      }}
      onDrop={(event) => {
        if (!isPapers(event)) return;
        event.preventDefault();
        setOverId(null);
        const ids = read(event.dataTransfer.getData(dragged));
        if (ids.length > 0) onPapers(ids, lineAt(event.target));
      }}
    >
      {children(overId)}
    </div>
  );
}

const lineAt = (target: EventTarget): string | null =>
  target instanceof Element ? (target.closest('[data-line]')?.getAttribute('data-line') ?? null) : null;

/** What was dropped; of another page, or not of ours, it is nothing. */
function read(text: string): readonly string[] {
  try {
    return carried.parse(JSON.parse(text));
  } catch {
    return [];
  }
}
