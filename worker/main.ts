/** The process for long work: takes jobs from the queue in PostgreSQL until it is told to stop. */
import { disconnect } from '@/server/db/client';
import { sweepPages } from '@/server/documents/pages';
import { logFault } from '@/server/log/fault';
import { log } from '@/server/log/log';
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
    logFault(error, { where: 'sweep' }),
  );
await sweep();
const sweeping = setInterval(sweep, sweepEveryMs);
log().info('ready');

async function stop(): Promise<void> {
  clearInterval(sweeping);
  await stopQueue();
  await disconnect();
  process.exit(0);
}
process.once('SIGTERM', () => void stop());
process.once('SIGINT', () => void stop());
