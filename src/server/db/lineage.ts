import { sql, type SQL, type SQLWrapper } from 'drizzle-orm';
import { dossierDepth } from '@/core/tree/lineage';

/** The dossier in a lineage column, or whatever is in its position. A constant, so that the index on it is used. */
export const dossierOf = (lineage: SQLWrapper): SQL => sql`${lineage}[${sql.raw(String(dossierDepth + 1))}]`;
