import { gt } from 'drizzle-orm';
import { chainStart, firstBreak } from '@/core/journal/chain';
import { db } from '../db/client';
import { journal } from '../db/schema';
import { sha256Hex } from '../sha256';

/** Walks the whole journal and says how many entries it has and, if the chain breaks, at which. */
export async function verifyJournal(): Promise<{ entries: number; brokenAt: number | null }> {
  let previous = chainStart;
  let last = 0;
  let entries = 0;
  for (;;) {
    const rows = await db().select().from(journal).where(gt(journal.id, last)).orderBy(journal.id).limit(2000);
    const end = rows.at(-1);
    if (!end) return { entries, brokenAt: null };
    const brokenAt = firstBreak(
      rows.map(({ at, ...row }) => ({ ...row, at: at.toISOString() })),
      sha256Hex,
      previous,
    );
    entries += rows.length;
    if (brokenAt !== null) return { entries, brokenAt };
    previous = end.hash;
    last = end.id;
  }
}
