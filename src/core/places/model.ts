import type { Capability } from '../access/capability';
import type { Standstill } from '../standstill/standstill';

import type { Hue } from '../text/hue';
import type { PlaceKind } from '../tree/placeKind';

/** A place as lists show it. Counts include only what the caller may see. */
export interface PlaceRow {
  readonly id: string;
  readonly parentId: string | null;
  readonly kind: PlaceKind;
  readonly name: string;
  readonly reference: string | null;
  /** The first calendar year of the filing year, for a year and everything below. */
  readonly filingYear: number | null;
  readonly colour: Hue | null;
  readonly closed: boolean;
  readonly locked: boolean;
  /** Papers here and below. */
  readonly paperCount: number;
  /**
   * For a common folder: in how many dossiers, of those the caller may see, it is shown; null for other places.
   */
  readonly commonTo: number | null;
  /** Shown only as a step to something below: the caller sees nothing else in it. */
  readonly bareStep: boolean;
  readonly revision: number;
}

/** A place with everything its page needs except the papers. */
export interface PlacePage {
  readonly place: PlaceRow & {
    readonly referencePattern: string | null;
    /** For a meeting's folder: the day of the meeting, ISO 8601. */
    readonly meetingDay: string | null;
    readonly createdAt: string;
    readonly createdBy: string;
  };
  /** The dossier through which a common folder, or a place in one, is viewed; null if viewed directly. */
  readonly withinId: string | null;
  /** The path from the series to the place's parent, through that dossier. */
  readonly path: readonly { readonly id: string; readonly name: string; readonly kind: PlaceKind }[];
  /** The places directly in it, in the keeper's order. */
  readonly children: readonly PlaceRow[];
  /** What the caller may do now. */
  readonly capabilities: readonly Capability[];
  /** Locks and closing inherited from places above. */
  readonly stillAbove: Standstill;
  /** How many people may see it (null: not told), and from which place that is inherited (null: set here). */
  readonly openTo: number | null;
  readonly followsName: string | null;
}
