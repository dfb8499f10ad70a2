'use client';

import { useDraggable } from '@dnd-kit/core';
import { memo, type MouseEvent } from 'react';
import type { PaperRow } from '@/core/documents/model';
import { useSurroundings } from '../shell/Surroundings';
import { useAct } from '../server/useCall';
import { RenameInPlace } from './RenameInPlace';
import type { Names } from '@/core/columns/format';
import type { Label } from '@/core/labels/model';
import { LabelTag } from '../labels/LabelTag';
import type { LedgerColumn } from './ledgerColumns';
import { useLabelDrop } from '../labels/useLabelDrop';

interface Props {
  readonly paper: PaperRow;
  readonly columns: readonly LedgerColumn[];
  readonly names: Names;
  readonly labels: ReadonlyMap<string, Label>;
  readonly ticked: boolean;
  readonly renaming: boolean;
  readonly onRename: (id: string | null) => void;
  readonly onTick: (ids: readonly string[], tick: boolean) => void;
  readonly onOpen: (id: string) => void;
  readonly onClick: (event: MouseEvent) => void;
}

/** A paper's cells in the ledger. Its title can be dragged onto a place. */
export const PaperLine = memo(function PaperLine({
  paper,
  columns,
  names,
  labels,
  ticked,
  renaming,
  onRename,
  onTick,
  onOpen,
  onClick,
}: Props) {
  const around = useSurroundings();
  const drag = useDraggable({ id: `paper-${paper.id}`, data: { kind: 'paper', paper } });
  const labelDrop = useLabelDrop(paper);
  const rename = useAct('paper.rename');
  return (
    <>
      <span role="gridcell" className="grid place-items-center">
        <input
          type="checkbox"
          tabIndex={-1}
          checked={ticked}
          aria-label={`Pick up ${paper.title}`}
          onChange={() => onTick([paper.id], !ticked)}
          className="size-[15px] accent-brine"
        />
      </span>
      {renaming ? (
        <span role="gridcell" className="min-w-0 px-1">
          <RenameInPlace
            label="Title"
            value={paper.title}
            onSave={(title) => rename.mutateAsync({ documentId: paper.id, title, revision: paper.revision })}
            onClose={() => onRename(null)}
          />
        </span>
      ) : (
        <span
          role="gridcell"
          ref={(node) => {
            drag.setNodeRef(node);
            labelDrop.setNodeRef(node);
          }}
          {...drag.listeners}
          onClick={onClick}
          onDoubleClick={() => onOpen(paper.id)}
          title={paper.title}
          className={`flex h-full min-w-0 items-center gap-1.5 px-1.5 ${labelDrop.over ? 'bg-straw' : ''}`}
        >
          <span className="truncate font-medium">{paper.title}</span>
          {paper.labels.map((id) => {
            const label = labels.get(id);
            return label && <LabelTag key={id} label={label} within="row" />;
          })}
        </span>
      )}
      {columns.map((column) => (
        <span
          key={column.key}
          role="gridcell"
          onClick={onClick}
          onDoubleClick={() => onOpen(paper.id)}
          className={`flex h-full items-center truncate px-1.5 text-sm ${column.figures ? 'figures justify-end' : ''}`}
        >
          <span className="truncate">{column.cell(paper, { ...around, names })}</span>
        </span>
      ))}
    </>
  );
});
