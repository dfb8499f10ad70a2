'use client';

import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { counted } from '@/core/text/measure';
import { useSurroundings } from '../surroundings/Surroundings';
import { ExportState, useExports } from './ExportState';

/** The archives that the person asked for. */
export function ExportsPage() {
  const { now, timeZone, library } = useSurroundings();
  const exports = useExports();
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      <h1 className="mb-1 font-condensed text-xl">Exports</h1>
      <p className="mb-3 text-soft">
        Archives that you asked for. Each is kept for {counted(library.exportDays, 'day')}, and only you can fetch it.
      </p>
      {exports?.length === 0 && (
        <p className="rounded-sm border border-line bg-sheet px-4 py-6 text-soft">
          None. Pick papers up anywhere, or open the menu of a place, and choose Export.
        </p>
      )}
      <ul className="rounded-sm border border-line bg-sheet empty:hidden">
        {exports?.map((found) => (
          <li key={found.id} className="border-b border-line px-4 py-2.5 last:border-0">
            <div className="mb-1 flex items-baseline gap-3">
              <span className="font-medium">{found.name}</span>
              <time
                className="ml-auto text-sm text-soft"
                dateTime={found.askedAt}
                title={momentInWords(found.askedAt, timeZone)}
              >
                {whenInWords(found.askedAt, now, timeZone)}
              </time>
            </div>
            <ExportState found={found} />
          </li>
        ))}
      </ul>
    </main>
  );
}
