'use client';

import { useDraggable } from '@dnd-kit/core';
import { memo, type CSSProperties, type MouseEvent, type ReactNode } from 'react';
import type { PlacedPaper } from '@/core/documents/contract';
import { useSurroundings } from '../surroundings/Surroundings';
import { useAct } from '../server/useCall';
import { RenameInPlace } from './RenameInPlace';
import type { Names } from '@/core/columns/format';
import type { Label } from '@/core/labels/model';
import { Path } from '../kit/path';
import { LabelTag } from '../labels/LabelTag';
import { labelsAmong } from '../labels/useLabels';
import type { LedgerColumn } from './ledgerColumns';
import { useLabelDrop } from '../labels/useLabelDrop';

interface Props {
  readonly paper: PlacedPaper;
  /** The number of nested groups it is in. */
  readonly depth: number;
  /** The style of a frozen column's cell; undefined for others. */
  readonly sticky: (at: number) => CSSProperties | undefined;
  readonly columns: readonly LedgerColumn[];
  /** Columns whose values stand in a second line, below the title. */
  readonly beneath: readonly LedgerColumn[];
  readonly names: Names;
  readonly labels: ReadonlyMap<string, Label>;
  readonly ticked: boolean;
  readonly renaming: boolean;
  readonly onRename: (id: string | null) => void;
  readonly onTick: (papers: readonly PlacedPaper[], tick: boolean) => void;
  readonly onPutBefore: ((beforeId: string, papers: readonly { readonly id: string }[]) => void) | undefined;
  readonly onOpen: (id: string) => void;
  /** Its line, for the handlers. */
  readonly index: number;
  readonly onClick: (event: MouseEvent, index: number, paper: PlacedPaper) => void;
}

/** A paper's cells in the ledger. Its title can be dragged onto a place. */
export const PaperLine = memo(function PaperLine({
  paper,
  depth,
  sticky,
  columns,
  beneath,
  names,
  labels,
  ticked,
  renaming,
  onRename,
  onTick,
  onPutBefore,
  onOpen,
  index,
  onClick: onPaperClick,
}: Props) {
  const onClick = (event: MouseEvent) => onPaperClick(event, index, paper);
  const around = useSurroundings();
  const drag = useDraggable({ id: `paper-${paper.id}`, data: { kind: 'paper', paper } });
  const labelDrop = useLabelDrop(paper, onPutBefore);
  const rename = useAct('paper.rename');
  return (
    <>
      <span role="gridcell" className="grid h-full place-items-center bg-inherit" style={sticky(-2)}>
        <input
          type="checkbox"
          tabIndex={-1}
          checked={ticked}
          aria-label={`Pick up ${paper.title}`}
          onChange={() => onTick([paper], !ticked)}
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
          style={{ paddingLeft: 6 + depth * 12, ...sticky(-1) }}
          className={`flex h-full min-w-0 items-center gap-1.5 pr-1.5 ${labelDrop.over ? 'bg-straw' : 'bg-inherit'}`}
        >
          <span className="flex min-w-0 flex-1 flex-col">
            <span className="flex min-w-0 items-center gap-1.5">
              <span className="truncate font-medium">{paper.title}</span>
              {labelsAmong(labels, paper.labels).map((label) => (
                <LabelTag key={label.id} label={label} within="row" />
              ))}
            </span>
            {beneath.length > 0 && (
              <span className="figures block truncate text-sm text-soft">
                {beneath.map((column) => {
                  const shown = column.cell(paper, { ...around, names });
                  if (shown === '') return null;
                  return (
                    <span key={column.key} className="mr-2">
                      {column.needsHeading && `${column.heading} `}
                      {shown}
                    </span>
                  );
                })}
              </span>
            )}
          </span>
        </span>
      )}
      {columns.map((column, at) => (
        <span
          key={column.key}
          role="gridcell"
          style={sticky(at)}
          onClick={onClick}
          onDoubleClick={() => onOpen(paper.id)}
          className={`flex h-full items-center truncate bg-inherit px-1.5 text-sm ${column.figures ? 'figures justify-end' : ''}`}
        >
          <Cell column={column} shown={column.cell(paper, { ...around, names })} />
        </span>
      ))}
    </>
  );
});

function Cell({ column, shown }: { readonly column: LedgerColumn; readonly shown: ReactNode }) {
  if (column.cutInFront && typeof shown === 'string') return <Path steps={[shown]} className="min-w-0" />;
  return <span className="truncate">{shown}</span>;
}
