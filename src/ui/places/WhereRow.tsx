'use client';

import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { KeyboardEvent } from 'react';
import { commonInWords, placeAddress } from '@/core/places/common';
import type { PlaceRow } from '@/core/places/model';
import { Link } from '../kit/link';
import { useAct } from '../server/useCall';
import { usePlaceDrop } from '../uploads/usePlaceDrop';

interface Props {
  readonly place: PlaceRow;
  readonly siblings: readonly PlaceRow[];
  readonly parentId: string;
  readonly current: boolean;
  readonly depth: number;
  /** The dossier by way of which it is looked at, where it is common or lies in what is. */
  readonly withinId: string | null;
}

/** One row of the where panel: a way there, a target for drops, and, by dragging or Alt with the arrows, its place in the order. */
export function WhereRow({ place, siblings, parentId, current, depth, withinId }: Props) {
  const isOrdered = siblings.some((each) => each.id === place.id);
  const drop = usePlaceDrop(place);
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({
    id: `where-${place.id}`,
    data: { kind: 'where', place, parentId },
    disabled: !isOrdered,
  });
  const reorder = useAct('place.reorder');

  function onKeyDown(event: KeyboardEvent) {
    if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
    event.preventDefault();
    if (!isOrdered) return;
    const at = siblings.findIndex((each) => each.id === place.id);
    const before = event.key === 'ArrowUp' ? siblings[at - 1] : siblings[at + 2];
    if (event.key === 'ArrowUp' ? at === 0 : at === siblings.length - 1) return;
    reorder.mutate({ placeId: place.id, beforeId: before?.id ?? null });
  }

  return (
    <div
      {...drop.props}
      data-hue={place.colour}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={isDragging ? 'relative z-10 opacity-70' : ''}
    >
      <Link
        ref={setNodeRef}
        {...listeners}
        href={placeAddress(place.id, withinId)}
        draggable={false}
        aria-current={current ? 'page' : undefined}
        aria-keyshortcuts={isOrdered ? 'Alt+ArrowUp Alt+ArrowDown' : undefined}
        onKeyDown={onKeyDown}
        style={{ paddingLeft: 16 + depth * 14 }}
        className={`relative flex h-[28px] items-center gap-2 pr-4 ${drop.over ? 'bg-straw' : current ? 'bg-brine-wash font-semibold' : 'hover:bg-mist'} ${place.bareStep ? 'text-soft' : ''}`}
      >
        {current && <span aria-hidden className="absolute inset-y-0 left-0 w-[3px] bg-brine-ink" />}
        {place.colour && (
          <span aria-hidden className="h-4 w-[4px] shrink-0 rounded-[1px]" style={{ background: 'var(--hue)' }} />
        )}
        {place.reference && <span className="shrink-0 font-mono text-xs text-soft">{place.reference}</span>}
        <span title={place.name} className="min-w-0 flex-1 truncate">
          {place.name}
        </span>
        {place.commonTo !== null && (
          <span title={commonInWords(place.commonTo)} className="shrink-0 text-xs font-normal text-soft">
            common
          </span>
        )}
        {!place.bareStep && <span className="figures text-sm font-normal text-soft">{place.paperCount}</span>}
      </Link>
    </div>
  );
}
