import { AsyncLocalStorage } from 'node:async_hooks';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { Pool } from 'pg';
import { config } from '../base/config';
import { PlanKeepingClient } from './plannedOnce';
import * as schema from './schema';

/** The database outside any transaction. */
export type Db = NodePgDatabase<typeof schema>;
/** A transaction. */
export type Tx = Parameters<Parameters<Db['transaction']>[0]>[0];
/** The pool or a transaction: what queries that only read take. */
export type Reader = Db | Tx;

interface Connections {
  /** Connections for questions, so that none of them waits behind acts that wait for each other. They refuse writing. */
  readonly asking: Pool;
  readonly acting: Pool;
  /** Connections for single statements that write outside any act: pieces of uploads, sessions (also read here by their
   * library), what was looked at. */
  readonly noting: Pool;
  readonly db: Db;
  readonly actingDb: Db;
  readonly writableDb: Db;
}

// One set of pools per process, even if a bundler has loaded this module more than once.
const held = globalThis as typeof globalThis & {
  embrinConnections?: Connections;
  embrinTransaction?: AsyncLocalStorage<RunningTransaction>;
};

function poolOf(max: number, options?: string): Pool {
  const pool = new Pool({
    connectionString: config().DATABASE_URL,
    max,
    Client: PlanKeepingClient,
    ...(options === undefined ? {} : { options }),
    connectionTimeoutMillis: 5000,
    idleTimeoutMillis: 30_000,
  });
  // A database that restarts ends connections. The pool replaces idle ones; who uses one learns of it by their next
  // statement. Without listeners of ours either error would end the process.
  pool.on('error', () => undefined);
  pool.on('connect', (client) => client.on('error', () => undefined));
  return pool;
}

function connect(): Connections {
  const [asking, acting, noting] = [poolOf(8, '-c default_transaction_read_only=on'), poolOf(8), poolOf(8)];
  const options = { schema, casing: 'snake_case' } as const;
  return {
    asking,
    acting,
    noting,
    db: drizzle(asking, options),
    actingDb: drizzle(acting, options),
    writableDb: drizzle(noting, options),
  };
}

function connections(): Connections {
  held.embrinConnections ??= connect();
  return held.embrinConnections;
}

/** The transaction of the calling code. */
export interface RunningTransaction {
  /** Null before it begins and after it ends. */
  tx: Tx | null;
  /** False for a read-only transaction. */
  readonly acts: boolean;
}

/** Carries the running transaction through asynchronous calls. */
export function runningTransaction(): AsyncLocalStorage<RunningTransaction> {
  held.embrinTransaction ??= new AsyncLocalStorage();
  return held.embrinTransaction;
}

/**
 * What queries run on: the running transaction, or else the pool. A transaction never asks for a second connection, so
 * that no number of transactions can deadlock on the pool.
 */
export const db = (): Reader => runningTransaction().getStore()?.tx ?? connections().db;

/** The pool for transactions; only `db/transaction.ts` uses it. */
export const actingDb = (): Db => connections().actingDb;

/** The pool for questions, outside any transaction: for libraries and streams that run queries of their own. */
export const askingDb = (): Db => connections().db;

/**
 * For a single statement that writes outside any act: the running transaction, or else a pool of its own. What `db` runs
 * on outside a transaction refuses writing, so that no question can change anything.
 */
export const writableDb = (): Reader => runningTransaction().getStore()?.tx ?? connections().writableDb;

/** The same for libraries that run queries of their own, outside any transaction. */
export const writableOutside = (): Db => connections().writableDb;

/** The connections for questions, for statements of the driver. */
export const readingPool = (): Pool => connections().asking;

/** The connections for single statements that write, for statements of the driver. */
export const writingPool = (): Pool => connections().noting;

/** Closes the pools, so that a script can exit. */
export async function disconnect(): Promise<void> {
  const open = held.embrinConnections;
  delete held.embrinConnections;
  await Promise.all([open?.asking.end(), open?.acting.end(), open?.noting.end()]);
}
