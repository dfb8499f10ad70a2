import { AsyncLocalStorage } from 'node:async_hooks';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { Pool } from 'pg';
import { config } from '../base/config';
import * as schema from './schema';

export type Db = NodePgDatabase<typeof schema>;
export type Tx = Parameters<Parameters<Db['transaction']>[0]>[0];
/** Either the pool or a transaction: what a query that only reads takes. */
export type Reader = Db | Tx;

interface Connections {
  /** Questions take theirs from here: none of them waits for an act that waits for another act. */
  readonly asking: Pool;
  readonly acting: Pool;
  readonly db: Db;
  readonly actingDb: Db;
}

// One set of pools a process, also where a bundler has loaded this module more than once.
const held = globalThis as typeof globalThis & {
  embrinConnections?: Connections;
  embrinTransaction?: AsyncLocalStorage<RunningTransaction>;
};

function poolOf(max: number): Pool {
  const pool = new Pool({
    connectionString: config().DATABASE_URL,
    max,
    connectionTimeoutMillis: 5000,
    idleTimeoutMillis: 30_000,
  });
  // A server that restarts ends idle connections; the pool makes new ones, and the process goes on.
  pool.on('error', () => undefined);
  return pool;
}

function connect(): Connections {
  const [asking, acting] = [poolOf(8), poolOf(8)];
  const options = { schema, casing: 'snake_case' } as const;
  return { asking, acting, db: drizzle(asking, options), actingDb: drizzle(acting, options) };
}

function connections(): Connections {
  held.embrinConnections ??= connect();
  return held.embrinConnections;
}

/** The transaction in which the calling code runs. */
export interface RunningTransaction {
  /** Null before it has begun and once it has ended. */
  tx: Tx | null;
  /** False for one that only reads. */
  readonly acts: boolean;
}

/** Carries the running transaction along its asynchronous calls. */
export function runningTransaction(): AsyncLocalStorage<RunningTransaction> {
  held.embrinTransaction ??= new AsyncLocalStorage();
  return held.embrinTransaction;
}

/**
 * What a query runs on: the transaction that the caller is in, else a connection of the pool. Within a transaction no
 * second connection is ever asked for, so that no number of them side by side can wait for each other.
 */
export const db = (): Reader => runningTransaction().getStore()?.tx ?? connections().db;

/** Where transactions begin: only `db/transaction.ts` begins them. */
export const actingDb = (): Db => connections().actingDb;

/** The connections for questions, past any transaction: for what a library or a stream runs by itself. */
export const askingDb = (): Db => connections().db;

export const pool = (): Pool => connections().asking;

/** Ends the pools, so that a script's process can end. */
export async function disconnect(): Promise<void> {
  const open = held.embrinConnections;
  delete held.embrinConnections;
  await Promise.all([open?.asking.end(), open?.acting.end()]);
}
