'use client';

import {
  DndContext,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { DotsSixVerticalIcon } from '@phosphor-icons/react';
import clsx from 'clsx';
import { useState, type KeyboardEvent, type ReactNode } from 'react';
import type { Shift } from '@/core/outline/move';

/** The keys that move what has the focus: the arrows with Alt. */
const shiftKeys: Readonly<Record<string, Shift>> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowRight: 'in',
  ArrowLeft: 'out',
};

const last = 'last';

/**
 * An outline whose lines can be dragged: dropped on another line, one comes to stand before it, at its level; dropped below
 * them all, it comes last at the top.
 */
export function Outline({
  nameOf,
  mayMove,
  onDrop,
  children,
}: {
  /** What is shown of a line while it is dragged. */
  readonly nameOf: (id: string) => string;
  readonly mayMove: boolean;
  readonly onDrop: (id: string, beforeId: string | null) => void;
  readonly children: ReactNode;
}) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const [dragged, setDragged] = useState<string | null>(null);
  return (
    <DndContext
      id="outline"
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={({ active }) => setDragged(String(active.id))}
      onDragCancel={() => setDragged(null)}
      onDragEnd={({ active, over }) => {
        setDragged(null);
        if (over && over.id !== active.id) onDrop(String(active.id), over.id === last ? null : String(over.id));
      }}
    >
      <ol className="rounded-sm border border-line bg-sheet">{children}</ol>
      {mayMove && dragged !== null && <LastDrop />}
      <DragOverlay dropAnimation={null}>
        {dragged !== null && (
          <span className="inline-block rounded-sm border border-straw-edge bg-straw px-2 py-1 text-straw-ink shadow-md">
            {nameOf(dragged)}
          </span>
        )}
      </DragOverlay>
    </DndContext>
  );
}

function LastDrop() {
  const { setNodeRef, isOver } = useDroppable({ id: last });
  return (
    <p
      ref={setNodeRef}
      className={clsx(
        'mt-1 rounded-sm border border-dashed px-3 py-2 text-soft',
        isOver ? 'border-brine' : 'border-edge',
      )}
    >
      Last
    </p>
  );
}

/** A line of an outline, with the grip by which it is dragged; Alt and an arrow move it too. */
export function OutlineLine({
  id,
  name,
  depth,
  mayMove,
  onShift,
  children,
}: {
  readonly id: string;
  readonly name: string;
  /** 1 at the top. */
  readonly depth: number;
  readonly mayMove: boolean;
  readonly onShift: (shift: Shift) => void;
  readonly children: ReactNode;
}) {
  const { setNodeRef: gripRef, listeners, isDragging } = useDraggable({ id, disabled: !mayMove });
  const { setNodeRef: lineRef, isOver } = useDroppable({ id, disabled: !mayMove });
  const shift = (event: KeyboardEvent) => {
    const way = shiftKeys[event.key];
    if (!event.altKey || !way || !mayMove) return;
    event.preventDefault();
    onShift(way);
  };
  return (
    <li
      ref={lineRef}
      data-line={id}
      aria-label={name}
      onKeyDown={shift}
      className={clsx(
        'flex items-start gap-2 border-b border-line py-1.5 pr-3 last:border-b-0',
        isOver && !isDragging && 'border-t-2 border-t-brine',
        isDragging && 'opacity-50',
      )}
      style={{ paddingLeft: 8 + (depth - 1) * 22 }}
    >
      {mayMove && (
        <button
          ref={gripRef}
          type="button"
          {...listeners}
          aria-label={`Move “${name}”: Alt and the arrow keys, or drag`}
          className="mt-0.5 grid size-6 shrink-0 cursor-grab place-items-center rounded-sm text-soft hover:bg-fog"
        >
          <DotsSixVerticalIcon size={16} aria-hidden />
        </button>
      )}
      {children}
    </li>
  );
}
