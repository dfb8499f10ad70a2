import type { Capability } from '../access/capability';
import type { Standstill } from '../standstill/standstill';

import type { Hue } from '../text/hue';
import type { PlaceKind } from '../tree/placeKind';

/** A place as lists show it. Counts are of what the asking person may see. */
export interface PlaceRow {
  readonly id: string;
  readonly parentId: string | null;
  readonly kind: PlaceKind;
  readonly name: string;
  readonly reference: string | null;
  /** The year in which the filing year starts, for a year and everything below one. */
  readonly filingYear: number | null;
  readonly colour: Hue | null;
  readonly closed: boolean;
  readonly locked: boolean;
  /** Papers here and in everything below. */
  readonly paperCount: number;
  /**
   * Of a folder that is kept once for its series and seen in every dossier: in how many of those that the asker may see;
   * null for every other place.
   */
  readonly commonTo: number | null;
  /** Present only as a step to something below: nothing in it is shown. */
  readonly bareStep: boolean;
  readonly revision: number;
}

/** A place with all that its page needs besides the papers. */
export interface PlacePage {
  readonly place: PlaceRow & {
    readonly referencePattern: string | null;
    /** The day of the meeting whose folder it is, ISO 8601. */
    readonly meetingDay: string | null;
    readonly createdAt: string;
    readonly createdBy: string;
  };
  /** The dossier through which a common folder, or what lies in one, is looked at; null where it is looked at by itself. */
  readonly withinId: string | null;
  /** From the series down to the place's parent, by way of that dossier; the library itself is left out. */
  readonly path: readonly { readonly id: string; readonly name: string; readonly kind: PlaceKind }[];
  /** The places directly in it, in the keeper's order. */
  readonly children: readonly PlaceRow[];
  /** What may be done at this moment. */
  readonly capabilities: readonly Capability[];
  /** What a place above holds still here too. */
  readonly stillAbove: Standstill;
  /** How many people may see it, and from which place that follows (null: granted here). */
  readonly openTo: number | null;
  readonly followsName: string | null;
}
