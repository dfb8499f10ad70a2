import { inArray, lt, sql } from 'drizzle-orm';
import { now } from '../base/clock';
import { blobChunk, upload } from '../db/schema';
import { apart } from '../db/transaction';

/** How long an interrupted upload can be resumed. */
const keptDays = 7;

/** Deletes uploads that were not resumed, and records of old ones that were filed. Returns how many. */
export async function sweepUploads(): Promise<number> {
  const before = new Date(now().getTime() - keptDays * 86_400_000);
  return apart(async (tx) => {
    const gone = await tx
      .delete(upload)
      .where(lt(upload.updatedAt, before))
      .returning({ contentId: upload.contentId, state: sql<string | null>`${upload.outcome} ->> 'state'` });
    const unfiled = gone.filter((row) => row.state !== 'filed').map((row) => row.contentId);
    if (unfiled.length > 0) await tx.delete(blobChunk).where(inArray(blobChunk.contentId, unfiled));
    return gone.length;
  });
}
