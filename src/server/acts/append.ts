import { sql } from 'drizzle-orm';
import { chainStart, sealedText } from '@/core/journal/chain';
import { storedDetail, type JournalEvent } from '@/core/journal/events';
import { refuse } from '@/core/errors/refusal';
import type { Actor } from '../gate/actor';
import type { Tx } from '../db/client';
import { journal, person } from '../db/schema';
import { now } from '../base/clock';
import { sha256Hex } from '../base/sha256';

/** The advisory lock held while an entry is appended, so that no two entries follow the same one. The number is arbitrary. */
const chainLock = 7_301_001;

/**
 * Appends an entry to the chain, as the last step of an act's transaction: acts run concurrently and queue only for this
 * insert. Refuses if the caller has meanwhile been switched off or is no longer a keeper; the lock on `people`, held
 * since the act began, keeps that true until the commit.
 * @param by null for what the library does by itself, as its settings say
 */
export async function appendToJournal(
  tx: Tx,
  by: Pick<Actor, 'personId' | 'keeper' | 'narrowed'> | null,
  entry: JournalEvent,
): Promise<number> {
  const personId = by?.personId ?? null;
  await tx.execute(sql`select pg_advisory_xact_lock(${chainLock})`);
  const { rows } = await tx.execute<{ hash: string | null; active: boolean | null; keeper: boolean | null }>(sql`
    select (select ${journal.hash} from ${journal} order by ${journal.id} desc limit 1) as hash, ${person.active}, ${person.keeper}
    from (values (1)) as one left join ${person} on ${person.id} = ${personId}::uuid`);
  const [found] = rows;
  if (by && found?.active !== true) refuse('signed-out');
  if ((by?.keeper || by?.narrowed?.everywhere === true) && found?.keeper !== true)
    refuse('not-allowed', 'You are no keeper any more. Nothing was changed.');
  const previousHash = found?.hash ?? chainStart;
  const at = now();
  const { act, subjects } = entry;
  const detail = storedDetail(entry);
  const hash = sha256Hex(sealedText(previousHash, { at: at.toISOString(), personId, act, subjects, detail }));
  const [row] = await tx
    .insert(journal)
    .values({ at, personId, act, subjects: [...subjects], detail, previousHash, hash })
    .returning({ id: journal.id });
  if (!row) throw new Error('The journal took no entry');
  return row.id;
}
