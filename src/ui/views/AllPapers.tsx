'use client';

import { useMemo } from 'react';
import type { PlaceRow } from '@/core/places/model';
import type { SavedView } from '@/core/views/saved';
import { plainView, type ViewSpec } from '@/core/views/spec';
import { Link } from '../kit/link';
import { useSurroundings } from '../surroundings/Surroundings';
import { readyView, WholeLibraryRoom } from './WholeLibraryRoom';

const everywhere: ViewSpec = {
  ...plainView,
  below: true,
  columns: ['kind', 'place', 'pages', 'filedAt', 'changedAt'],
};

/** Views of the whole library that are always there. */
function readyViews(placeId: string): SavedView[] {
  const ready = (id: string, name: string, purpose: string, spec: Partial<ViewSpec>): SavedView =>
    readyView(placeId, id, name, purpose, { ...everywhere, ...spec });
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
  const ready = useMemo(() => readyViews(placeId), [placeId]);
  return (
    <WholeLibraryRoom
      title="All papers"
      about="Of the whole library, as far as it is open to you"
      plainWords="All papers"
      plainView={everywhere}
      readyViews={ready}
      where={(series) => <SeriesList series={series} />}
      hint="Select a paper to see its details here."
      nothingOpen="Nothing is open to you yet. Papers that others open to you appear here."
      nothingThere="Nothing is filed yet. File papers in a series, a dossier or a folder."
      isLook
    />
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
