import { useEffect } from 'react';
import { call } from '../server/call';
import { useSurroundings } from '../surroundings/Surroundings';

/**
 * Records a visit to a place, for the condition "since I last looked"; null records none. Nor does impersonating someone.
 * The page does without it where it fails.
 */
export function useLook(placeId: string | null): void {
  const { seenBy } = useSurroundings();
  useEffect(() => {
    if (placeId !== null && seenBy === null) call('place.look', { placeId }).catch(() => undefined);
  }, [placeId, seenBy]);
}
