import type { ReactNode } from 'react';
import type { PlacePage } from '@/core/places/model';

/** What a page of a place's own gets: what stands around it, as around the place's papers. */
export interface FrontProps {
  readonly page: PlacePage;
  readonly where: ReactNode;
  /** The strip and the tabs above. */
  readonly head: ReactNode;
  readonly placeDocket: ReactNode;
}
