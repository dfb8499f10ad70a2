'use client';

import {
  DndContext,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragStartEvent,
} from '@dnd-kit/core';
import { useState, type ReactNode } from 'react';
import type { PaperRow } from '@/core/documents/model';
import type { PlaceRow } from '@/core/places/model';
import { counted } from '@/core/text/measure';
import { MovePapersDialog } from '../documents/MovePapersDialog';
import type { Label } from '@/core/labels/model';
import { useHand } from '../hand/HandProvider';
import { useLabelActs } from '../labels/useLabelActs';
import { MovePlaceDialog } from '../places/MovePlaceDialog';
import { useAct } from '../server/useCall';

/** What is dragged, as the rows give it to the drag. */
type Dragged =
  | { readonly kind: 'paper'; readonly paper: PaperRow }
  | { readonly kind: 'where'; readonly place: PlaceRow; readonly parentId: string }
  | { readonly kind: 'label'; readonly label: Label };
type Target =
  | { readonly kind: 'place' | 'where'; readonly place: PlaceRow }
  | { readonly kind: 'label'; readonly label: Label }
  | {
      readonly kind: 'ledger-paper';
      readonly paper: PaperRow;
      readonly onPutBefore?: (beforeId: string, papers: readonly Named[]) => void;
    }
  /** What takes papers in its own way: a group gives them its value. */
  | { readonly kind: 'taker'; readonly take: (papers: readonly Named[]) => void };

interface Named {
  readonly id: string;
  readonly title: string;
}

/** Dragging within the library: papers onto places, places into another order or another place. */
export function DragAndDrop({ children }: { readonly children: ReactNode }) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const { held, putDown } = useHand();
  const reorder = useAct('place.reorder');
  const { put: putLabel } = useLabelActs();
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const [papersTo, setPapersTo] = useState<{ papers: readonly Named[]; place: PlaceRow } | null>(null);
  const [placeTo, setPlaceTo] = useState<{ place: PlaceRow; to: PlaceRow } | null>(null);

  // A paper that is in hand brings all that is in hand with it.
  const carried = (paper: PaperRow): readonly Named[] => (held.has(paper.id) ? [...held.values()] : [paper]);

  function onDragStart({ active }: DragStartEvent) {
    const data = active.data.current as Dragged | undefined;
    setDragged(data ?? null);
  }

  function onDragEnd({ over }: DragEndEvent) {
    const target = over?.data.current as Target | undefined;
    setDragged(null);
    if (!dragged || !target) return;
    if (dragged.kind === 'label') {
      if (target.kind === 'ledger-paper') void putLabel(dragged.label, carried(target.paper), true);
    } else if (dragged.kind === 'paper') {
      if (target.kind === 'label') void putLabel(target.label, carried(dragged.paper), true);
      else if (target.kind === 'taker') target.take(carried(dragged.paper));
      else if (target.kind === 'ledger-paper') {
        const moved = carried(dragged.paper).filter((paper) => paper.id !== target.paper.id);
        if (moved.length > 0) target.onPutBefore?.(target.paper.id, moved);
      } else setPapersTo({ papers: carried(dragged.paper), place: target.place });
    } else if (target.kind !== 'place' && target.kind !== 'where') return;
    else if (dragged.place.id === target.place.id) return;
    else if (target.place.parentId === dragged.parentId)
      reorder.mutate({ placeId: dragged.place.id, beforeId: target.place.id });
    else setPlaceTo({ place: dragged.place, to: target.place });
  }

  return (
    <DndContext
      id="library"
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={onDragStart}
      onDragEnd={onDragEnd}
      onDragCancel={() => setDragged(null)}
    >
      {children}
      <DragOverlay dropAnimation={null}>
        {dragged && (
          <span className="inline-block rounded-sm border border-straw-edge bg-straw px-2 py-1 text-straw-ink shadow-md">
            {dragged.kind === 'where'
              ? dragged.place.name
              : dragged.kind === 'label'
                ? dragged.label.name
                : carried(dragged.paper).length > 1
                  ? counted(carried(dragged.paper).length, 'paper')
                  : dragged.paper.title}
          </span>
        )}
      </DragOverlay>
      {papersTo && (
        <MovePapersDialog
          papers={papersTo.papers}
          to={papersTo.place}
          open
          onClose={() => setPapersTo(null)}
          onMoved={putDown}
        />
      )}
      {placeTo && (
        <MovePlaceDialog
          placeId={placeTo.place.id}
          name={placeTo.place.name}
          to={placeTo.to}
          onClose={() => setPlaceTo(null)}
        />
      )}
    </DndContext>
  );
}
