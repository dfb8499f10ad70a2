import PgBoss from 'pg-boss';
import { z } from 'zod';
import { config } from '../base/config';
import type { Tx } from '../db/client';

const sha256Schema = z.string().regex(/^[0-9a-f]{64}$/u);

/** The kinds of job, and the data of each. */
export const jobs = {
  /** Reading some content. */
  read: z.object({ sha256: sha256Schema }),
  /** Recognising what is written in pictures of pages (OCR), which takes seconds a page and must not keep others waiting. */
  ocr: z.object({ sha256: sha256Schema }),
} as const;
export type JobName = keyof typeof jobs;

const held = globalThis as typeof globalThis & { embrinQueue?: Promise<PgBoss> };

async function start(): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: config().DATABASE_URL, max: 3, application_name: 'embrin-queue' });
  // The queue's own pool reconnects when the database restarts.
  boss.on('error', () => undefined);
  await boss.start();
  for (const name of Object.keys(jobs)) await boss.createQueue(name);
  return boss;
}

/** The queue, started on first use. It is stored in PostgreSQL and gives each job to one worker (`skip locked`). */
export function queue(): Promise<PgBoss> {
  held.embrinQueue ??= start().catch((error: unknown) => {
    delete held.embrinQueue;
    throw error;
  });
  return held.embrinQueue;
}

/**
 * Adds jobs as part of a transaction, so that they exist only if the act is committed.
 * @param priority of each: the greatest goes first, and those of one priority in their order
 */
export async function enqueue<N extends JobName>(
  tx: Tx,
  name: N,
  all: readonly (typeof jobs)[N]['_output'][],
  priority: (index: number) => number = () => 0,
): Promise<void> {
  const boss = await queue();
  const client = rawClient(tx);
  await boss.insert(
    all.map((data, index) => ({ name, data, priority: priority(index), retryLimit: 3, retryDelay: 5 })),
    { db: { executeSql: (text, values) => client.query(text, values) } },
  );
}

interface RawClient {
  query(text: string, values: unknown[]): Promise<{ rows: unknown[] }>;
}

/** The driver's client beneath a transaction, for the queue library's own SQL. */
function rawClient(tx: Tx): RawClient {
  const { session } = tx as unknown as { session: { client: RawClient } };
  return session.client;
}

/** Stops taking jobs, and waits for those that run. */
export async function stopQueue(): Promise<void> {
  const running = held.embrinQueue;
  delete held.embrinQueue;
  await (await running)?.stop({ graceful: true, wait: true, timeout: 10_000 });
}
