'use client';

import { useMemo } from 'react';
import type { PlaceRow } from '@/core/places/model';
import type { SavedView } from '@/core/views/saved';
import { plainView, type ViewSpec } from '@/core/views/spec';
import { Waiting } from '../forms/Waiting';
import { Link } from '../kit/link';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { useLook } from './useLook';
import { ViewRoom } from './ViewRoom';

const everywhere: ViewSpec = {
  ...plainView,
  below: true,
  columns: ['kind', 'place', 'pages', 'filedAt', 'changedAt'],
};
const nothingFixed: ReadonlySet<string> = new Set();

/** Views of the whole library that are always there. */
function readyViews(placeId: string): SavedView[] {
  const ready = (id: string, name: string, purpose: string, spec: Partial<ViewSpec>): SavedView => ({
    id,
    placeId,
    placeName: 'the whole library',
    name,
    purpose,
    audience: 'all',
    groupIds: [],
    spec: { ...everywhere, ...spec },
    opensHere: false,
    ownerName: '',
    revision: 0,
    mayChange: false,
    others: 0,
  });
  return [
    ready('changed-by-me', 'Changed by me', 'What you changed last, newest first:', {
      conditions: [{ of: 'changedBy', who: ['me'] }],
      sorts: [{ of: 'changedAt', direction: 'down' }],
    }),
    ready('filed-by-me', 'Filed by me', 'What you filed, newest first:', {
      conditions: [{ of: 'filedBy', who: ['me'] }],
      sorts: [{ of: 'filedAt', direction: 'down' }],
    }),
    ready('since-i-looked', 'New since I looked', 'What came or changed since you were last here:', {
      conditions: [{ of: 'changedAt', span: { is: 'since-look' } }],
      sorts: [{ of: 'changedAt', direction: 'down' }],
    }),
  ];
}

/** The library as one flat ledger, with where each paper is filed. */
export function AllPapers() {
  const { library } = useSurroundings();
  const placeId = library.rootId;
  const { data: series, error } = useAsk('places.series', {});
  const ready = useMemo(() => readyViews(placeId), [placeId]);
  const isOpen = series !== undefined && series.length > 0;
  useLook(isOpen ? placeId : null);
  const empty = (
    <p className="grid flex-1 place-items-center bg-sheet p-8 text-soft">
      {series?.length === 0
        ? 'Nothing is open to you yet. Papers that others open to you appear here.'
        : 'Nothing is filed yet. File papers in a series, a dossier or a folder.'}
    </p>
  );
  // Someone to whom nothing is open may not know of the library's own place: nothing is asked of it for them.
  if (!series && !error) return <Waiting what="the papers" error={null} />;
  if (series?.length === 0 || error)
    return (
      <main id="main" className="flex min-w-0 flex-1 flex-col">
        {empty}
      </main>
    );
  return (
    <div className="relative flex min-h-0 min-w-0 flex-1">
      <ViewRoom
        placeId={placeId}
        placeName="the whole library"
        seriesId={placeId}
        plainWords="All papers"
        plainView={everywhere}
        readyViews={ready}
        places={[]}
        mayAmend={false}
        fixedHere={nothingFixed}
        where={<SeriesList series={series ?? []} />}
        strip={
          <div className="border-b border-line bg-sheet px-4 pt-3 pb-2">
            <h1 className="font-condensed text-xl leading-tight">All papers</h1>
            <p className="mt-0.5 text-sm text-soft">Of the whole library, as far as it is open to you</p>
          </div>
        }
        notices={null}
        placeDocket={<p className="p-4 text-soft">Select a paper to see its details here.</p>}
        empty={empty}
      />
    </div>
  );
}

/** The series with how much is in each: ways from the flat ledger to where papers are filed. */
function SeriesList({ series }: { readonly series: readonly PlaceRow[] }) {
  return (
    <nav aria-label="Where" className="min-h-0 flex-1 overflow-y-auto pb-4">
      <p className="px-4 pt-3 pb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">Series</p>
      <ul>
        {series.map((each) => (
          <li key={each.id}>
            <Link href={`/place/${each.id}`} className="flex h-[28px] items-center gap-2 px-4 hover:bg-mist">
              <span className="min-w-0 flex-1 truncate">{each.name}</span>
              <span className="figures text-sm text-soft">{each.paperCount.toLocaleString('en-GB')}</span>
            </Link>
          </li>
        ))}
      </ul>
    </nav>
  );
}
