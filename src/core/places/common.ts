/** Where a common folder is seen: in each dossier itself, or in what a planned folder, by its id, became there. */
export const inDossier = 'dossier';

/** What tells a common folder apart from the others beside it. */
export function commonInWords(dossiers: number): string {
  if (dossiers === 0) return 'common to all dossiers';
  return dossiers === 1 ? 'common to its one dossier' : `common to all ${dossiers.toLocaleString('en-GB')}`;
}

/** The address of a place; one that is seen by way of a dossier says so, and the way back is through that dossier. */
export const placeAddress = (placeId: string, withinId: string | null = null): string =>
  `/place/${placeId}${withinId === null ? '' : `?in=${withinId}`}`;
