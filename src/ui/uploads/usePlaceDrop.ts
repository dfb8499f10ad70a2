'use client';

import { useDroppable } from '@dnd-kit/core';
import { useDropzone } from 'react-dropzone';
import { droppedFiles } from './droppedFiles';
import type { PlaceRow } from '@/core/places/model';
import { useUploads } from './uploadsContext';

/** Lets a row of a place take papers of the ledger and files of the computer. `over`: something is held above it. */
export function usePlaceDrop(place: Pick<PlaceRow, 'id' | 'name' | 'kind'>) {
  const { offer } = useUploads();
  const papers = useDroppable({ id: `place-${place.id}`, data: { kind: 'place', place } });
  const files = useDropzone({
    noClick: true,
    noKeyboard: true,
    getFilesFromEvent: droppedFiles,
    noDragEventsBubbling: true,
    onDrop: (dropped) => offer(dropped, place),
  });
  const { ref, tabIndex: _tab, role: _role, ...props } = files.getRootProps();
  return {
    over: papers.isOver || files.isDragActive,
    props: {
      ...props,
      ref: (node: HTMLElement | null) => {
        papers.setNodeRef(node);
        if (typeof ref === 'function') ref(node);
        else if (ref && typeof ref === 'object' && 'current' in ref) ref.current = node;
      },
    },
  };
}
