import { eq } from 'drizzle-orm';
import { CagedFault } from '@/server/cage/limits';
import { db } from '@/server/db/client';
import { document, version } from '@/server/db/schema';
import { readStages } from '@/server/extraction/read';

/** The content of a paper's current version. */
export async function contentOf(documentId: string): Promise<string> {
  const [row] = await db()
    .select({ sha256: version.sha256 })
    .from(version)
    .innerJoin(document, eq(document.versionId, version.id))
    .where(eq(document.id, documentId));
  if (!row) throw new Error(`There is no paper ${documentId}`);
  return row.sha256;
}

/** Has a paper read here and now, and again where an attempt breaks off, as the worker does. Returns its content's name. */
export async function readPaper(documentId: string): Promise<string> {
  const sha256 = await contentOf(documentId);
  for (;;) {
    try {
      await readStages(sha256);
      return sha256;
    } catch (error) {
      // A stage is given up after its second attempt, so this ends.
      if (!(error instanceof CagedFault)) throw error;
    }
  }
}
