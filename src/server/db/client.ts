import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { Pool } from 'pg';
import { config } from '../config';
import * as schema from './schema';

export type Db = NodePgDatabase<typeof schema>;
export type Tx = Parameters<Parameters<Db['transaction']>[0]>[0];
/** Either the pool or a transaction: what a query that only reads takes. */
export type Reader = Db | Tx;

interface Connections {
  pool: Pool;
  db: Db;
}

// One pool a process, also where a bundler has loaded this module more than once.
const held = globalThis as typeof globalThis & { embrinConnections?: Connections };

function connect(): Connections {
  const pool = new Pool({
    connectionString: config().DATABASE_URL,
    max: 12,
    connectionTimeoutMillis: 5000,
    idleTimeoutMillis: 30_000,
  });
  // A server that restarts ends idle connections; the pool makes new ones, and the process goes on.
  pool.on('error', () => undefined);
  return { pool, db: drizzle(pool, { schema, casing: 'snake_case' }) };
}

function connections(): Connections {
  held.embrinConnections ??= connect();
  return held.embrinConnections;
}

export const db = (): Db => connections().db;
export const pool = (): Pool => connections().pool;

/** Ends the pool, so that a script's process can end. */
export async function disconnect(): Promise<void> {
  const open = held.embrinConnections;
  delete held.embrinConnections;
  await open?.pool.end();
}
