'use client';

import type { ReactNode } from 'react';
import type { PlaceRow } from '@/core/places/model';
import type { SavedView } from '@/core/views/saved';
import type { ViewSpec } from '@/core/views/spec';
import { Waiting } from '../forms/Waiting';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { useLook } from './useLook';
import { ViewRoom } from './ViewRoom';

/** A view of the whole library that is always there. @param placeId the library's own place */
export const readyView = (placeId: string, id: string, name: string, purpose: string, spec: ViewSpec): SavedView => ({
  id,
  placeId,
  placeName: 'the whole library',
  name,
  purpose,
  audience: 'all',
  groupIds: [],
  spec,
  opensHere: false,
  ownerName: '',
  revision: 0,
  mayChange: false,
  others: 0,
});

const nothingFixed: ReadonlySet<string> = new Set();

interface Props {
  readonly title: string;
  readonly about: string;
  /** What the tab without a saved view is called, and how it looks. */
  readonly plainWords: string;
  readonly plainView: ViewSpec;
  readonly readyViews: readonly SavedView[];
  /** Which of those opens by itself; then they are all. */
  readonly opensReady?: string;
  readonly where: (series: readonly PlaceRow[]) => ReactNode;
  /** Beside the papers, while none is selected. */
  readonly hint: string;
  /** Said to someone to whom nothing is open, and where there is nothing. */
  readonly nothingOpen: string;
  readonly nothingThere: string;
  /** Whether being here counts as a look at the library, after which things are no longer new. */
  readonly isLook?: boolean;
}

/** A page of views over the whole library. */
export function WholeLibraryRoom(props: Props) {
  const { library } = useSurroundings();
  const placeId = library.rootId;
  const { data: series, error } = useAsk('places.series', {});
  const isOpen = series !== undefined && series.length > 0 && !error;
  useLook(props.isLook && isOpen ? placeId : null);
  const empty = (words: string) => <p className="grid flex-1 place-items-center bg-sheet p-8 text-soft">{words}</p>;
  if (!series && !error) return <Waiting what="the papers" error={null} />;
  // Someone to whom nothing is open may not know of the library's own place: nothing is asked of it for them.
  if (!isOpen)
    return (
      <main id="main" className="flex min-w-0 flex-1 flex-col">
        {empty(props.nothingOpen)}
      </main>
    );
  return (
    <div className="relative flex min-h-0 min-w-0 flex-1">
      <ViewRoom
        placeId={placeId}
        placeName="the whole library"
        seriesId={placeId}
        plainWords={props.plainWords}
        plainView={props.plainView}
        readyViews={props.readyViews}
        {...(props.opensReady === undefined ? {} : { opensReady: props.opensReady })}
        places={[]}
        mayAmend={false}
        fixedHere={nothingFixed}
        where={props.where(series)}
        strip={
          <div className="border-b border-line bg-sheet px-4 pt-3 pb-2">
            <h1 className="font-condensed text-xl leading-tight">{props.title}</h1>
            <p className="mt-0.5 text-sm text-soft">{props.about}</p>
          </div>
        }
        notices={null}
        placeDocket={<p className="p-4 text-soft">{props.hint}</p>}
        empty={empty(props.nothingThere)}
      />
    </div>
  );
}
