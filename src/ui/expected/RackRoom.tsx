'use client';

import { useRouter } from 'next/navigation';
import { useCallback, useState } from 'react';
import type { Rack, RackDossier } from '@/core/expected/contract';
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
            ? `Dossiers of ${page.place.name} stand here, a row each, their filing years across. Make the first under New.`
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
              label={`${page.place.name}: dossiers by filing year`}
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

/** What is expected in the chosen cell: a year of a dossier, or the dossier itself. */
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
  const year = spot.column === 0 ? null : (rack.years[spot.column - 1] ?? null);
  const input = { dossierId: spot.dossierId, startYear: year?.startYear ?? null };
  const { data, error } = useAsk('expected.of', input, { enabled: !dossier.bareStep, untilCounted: true });
  return (
    <div className="px-4 py-4">
      <h2 className="font-condensed text-lg break-words">
        <Link href={dossierAddress(dossier)} className="hover:underline">
          {dossier.name}
        </Link>
        {year && `, ${year.label}`}
      </h2>
      <p className="mb-3 text-sm text-soft">
        {dossier.bareStep
          ? 'Shown only as a step to what is open to you'
          : year
            ? 'Papers expected in this year'
            : 'Papers expected of the dossier itself'}
        {data?.officer && ` · ${data.officer.name} is responsible`}
      </p>
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && data.state === 'counted' && data.slots.length === 0 && (
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
      {data && <SlotList key={`${spot.dossierId} ${spot.column}`} told={data} pressed={spot} />}
    </div>
  );
}
