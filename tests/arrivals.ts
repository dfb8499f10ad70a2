/** Has what has arrived read and proposals made for it, here and now, as the worker does. */
import { eq } from 'drizzle-orm';
import { db } from '@/server/db/client';
import { arrival, attachment } from '@/server/db/schema';
import { readStages } from '@/server/extraction/read';
import { proposeNext } from '@/server/intake/propose';

export async function readArrivals(): Promise<void> {
  for (const { sha256 } of await db().select().from(arrival).where(eq(arrival.state, 'unread'))) {
    await readStages(sha256, false);
    for (const each of await db().select().from(attachment).where(eq(attachment.mailSha256, sha256)))
      await readStages(each.sha256, false);
  }
  while (await proposeNext());
}
