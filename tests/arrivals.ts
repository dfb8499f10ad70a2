/** What arrives in tests: a folder of its own for it, and what the worker does with it, here and now. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { eq } from 'drizzle-orm';
import { db } from '@/server/db/client';
import { arrival, attachment } from '@/server/db/schema';
import { readStages } from '@/server/extraction/read';
import { proposeNext } from '@/server/intake/propose';

/** Has what has arrived read, and proposals made for it. @param mayOcr whether pictures may be read, which is slow */
export async function readArrivals(mayOcr = false): Promise<void> {
  for (const { sha256 } of await db().select().from(arrival).where(eq(arrival.state, 'unread'))) {
    await readStages(sha256, mayOcr);
    for (const each of await db().select().from(attachment).where(eq(attachment.mailSha256, sha256)))
      await readStages(each.sha256, mayOcr);
  }
  while (await proposeNext());
}

/** A folder for arrivals of a test file’s own, until it is removed. */
export async function arrivalsFolder(): Promise<{ readonly folder: string; remove(): Promise<void> }> {
  const before = process.env['EMBRIN_ARRIVALS'];
  const folder = await mkdtemp(path.join(tmpdir(), 'embrin-arrivals-'));
  process.env['EMBRIN_ARRIVALS'] = folder;
  return {
    folder,
    remove: async () => {
      process.env['EMBRIN_ARRIVALS'] = before;
      await rm(folder, { recursive: true, force: true });
    },
  };
}
