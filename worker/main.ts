/** The process for long work: takes jobs from the queue in PostgreSQL until it is told to stop. */
import { setPriority } from 'node:os';
import { disconnect } from '@/server/db/client';
import { CagedFault } from '@/server/cage/limits';
import { sweepDirectory } from '@/server/blobs/sweep';
import { sweepPages } from '@/server/documents/pages';
import { logFault } from '@/server/log/fault';
import { log } from '@/server/log/log';
import { makePreview } from '@/server/extraction/preview';
import { writeAnchor } from '@/server/anchors/anchor';
import { jobs, queue, stopQueue } from '@/server/jobs/queue';
import { sweepUploads } from '@/server/uploads/sweep';
import { sweepChanges } from '@/server/tally/sweep';

/** Reading gives way to people: below what the system gives to the web process and the database. */
const niceness = 10;
setPriority(niceness);

const sweepEveryMs = 60 * 60 * 1000;
const againSeconds = 10;
const anchorEveryMs = 24 * 60 * 60 * 1000;

const boss = await queue();
/** Two at a time: what takes long in one is no reason for the other to wait. */
const side = (work: Parameters<typeof boss.work>[2]) =>
  boss.work('preview', { batchSize: 10, pollingIntervalSeconds: 1 }, work);
const readAll: Parameters<typeof side>[0] = async (batch) => {
  for (const job of batch) {
    const { sha256 } = jobs.preview.parse(job.data);
    try {
      await makePreview(sha256);
    } catch (error) {
      if (!(error instanceof CagedFault)) throw error;
      // Once more, later and behind all that waits: one that is slow keeps nobody else from being read.
      await boss.send('preview', { sha256 }, { startAfter: againSeconds });
    }
  }
};
await Promise.all([side(readAll), side(readAll)]);

const sweep = () =>
  Promise.all([sweepUploads(), sweepChanges(), sweepPages(), sweepDirectory()]).catch((error: unknown) =>
    logFault(error, { where: 'sweep' }),
  );
await sweep();

/** Each start and each day the journal's head is written down outside the database. */
const anchor = () => writeAnchor().catch((error: unknown) => logFault(error, { where: 'anchor' }));
await anchor();
const anchoring = setInterval(() => void anchor(), anchorEveryMs);
const sweeping = setInterval(() => void sweep(), sweepEveryMs);
log().info('ready');

async function stop(): Promise<void> {
  clearInterval(sweeping);
  clearInterval(anchoring);
  await stopQueue();
  await disconnect();
  process.exit(0);
}
process.once('SIGTERM', () => void stop());
process.once('SIGINT', () => void stop());
