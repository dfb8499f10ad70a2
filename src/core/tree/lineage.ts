/** Positions in a lineage, which runs from the library (0) down: a series is below the library, a dossier below a series. */
export const seriesDepth = 1;
/** Where a lineage has its dossier: the library is 0, the series 1. */
export const dossierDepth = 2;

/** The series a place belongs to, by its lineage; null for the library itself. */
export const seriesIn = (lineage: readonly string[]): string | null => lineage[seriesDepth] ?? null;
/** The dossier a place belongs to, by its lineage; null above dossiers. */
export const dossierIn = (lineage: readonly string[]): string | null => lineage[dossierDepth] ?? null;
