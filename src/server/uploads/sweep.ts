import { lt, sql } from 'drizzle-orm';
import { storeOf } from '../blobs/content';
import { now } from '../base/clock';
import { upload } from '../db/schema';
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
      .returning({
        contentId: upload.contentId,
        store: upload.store,
        state: sql<string | null>`${upload.outcome} ->> 'state'`,
      });
    for (const { contentId, store, state } of gone) if (state !== 'filed') await storeOf(store).forget(tx, contentId);
    return gone.length;
  });
}
