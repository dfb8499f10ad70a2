/** The process for long work: takes jobs from the queue in PostgreSQL until it is told to stop. */
import { disconnect } from '@/server/db/client';
import { sweepPages } from '@/server/documents/pages';
import { makePreview } from '@/server/extraction/preview';
import { jobs, queue, stopQueue } from '@/server/jobs/queue';
import { sweepUploads } from '@/server/uploads/sweep';
import { sweepChanges } from '@/server/views/tally/sweep';

const sweepEveryMs = 60 * 60 * 1000;

const boss = await queue();
await boss.work('preview', { batchSize: 20, pollingIntervalSeconds: 1 }, async (batch) => {
  for (const job of batch) await makePreview(jobs.preview.parse(job.data).sha256);
});

const sweep = () =>
  Promise.all([sweepUploads(), sweepChanges(), sweepPages()]).catch((error: unknown) =>
    console.error('sweep', error instanceof Error ? error.name : error),
  );
await sweep();
const sweeping = setInterval(sweep, sweepEveryMs);
console.log('The worker is ready');

async function stop(): Promise<void> {
  clearInterval(sweeping);
  await stopQueue();
  await disconnect();
  process.exit(0);
}
process.once('SIGTERM', () => void stop());
process.once('SIGINT', () => void stop());
