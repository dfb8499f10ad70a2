import type { ReactNode } from 'react';
import type { PlacePage } from '@/core/places/model';

/** The parts around a place's front page. */
export interface FrontProps {
  readonly page: PlacePage;
  readonly where: ReactNode;
  /** The strip and the tabs above. */
  readonly head: ReactNode;
  readonly placeDocket: ReactNode;
}
