import { desc, sql } from 'drizzle-orm';
import { chainStart, sealedText } from '@/core/journal/chain';
import type { JournalAct, JournalDetail } from '@/core/journal/model';
import type { Tx } from '../db/client';
import { journal } from '../db/schema';
import { now } from '../clock';
import { sha256Hex } from '../sha256';

/** What an act leaves behind. `subjects` are the ids of the places, papers and people it touched. */
export interface JournalEntry {
  readonly act: JournalAct;
  readonly subjects: readonly string[];
  readonly detail: JournalDetail;
}

/** Held while the chain grows, so that two acts never follow the same entry. Any number no one else uses. */
const chainLock = 7_301_001;

/**
 * Adds an entry to the chain, as the last step of an act's transaction: acts run side by side until here and
 * queue only for this insert.
 */
export async function appendToJournal(tx: Tx, personId: string | null, entry: JournalEntry): Promise<number> {
  await tx.execute(sql`select pg_advisory_xact_lock(${chainLock})`);
  const [last] = await tx.select({ hash: journal.hash }).from(journal).orderBy(desc(journal.id)).limit(1);
  const previousHash = last?.hash ?? chainStart;
  const at = now();
  const { act, subjects, detail } = entry;
  const hash = sha256Hex(sealedText(previousHash, { at: at.toISOString(), personId, act, subjects, detail }));
  const [row] = await tx
    .insert(journal)
    .values({ at, personId, act, subjects: [...subjects], detail, previousHash, hash })
    .returning({ id: journal.id });
  if (!row) throw new Error('The journal took no entry');
  return row.id;
}
