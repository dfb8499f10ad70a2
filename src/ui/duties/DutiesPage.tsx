'use client';

import { useMemo } from 'react';
import type { Column } from '@/core/columns/model';
import type { SavedView } from '@/core/views/saved';
import { plainView, type ViewSpec } from '@/core/views/spec';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { readyView, WholeLibraryRoom } from '../views/WholeLibraryRoom';
import { MonthsAhead } from './MonthsAhead';

const reviews: ViewSpec = {
  ...plainView,
  below: true,
  conditions: [{ of: 'reviewOn', filled: true }],
  groupings: [{ of: 'reviewOn', by: 'month', order: 'own', direction: 'up' }],
  sorts: [{ of: 'reviewOn', direction: 'up' }],
  columns: ['reviewOn', 'place', 'reviewer'],
};
const keeping: ViewSpec = {
  ...plainView,
  below: true,
  groupings: [{ of: 'keptClass', by: 'value', order: 'own', direction: 'up' }],
  sorts: [{ of: 'keptUntil', direction: 'up' }],
  columns: ['keptUntil', 'place', 'keptEnd'],
};
const all: ViewSpec = { ...plainView, below: true, columns: ['place', 'reviewOn', 'keptUntil', 'keptEnd'] };

/**
 * The views of duties that are always there.
 * @param isKeeper who is shown how long papers are kept as well
 * @param columns by which papers run out
 */
function readyViews(placeId: string, isKeeper: boolean, columns: readonly Column[]): SavedView[] {
  const ready = (id: string, name: string, purpose: string, spec: ViewSpec): SavedView =>
    readyView(placeId, id, name, purpose, spec);
  const past = { of: 'reviewOn', span: { is: 'before-today' } } as const;
  const ofReviews = [
    ready('reviews', 'Reviews', 'When papers are reviewed, month by month:', reviews),
    ready('my-reviews', 'Mine', 'Reviews that you answer for, soonest first:', {
      ...reviews,
      conditions: [{ of: 'reviewer', who: ['me'] }],
    }),
    ready('past-reviews', 'Past', 'What should have been reviewed by now, longest past first:', {
      ...reviews,
      conditions: [past],
      groupings: [],
    }),
  ];
  const ofValidity = columns.map(({ id, name }) =>
    ready(`runs-out-${id}`, columns.length === 1 ? 'Runs out' : `Runs out: ${name}`, 'What ran out or does soon:', {
      ...plainView,
      below: true,
      conditions: [
        {
          how: 'any',
          parts: [
            { of: id, span: { is: 'before-today' } },
            { of: id, span: { next: 3, unit: 'month' } },
          ],
        },
      ],
      sorts: [{ of: id, direction: 'up' }],
      columns: [id, 'place'],
    }),
  );
  if (!isKeeper) return [...ofReviews, ...ofValidity];
  return [
    ...ofReviews,
    ...ofValidity,
    ready('kept-over', 'Time is over', 'What was kept as long as it has to be, by class:', {
      ...keeping,
      conditions: [{ of: 'keptUntil', span: { is: 'before-today' } }],
    }),
    ready('kept-ending', 'Ends soon', 'What need not be kept any more within a year:', {
      ...keeping,
      conditions: [{ of: 'keptUntil', span: { next: 1, unit: 'year' } }],
      groupings: [{ of: 'keptUntil', by: 'month', order: 'own', direction: 'up' }],
    }),
    ready(
      'for-archive',
      'For an archive',
      'What is handed over to an archive once it need not be kept here any more:',
      {
        ...keeping,
        conditions: [{ of: 'keptEnd', anyOf: ['handOver'] }],
        groupings: [{ of: 'keptUntil', by: 'year', order: 'own', direction: 'up' }],
      },
    ),
    ready(
      'kept-unknown',
      'Without a starting date',
      'What is kept because the day is missing from which it would be counted:',
      {
        ...keeping,
        conditions: [
          { of: 'keptUntil', filled: false },
          { of: 'keptEnd', anyOf: ['destroy', 'look', 'handOver'] },
        ],
      },
    ),
  ];
}

/** What papers are owed, as views of the whole library: reviews by month and person, and for keepers how long they are kept. */
export function DutiesPage() {
  const { library, me, seenBy } = useSurroundings();
  const placeId = library.rootId;
  const isKeeper = me.keeper && seenBy === null;
  const { data: series } = useAsk('places.series', {});
  const { data: at } = useAsk('views.at', { placeId }, { enabled: series !== undefined && series.length > 0 });
  const ready = useMemo(
    () => readyViews(placeId, isKeeper, at?.columns.filter(({ meaning }) => meaning === 'validUntil') ?? []),
    [placeId, isKeeper, at],
  );
  return (
    <WholeLibraryRoom
      title="Duties"
      about="What papers are owed, as far as they are open to you"
      plainWords="All papers"
      plainView={all}
      readyViews={ready}
      opensReady="reviews"
      where={() => <MonthsAhead isKeeper={isKeeper} />}
      hint="Select a paper to see what it is owed, and to note a review."
      nothingOpen="Nothing is open to you yet."
      nothingThere="No paper is reviewed. A place says how often its papers are: choose “Reviews…” in its menu."
    />
  );
}
