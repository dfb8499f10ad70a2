import { setTimeout as wait } from 'node:timers/promises';
import { and, eq, or, sql } from 'drizzle-orm';
import { readingPriority, stagePrograms, stages } from '@/core/reading/stages';
import { CagedFault } from '../cage/limits';
import { db } from '../db/client';
import { blob, readingStage } from '../db/schema';
import { jobs, queue, type JobName } from '../jobs/queue';
import { logFault } from '../log/fault';
import { NeedsOcr } from './openContent';
import { readStages } from './read';

/** How often the queue is looked at while it is empty. */
const idleMs = 400;
/** When an attempt that failed is repeated: behind whatever waits by then. */
const againSeconds = 10;
/** OCR waits for everything else. */
const ocrPriority = -1000;
/** Fewer jobs than this wait: contents that an earlier program has read are added, so many at a time. */
const [fewWaiting, addedAtOnce] = [50, 500];

/** Loops that read until they are told to stop. Each takes one content at a time, the one that should be read next. */
export class ReadingLoops {
  #stopped = false;
  readonly #running: Promise<void>[] = [];

  start(name: JobName): void {
    this.#running.push(this.#loop(name));
  }

  /** Takes no further content, and waits for what is being read. */
  async stop(): Promise<void> {
    this.#stopped = true;
    await Promise.all(this.#running);
  }

  async #loop(name: JobName): Promise<void> {
    while (!this.#stopped) {
      // A database that is away for a moment must not end the loop.
      const took = await this.#one(name).catch((error: unknown) => {
        logFault(error, { where: 'reading' });
        return false;
      });
      if (!took) await wait(idleMs);
    }
  }

  async #one(name: JobName): Promise<boolean> {
    const boss = await queue();
    const [job] = await boss.fetch(name, { batchSize: 1 });
    if (!job) return false;
    const { sha256 } = jobs[name].parse(job.data);
    try {
      await readStages(sha256, name === 'ocr');
    } catch (error) {
      if (error instanceof NeedsOcr) await boss.send('ocr', { sha256 }, { priority: ocrPriority });
      // Once more, later and behind all that waits: one that is slow keeps nobody else from being read.
      else if (error instanceof CagedFault) await boss.send(name, { sha256 }, { startAfter: againSeconds });
      else {
        const number = logFault(error, { where: 'reading' });
        await boss.fail(name, job.id, { fault: number });
        return true;
      }
    }
    await boss.complete(name, job.id);
    return true;
  }
}

/**
 * Adds contents that no present program has read, or whose job was lost with its worker, while few jobs wait. What is read
 * twice for it is read in vain, never wrongly.
 */
export async function addUnread(): Promise<number> {
  const boss = await queue();
  const waiting = (await boss.getQueueSize('read')) + (await boss.getQueueSize('ocr'));
  if (waiting >= fewWaiting) return 0;
  const current = or(
    ...stages.map((stage) =>
      and(eq(readingStage.stage, stage), eq(readingStage.program, stagePrograms[stage].program)),
    ),
  );
  const unread = await db()
    .select({ sha256: blob.sha256, sizeBytes: blob.sizeBytes })
    .from(blob)
    .where(
      sql`(select count(*) from ${readingStage} where ${readingStage.sha256} = ${blob.sha256} and ${current}) < ${stages.length}
        and (exists (select from version where version.sha256 = ${blob.sha256})
          or exists (select from arrival where arrival.sha256 = ${blob.sha256})
          or exists (select from attachment where attachment.sha256 = ${blob.sha256}))`,
    )
    .orderBy(blob.sizeBytes)
    .limit(addedAtOnce);
  await boss.insert(
    unread.map(({ sha256, sizeBytes }) => ({ name: 'read', data: { sha256 }, priority: readingPriority(sizeBytes) })),
  );
  return unread.length;
}
