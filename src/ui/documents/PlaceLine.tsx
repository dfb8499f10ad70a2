'use client';

import { commonInWords } from '@/core/places/common';
import type { PlaceRow } from '@/core/places/model';
import { counted } from '@/core/text/measure';
import { useAct } from '../server/useCall';
import { usePlaceDrop } from '../uploads/usePlaceDrop';
import type { LedgerColumn } from './ledgerColumns';
import { RenameInPlace } from './RenameInPlace';

const kindWords: Record<PlaceRow['kind'], string> = {
  library: 'library',
  series: 'series',
  dossier: 'dossier',
  year: 'filing year',
  folder: 'folder',
};

/** A place's cells in the ledger; papers and files can be dropped on it. */
export function PlaceLine({
  place,
  columns,
  renaming,
  onRename,
  onOpenPlace,
  onClick,
}: {
  readonly place: PlaceRow;
  readonly columns: readonly LedgerColumn[];
  readonly renaming: string | null;
  readonly onRename: (id: string | null) => void;
  readonly onOpenPlace: (id: string) => void;
  readonly onClick: () => void;
}) {
  const rename = useAct('place.rename');
  const drop = usePlaceDrop(place);
  if (renaming === place.id) {
    return (
      <span role="gridcell" className="col-start-2 min-w-0 px-1">
        <RenameInPlace
          label="Name"
          value={place.name}
          onSave={(name) => rename.mutateAsync({ placeId: place.id, name, revision: place.revision })}
          onClose={() => onRename(null)}
        />
      </span>
    );
  }
  return (
    <span
      role="gridcell"
      {...drop.props}
      aria-colspan={columns.length + 2}
      data-hue={place.colour}
      onClick={onClick}
      onDoubleClick={() => onOpenPlace(place.id)}
      style={{ gridColumn: '1 / -1' }}
      className={`flex h-full min-w-0 items-center gap-2 pr-4 pl-[42px] ${drop.over ? 'bg-straw' : ''}`}
    >
      {place.colour && <span aria-hidden className="h-4 w-[4px] rounded-[1px]" style={{ background: 'var(--hue)' }} />}
      {place.reference && <span className="font-mono text-sm text-soft">{place.reference}</span>}
      <button
        type="button"
        tabIndex={-1}
        onClick={(event) => {
          event.stopPropagation();
          onOpenPlace(place.id);
        }}
        className="truncate font-semibold hover:underline"
      >
        {place.name}
      </button>
      <span className="text-sm text-soft">
        {kindWords[place.kind]}
        {place.commonTo !== null && `, ${commonInWords(place.commonTo)}`}
      </span>
      <span className="figures ml-auto text-sm text-soft">
        {place.bareStep ? '' : counted(place.paperCount, 'paper')}
      </span>
    </span>
  );
}
