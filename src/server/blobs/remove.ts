import { and, inArray, sql } from 'drizzle-orm';
import type { Tx } from '../db/client';
import { requireChanging } from '../db/transaction';
import { arrival, attachment, blob, packCopy, packIssue, version } from '../db/schema';
import { storeOf } from './content';

/**
 * Removes content that no version of any paper, no arrival and no pack has, and no mail has attached; with a mail, the same of what was attached to
 * it. With it goes all that was read in it. A file of the directory goes with the next sweep.
 * The transaction has to have declared that it changes the content there is.
 * @param contents by SHA-256: where to look, and not what to remove
 */
export async function removeUnneeded(tx: Tx, contents: readonly string[]): Promise<void> {
  requireChanging(tx, 'content');
  for (let some = contents; some.length > 0;) {
    const attached = await tx
      .select({ mail: attachment.mailSha256, sha256: attachment.sha256 })
      .from(attachment)
      .where(inArray(attachment.mailSha256, [...some]));
    const gone = await tx
      .delete(blob)
      .where(
        and(
          inArray(blob.sha256, [...some]),
          sql`not exists (select from ${version} where ${version.sha256} = ${blob.sha256})`,
          sql`not exists (select from ${arrival} where ${arrival.sha256} = ${blob.sha256})`,
          sql`not exists (select from ${packIssue} where ${packIssue.sha256} = ${blob.sha256})`,
          sql`not exists (select from ${packCopy} where ${packCopy.sha256} = ${blob.sha256})`,
          sql`not exists (select from ${attachment} where ${attachment.sha256} = ${blob.sha256})`,
        ),
      )
      .returning({ sha256: blob.sha256, store: blob.store, contentId: blob.contentId });
    for (const { store, contentId } of gone) await storeOf(store).forget(tx, contentId);
    const removed = new Set(gone.map(({ sha256 }) => sha256));
    some = [...new Set(attached.flatMap(({ mail, sha256 }) => (removed.has(mail) ? [sha256] : [])))];
  }
}
