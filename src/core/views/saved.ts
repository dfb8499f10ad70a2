import type { ViewSpec } from './spec';

export const audiences = ['me', 'groups', 'all'] as const;
/** For whom a view is: its owner, the members of some groups, or all who may see the place. */
export type Audience = (typeof audiences)[number];

/** A saved view as the tabs of a place show it. */
export interface SavedView {
  readonly id: string;
  readonly placeId: string;
  readonly placeName: string;
  readonly name: string;
  readonly purpose: string;
  readonly audience: Audience;
  readonly groupIds: readonly string[];
  readonly spec: ViewSpec;
  readonly opensHere: boolean;
  readonly ownerName: string;
  readonly revision: number;
  /** Whether the asker may change it. */
  readonly mayChange: boolean;
  /** How many people it is for besides the asker. */
  readonly others: number;
}

/**
 * The view that opens a place by itself: of those that say so the nearest on the way up, and at one place the
 * person's own before their groups' before everyone's. `views` come with the places they are saved on, `lineage` runs
 * from the library down to the place.
 */
export function openingView<T extends Pick<SavedView, 'placeId' | 'audience' | 'opensHere'>>(
  views: readonly T[],
  lineage: readonly string[],
): T | null {
  const opening = views.filter((each) => each.opensHere);
  for (const placeId of lineage.toReversed()) {
    for (const audience of audiences) {
      const found = opening.find((each) => each.placeId === placeId && each.audience === audience);
      if (found) return found;
    }
  }
  return null;
}
