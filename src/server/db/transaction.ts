import { sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { sqlState } from './sqlState';
import { actingDb, askingDb, runningTransaction, type RunningTransaction, type Tx } from './client';

/**
 * The kinds of derived data, in the order in which they are locked: memberships and who is a keeper; the tree (lineages,
 * years, names, closed and locked places); access (scopes); given and shown values. And, though it is not derived, the content
 * there is: while an act files what is kept already, nobody destroys it.
 */
export const derived = ['people', 'tree', 'access', 'given', 'content'] as const;
export type Derived = (typeof derived)[number];

/** Advisory lock numbers. The journal's lock is always taken last (`acts/append.ts`). */
const lockNumbers: Readonly<Record<Derived, number>> = {
  people: 7_301_011,
  tree: 7_301_012,
  access: 7_301_013,
  given: 7_301_014,
  content: 7_301_015,
};

/** Attempts in all at a transaction that ends in a deadlock (40P01) or serialization failure (40001). */
const mostAttempts = 6;
const firstPauseMs = 15;

const changing = new WeakMap<Tx, ReadonlySet<Derived>>();

/**
 * Runs work in a transaction. Before anything is read it locks all derived data: exclusively what `changes` names, shared
 * the rest. So whatever the work reads of it stays true until the commit, and a writer of derived data covers every row
 * there is. Rows are locked next (places before papers, by id), the journal last.
 *
 * The work may run several times, so it must have no effect outside the transaction.
 * @throws Refusal `conflict` if every attempt failed.
 */
export function transaction<T>(changes: readonly Derived[], work: (tx: Tx) => Promise<T>): Promise<T> {
  return untilThrough(changes, work);
}

/** Runs work that neither reads nor changes derived data, such as counting sign-in attempts, without those locks. */
export function apart<T>(work: (tx: Tx) => Promise<T>): Promise<T> {
  return untilThrough(null, work);
}

async function untilThrough<T>(changes: readonly Derived[] | null, work: (tx: Tx) => Promise<T>): Promise<T> {
  if (runningTransaction().getStore()?.tx) throw new Error('A transaction was begun inside another');
  for (let attempt = 1; ; attempt += 1) {
    try {
      return await once(changes, work);
    } catch (error) {
      if (!isInTheWay(error)) throw error;
      if (attempt === mostAttempts)
        refuse('conflict', 'Others were changing the same things at the same moment. Nothing was changed. Repeat it.');
      await pause(firstPauseMs * 2 ** attempt * (0.5 + Math.random()));
    }
  }
}

function once<T>(changes: readonly Derived[] | null, work: (tx: Tx) => Promise<T>): Promise<T> {
  const running: RunningTransaction = { tx: null, acts: true };
  return actingDb()
    .transaction(async (tx) => {
      changing.set(tx, new Set(changes));
      if (changes) await tx.execute(lockStatement(changes));
      running.tx = tx;
      return runningTransaction().run(running, () => work(tx));
    })
    .finally(() => {
      // Calls that were started within the transaction and continue after it use the pool from here on.
      running.tx = null;
    });
}

/** One statement that takes the locks from left to right. */
function lockStatement(changes: readonly Derived[]) {
  const locks = derived.map((each) =>
    changes.includes(each)
      ? sql`pg_advisory_xact_lock(${lockNumbers[each]})`
      : sql`pg_advisory_xact_lock_shared(${lockNumbers[each]})`,
  );
  return sql`select ${sql.join(locks, sql`, `)}`;
}

const isInTheWay = (error: unknown): boolean => ['40P01', '40001'].includes(sqlState(error) ?? '');

const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/**
 * Checks that a writer of derived data runs in a transaction that declared it.
 * @throws Error if the transaction did not declare that it changes this.
 */
export function requireChanging(tx: Tx, what: Derived): void {
  if (!changing.get(tx)?.has(what)) throw new Error(`An act changes “${what}” and did not say so`);
}

/** Runs queries in one read-only snapshot, without locks. */
export function snapshot<T>(work: (tx: Tx) => Promise<T>): Promise<T> {
  const running: RunningTransaction = { tx: null, acts: false };
  return askingDb()
    .transaction(
      (tx) => {
        running.tx = tx;
        return runningTransaction().run(running, () => work(tx));
      },
      { isolationLevel: 'repeatable read', accessMode: 'read only' },
    )
    .finally(() => {
      running.tx = null;
    });
}

/** Whether the calling code runs in any transaction. */
export const isInTransaction = (): boolean => (runningTransaction().getStore()?.tx ?? null) !== null;

/** Whether the calling code runs in a transaction that may lock rows. */
export function isActing(): boolean {
  const running = runningTransaction().getStore();
  return running?.acts === true && running.tx !== null;
}
