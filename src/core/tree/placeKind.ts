export const placeKinds = ['library', 'series', 'dossier', 'year', 'folder'] as const;
export type PlaceKind = (typeof placeKinds)[number];

/** How many steps a place may lie below the library. */
export const maxDepth = 32;

/** Which kinds may stand directly in which. A year stands in a dossier only, so no year holds a year. */
const mayStandIn: Record<PlaceKind, readonly PlaceKind[]> = {
  library: [],
  series: ['library'],
  dossier: ['series'],
  year: ['dossier'],
  folder: ['series', 'dossier', 'year', 'folder'],
};

export const mayHold = (holder: PlaceKind, held: PlaceKind): boolean => mayStandIn[held].includes(holder);

/** Papers are filed anywhere but in the library itself: on the bare library nobody would find them. */
export const mayHoldPapers = (kind: PlaceKind): boolean => kind !== 'library';
