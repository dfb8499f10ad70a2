import { sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { sqlState } from './sqlState';
import { actingDb, askingDb, runningTransaction, type RunningTransaction, type Tx } from './client';

/**
 * What the library works out from what people say, and stores: who belongs to which group and who is a keeper; where places
 * stand (lineages, years, names, closed and locked); who may do what where (scopes); what places give and papers show. In the
 * order in which they are locked.
 */
export const derived = ['people', 'tree', 'access', 'given'] as const;
export type Derived = (typeof derived)[number];

/** Advisory lock numbers; the journal's is the last that any transaction takes (`journal/append.ts`). */
const lockNumbers: Readonly<Record<Derived, number>> = {
  people: 7_301_011,
  tree: 7_301_012,
  access: 7_301_013,
  given: 7_301_014,
};

/** A deadlock (40P01) or a serialization failure (40001) is tried again this often, from the beginning. */
const mostAttempts = 6;
const firstPauseMs = 15;

const changing = new WeakMap<Tx, ReadonlySet<Derived>>();

/**
 * Runs work in a transaction. Before anything is read it takes all derived data: for itself what `changes` names, shared with
 * others the rest. So whatever the work reads of them holds until it commits, and who changes them changes them for everything
 * that is there. Then come rows (places before papers, in the order of their ids), and the journal last.
 *
 * The work may run several times: it must leave nothing behind outside the transaction.
 * @throws Refusal `conflict` where others were in the way each time.
 */
export function transaction<T>(changes: readonly Derived[], work: (tx: Tx) => Promise<T>): Promise<T> {
  return untilThrough(changes, work);
}

/** The same for work that reads and changes nothing derived, such as counting tries at the door: no act is waited for. */
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
      // What was begun within it and goes on by itself takes a connection of its own from here on.
      running.tx = null;
    });
}

/** One statement, whose locks are taken from left to right. */
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
 * Holds the writers of derived data to the protocol.
 * @throws Error where the transaction did not say that it changes this.
 */
export function requireChanging(tx: Tx, what: Derived): void {
  if (!changing.get(tx)?.has(what)) throw new Error(`An act changes “${what}” and did not say so`);
}

/** Runs questions that have to see one moment: nothing is locked, and nothing can be changed. */
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

/** Whether the calling code runs in a transaction that may hold rows for itself. */
export function isActing(): boolean {
  const running = runningTransaction().getStore();
  return running?.acts === true && running.tx !== null;
}
