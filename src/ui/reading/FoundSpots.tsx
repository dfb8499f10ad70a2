'use client';

import type { Source } from './source';
import { useSpots, type Find } from './useFind';

/** Marks where the phrase stands, over a page as it is drawn. */
export function FoundSpots({
  source,
  find,
  page,
}: {
  readonly source: Source;
  readonly find: Find;
  readonly page: number;
}) {
  const isOnPage = find.hits.some((hit) => hit.page === page);
  const found = useSpots(source, find.asked, page, find.asked !== '' && isOnPage);
  if (!isOnPage || find.asked === '') return null;
  return (
    <div aria-hidden className="pointer-events-none absolute inset-0">
      {found.map((spots, at) =>
        spots.map((spot, line) => (
          <span
            key={`${at}-${line}`}
            className={
              find.current?.page === page && find.current.at === at
                ? 'absolute bg-[#e0631f]/45 outline-2 outline-[#b3421b]'
                : 'absolute bg-[#e8b93c]/40'
            }
            style={{
              left: `${spot.left * 100}%`,
              top: `${spot.top * 100}%`,
              width: `${(spot.right - spot.left) * 100}%`,
              height: `${(spot.bottom - spot.top) * 100}%`,
            }}
          />
        )),
      )}
    </div>
  );
}
