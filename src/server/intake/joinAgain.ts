import { eq, inArray } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { removeUnneeded } from '../blobs/remove';
import type { Tx } from '../db/client';
import { arrival } from '../db/schema';

/** Takes away the papers that a scan was taken apart into, so that it waits again as it came. */
export async function joinAgain(tx: Tx, found: { readonly id: string }): Promise<void> {
  const parts = await tx.select().from(arrival).where(eq(arrival.partOf, found.id)).for('update');
  if (parts.some(({ state }) => state === 'filed' || state === 'cut'))
    refuse('conflict', 'Some of its papers are seen to already. Have those checked again first.');
  if (parts.length > 0)
    await tx.delete(arrival).where(
      inArray(
        arrival.id,
        parts.map(({ id }) => id),
      ),
    );
  await removeUnneeded(
    tx,
    parts.map(({ sha256 }) => sha256),
  );
}
