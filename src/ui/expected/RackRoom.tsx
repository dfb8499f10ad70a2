'use client';

import { useRouter } from 'next/navigation';
import { useCallback, useState } from 'react';
import type { Rack, RackDossier, SlotRow } from '@/core/expected/contract';
import type { RackColumn } from '@/core/expected/rackColumns';
import { counted } from '@/core/text/measure';
import { Link } from '../kit/link';
import type { FrontProps } from '../layout/front';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { Columns } from '../layout/Columns';
import { RackGrid } from './RackGrid';
import { dossierAddress, type RackSpot } from './RackRow';
import { RackToolbar } from './RackToolbar';
import { SlotList } from './SlotList';
import { SquaresKey } from './Squares';
import { useRack } from './useRack';

/** The front page of a series: its rack, and beside it the expected papers of the chosen cell. */
export function RackRoom({ page, where, head, placeDocket }: FrontProps) {
  const router = useRouter();
  const { rack, error, rows, state, setState } = useRack(page.place.id);
  const [spot, setSpot] = useState<RackSpot | null>(null);
  const open = useCallback((placeId: string) => router.push(`/place/${placeId}`), [router]);
  const gaps = rows.reduce((sum, row) => sum + row.gaps, 0);
  const chosen = rack && spot ? rack.rows.find((row) => row.dossierId === spot.dossierId) : undefined;
  return (
    <Columns
      where={where}
      docket={
        rack && spot && chosen ? (
          <CellDocket rack={rack} spot={spot} dossier={chosen} seriesId={page.place.id} />
        ) : (
          placeDocket
        )
      }
      docketOpen={spot !== null}
      onDocketClose={() => setSpot(null)}
    >
      {head}
      {error && <p className="p-6">{saysOf(error)}</p>}
      {rack && rack.rows.length === 0 && (
        <p className="grid flex-1 place-items-center bg-sheet p-8 text-center text-soft">
          {page.capabilities.includes('manage')
            ? `Dossiers of ${page.place.name} stand here, a row each${rack.byYear ? ', their filing years across' : ''}. Make the first under New.`
            : 'No dossier here is open to you.'}
        </p>
      )}
      {rack && rack.rows.length > 0 && (
        <>
          <RackToolbar
            rack={rack}
            state={state}
            setState={setState}
            words={
              rack.state === 'counting'
                ? 'Counting once the library has been read…'
                : `${counted(rows.length, 'dossier')}${rack.expected.length > 0 ? ` · ${counted(gaps, 'gap')}` : ''}`
            }
          />
          {rows.length === 0 ? (
            <p className="grid flex-1 place-items-center bg-sheet p-8 text-soft">
              No dossiers match. Change the search, or show all.
            </p>
          ) : (
            <RackGrid
              rack={rack}
              rows={rows}
              show={state.show}
              spot={spot}
              onSpot={setSpot}
              onOpen={open}
              label={`${page.place.name}: dossiers by ${acrossWords[rack.columns[0]?.kind ?? 'whole']}`}
            />
          )}
          {rack.expected.length > 0 && (
            <div className="border-t border-line bg-sheet px-4 py-1.5">
              <SquaresKey />
            </div>
          )}
        </>
      )}
      {!rack && !error && (
        <p aria-busy className="p-6 text-soft">
          Loading the rack…
        </p>
      )}
    </Columns>
  );
}

/** What stands across in a rack. */
const acrossWords = { year: 'filing year', folder: 'folder', paper: 'expected paper', whole: 'papers' } as const;

/** What is expected in the chosen cell: a year, folder or paper of a dossier, or the dossier itself. */
function CellDocket({
  rack,
  spot,
  dossier,
  seriesId,
}: {
  readonly rack: Rack;
  readonly spot: RackSpot;
  readonly dossier: RackDossier;
  readonly seriesId: string;
}) {
  const column = spot.column === 0 ? null : (rack.columns[spot.column - 1] ?? null);
  const startYear = column?.kind === 'year' ? Number(column.key) : null;
  const { data, error } = useAsk(
    'expected.of',
    { dossierId: spot.dossierId, startYear },
    { enabled: !dossier.bareStep, untilCounted: true },
  );
  const told =
    data && startYear === null ? { ...data, slots: data.slots.filter(standsIn(rack, dossier, column)) } : data;
  return (
    <div className="px-4 py-4">
      <h2 className="font-condensed text-lg break-words">
        <Link href={dossierAddress(dossier)} className="hover:underline">
          {dossier.name}
        </Link>
        {column && `, ${column.label}`}
      </h2>
      <p className="mb-3 text-sm text-soft">
        {dossier.bareStep ? 'Shown only as a step to what is open to you' : expectedWords[column?.kind ?? 'dossier']}
        {told?.officer && ` · ${told.officer.name} is responsible`}
      </p>
      {error && <p role="alert">{saysOf(error)}</p>}
      {told && told.state === 'counted' && told.slots.length === 0 && (
        <p className="text-soft">
          {rack.expected.length === 0 ? (
            <>
              The{' '}
              <Link className="text-brine-ink hover:underline" href={`/plan/${seriesId}`}>
                filing plan
              </Link>{' '}
              expects no papers yet.
            </>
          ) : (
            'Nothing is expected here.'
          )}
        </p>
      )}
      {told && <SlotList key={`${spot.dossierId} ${spot.column}`} told={told} pressed={spot} />}
    </div>
  );
}

const expectedWords = {
  year: 'Papers expected in this year',
  folder: 'Papers expected in this folder',
  paper: 'Expected of the dossier',
  whole: 'All papers of the dossier',
  dossier: 'Papers expected of the dossier itself',
} as const;

/** Whether an expected paper stands in a column; in none: with the dossier itself, as those of folders that it lacks. */
function standsIn(rack: Rack, dossier: RackDossier, column: RackColumn | null) {
  const shown = new Set(rack.columns.filter((_each, at) => dossier.cells[at] !== null).map((each) => each.key));
  const columnOf = new Map(rack.expected.map((each) => [each.id, each.column]));
  return ({ expectationId }: SlotRow): boolean => {
    const key = columnOf.get(expectationId) ?? null;
    return (key !== null && shown.has(key) ? key : null) === (column?.key ?? null);
  };
}
