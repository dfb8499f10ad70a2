'use client';

import { Button } from '../kit/button';
import { stopSeeingAs } from '../access/seeAs';
import { useSurroundings } from '../surroundings/Surroundings';

/** Over everything, while someone looks at the library as another would: it cannot be missed, and leads back. */
export function SeenByBand() {
  const { me, seenBy } = useSurroundings();
  if (seenBy === null) return null;
  return (
    <div
      role="status"
      className="no-print flex min-h-[40px] shrink-0 flex-wrap items-center gap-3 border-y-2 border-ember bg-straw px-4 py-1 text-straw-ink"
    >
      <span className="flex-1">
        You see the library as <strong>{me.name}</strong> would. Nothing can be changed meanwhile, {seenBy}.
      </span>
      <Button look="main" onClick={stopSeeingAs}>
        Return to your own view
      </Button>
    </div>
  );
}
