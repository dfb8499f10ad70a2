/** The kinds of place, from the outermost. */
export const placeKinds = ['library', 'series', 'dossier', 'year', 'folder'] as const;
export type PlaceKind = (typeof placeKinds)[number];

/** The greatest depth of a place below the library. */
export const maxDepth = 32;

/** Which kinds may be direct children of which. A year is a child of a dossier only, so that no year contains a year. */
const mayStandIn: Record<PlaceKind, readonly PlaceKind[]> = {
  library: [],
  series: ['library'],
  dossier: ['series'],
  year: ['dossier'],
  folder: ['series', 'dossier', 'year', 'folder'],
};

/** Whether a place of one kind may hold one of another. */
export const mayHold = (holder: PlaceKind, held: PlaceKind): boolean => mayStandIn[held].includes(holder);

/** Papers can be filed anywhere except at the library's root. */
export const mayHoldPapers = (kind: PlaceKind): boolean => kind !== 'library';
