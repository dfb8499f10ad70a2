'use client';

import { useState } from 'react';
import type { ArrivalPlace } from '@/core/intake/contract';
import type { PlaceChoice } from '@/core/places/contract';

type Chosen = Pick<PlaceChoice, 'id' | 'path'>;

/** Where an arrival goes: to one of the places that are proposed, or to another. */
export function useTarget(places: readonly ArrivalPlace[]) {
  const [other, setOther] = useState<Chosen | null>(null);
  const [at, setAt] = useState(0);
  const proposed = places[at];
  const chosen: Chosen | null = other ?? (proposed ? { id: proposed.placeId, path: proposed.path } : null);
  return { chosen, other, setOther, at, setAt };
}

/** Where an arrival goes. */
export type Target = ReturnType<typeof useTarget>;
