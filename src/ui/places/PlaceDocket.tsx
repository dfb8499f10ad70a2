'use client';

import type { PlacePage } from '@/core/places/model';
import { counted } from '@/core/text/measure';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { JournalList } from '../journal/JournalList';
import { useSurroundings } from '../surroundings/Surroundings';

/** What the docket shows while no paper is chosen: the place itself. */
export function PlaceDocket({ page: { place, capabilities } }: { readonly page: PlacePage }) {
  const { now, timeZone } = useSurroundings();
  return (
    <div className="px-4 py-4">
      <h2 className="font-condensed text-lg break-words">{place.name}</h2>
      <p className="figures text-sm text-soft">
        {place.bareStep ? '' : `${counted(place.paperCount, 'paper')} here and below`}
      </p>
      {!place.bareStep && (
        <>
          <dl className="mt-3 grid grid-cols-[84px_minmax(0,1fr)] gap-y-1 border-t border-line pt-3">
            {place.referencePattern !== null && (
              <>
                <dt className="text-soft">References</dt>
                <dd className="font-mono">{place.referencePattern}</dd>
              </>
            )}
            <dt className="text-soft">Made by</dt>
            <dd>{place.createdBy}</dd>
            <dt className="text-soft">Made</dt>
            <dd>
              <time dateTime={place.createdAt} title={momentInWords(place.createdAt, timeZone)}>
                {whenInWords(place.createdAt, now, timeZone)}
              </time>
            </dd>
          </dl>
          <h3 className="mt-4 mb-1 border-t border-line pt-3 font-condensed text-[11.5px] tracking-wide text-soft uppercase">
            Journal
          </h3>
          <JournalList
            subject="place"
            id={place.id}
            mayUndo={capabilities.includes('amend')}
            mayManage={capabilities.includes('manage')}
          />
        </>
      )}
    </div>
  );
}
