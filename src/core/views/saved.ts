import type { ViewSpec } from './spec';

/** Whom a saved view can be for. */
export const audiences = ['me', 'groups', 'all'] as const;
/** Whom a view is for: its owner, the members of some groups, or everyone who may see the place. */
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
  /** Whether the caller may change it. */
  readonly mayChange: boolean;
  /** How many people other than the caller it is for. */
  readonly others: number;
}

/**
 * The default view of a place: among those set to open by default the nearest upwards, and at one place the person's own
 * before their groups' before everyone's. `lineage` runs from the library to the place.
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
