/** Where a common folder is shown: in each dossier itself, or in each dossier's folder for a planned folder, given by id. */
export const inDossier = 'dossier';

/** The words that mark a common folder. */
export function commonInWords(dossiers: number): string {
  if (dossiers === 0) return 'common to all dossiers';
  return dossiers === 1 ? 'common to its one dossier' : `common to all ${dossiers.toLocaleString('en-GB')}`;
}

/** The address of a place; with `withinId`, as seen through that dossier. */
export const placeAddress = (placeId: string, withinId: string | null = null): string =>
  `/place/${placeId}${withinId === null ? '' : `?in=${withinId}`}`;
