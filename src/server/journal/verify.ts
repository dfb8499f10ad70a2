import { gt } from 'drizzle-orm';
import { chainStart, firstBreak } from '@/core/journal/chain';
import { db, type Reader } from '../db/client';
import { journal } from '../db/schema';
import { sha256Hex } from '../base/sha256';

/** Checks the whole journal: how many entries it has, and at which the chain breaks, if it does. */
export const verifyJournal = (): ReturnType<typeof journalState> => journalState(db());

/** The same within a transaction. `head` is the hash of the last entry before any break. */
export async function journalState(
  reader: Reader,
): Promise<{ entries: number; brokenAt: number | null; lastId: number; head: string }> {
  let previous = chainStart;
  let last = 0;
  let entries = 0;
  for (;;) {
    const rows = await reader.select().from(journal).where(gt(journal.id, last)).orderBy(journal.id).limit(2000);
    const end = rows.at(-1);
    if (!end) return { entries, brokenAt: null, lastId: last, head: previous };
    const brokenAt = firstBreak(
      rows.map(({ at, ...row }) => ({ ...row, at: at.toISOString() })),
      sha256Hex,
      previous,
    );
    entries += rows.length;
    if (brokenAt !== null) return { entries, brokenAt, lastId: last, head: previous };
    previous = end.hash;
    last = end.id;
  }
}
