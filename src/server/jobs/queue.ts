import PgBoss from 'pg-boss';
import { z } from 'zod';
import { config } from '../base/config';
import type { Tx } from '../db/client';

/** The kinds of long work, and what each is told. */
export const jobs = {
  preview: z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/u) }),
} as const;
export type JobName = keyof typeof jobs;

const held = globalThis as typeof globalThis & { embrinQueue?: Promise<PgBoss> };

async function start(): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: config().DATABASE_URL, max: 3, application_name: 'embrin-queue' });
  // Its own pool loses connections when the database restarts, and makes new ones.
  boss.on('error', () => undefined);
  await boss.start();
  for (const name of Object.keys(jobs)) await boss.createQueue(name);
  return boss;
}

/** The queue, started on first use. It lives in PostgreSQL and gives each job to one worker (`skip locked`). */
export function queue(): Promise<PgBoss> {
  held.embrinQueue ??= start().catch((error: unknown) => {
    delete held.embrinQueue;
    throw error;
  });
  return held.embrinQueue;
}

/** Puts work into the queue as part of a transaction: it is there if, and only if, the act is. */
export async function enqueue<N extends JobName>(tx: Tx, name: N, data: (typeof jobs)[N]['_output']): Promise<void> {
  const boss = await queue();
  const client = rawClient(tx);
  await boss.send(name, data, {
    retryLimit: 3,
    retryDelay: 5,
    db: { executeSql: (text, values) => client.query(text, values) },
  });
}

interface RawClient {
  query(text: string, values: unknown[]): Promise<{ rows: unknown[] }>;
}

/** The driver's own client beneath a transaction: the queue library writes its SQL itself. */
function rawClient(tx: Tx): RawClient {
  const { session } = tx as unknown as { session: { client: RawClient } };
  return session.client;
}

export async function stopQueue(): Promise<void> {
  const running = held.embrinQueue;
  delete held.embrinQueue;
  await (await running)?.stop({ graceful: true, wait: true, timeout: 10_000 });
}
