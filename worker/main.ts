/** The process for long work: takes jobs from the queue in PostgreSQL until it is told to stop. */
import { setPriority } from 'node:os';
import { disconnect } from '@/server/db/client';
import { config } from '@/server/base/config';
import { wallsHere } from '@/server/cage/walls';
import { fileAgendas } from '@/server/agenda/printed';
import { backUpIfDue } from '@/server/backup/noted';
import { makeNextExport } from '@/server/exports/make';
import { sweepExports } from '@/server/exports/jobs';
import { sendSummaries } from '@/server/follow/summary';
import { noteHealth } from '@/server/health/health';
import { sweepDirectory } from '@/server/blobs/sweep';
import { destroyExpired } from '@/server/disposal/destroy';
import { endRuns } from '@/server/retention/certificate';
import { remindSigners } from '@/server/signoff/remind';
import { proposeNext } from '@/server/intake/propose';
import { cutNext } from '@/server/intake/cut';
import { joinNext } from '@/server/intake/join';
import { fileNextByRule } from '@/server/intake/fileByRule';
import { sendNextReceipt } from '@/server/intake/receipts';
import { lookAtWaysIn } from '@/server/intake/ways/look';
import { forgetWaysIn } from '@/server/intake/ways/ways';
import { MailPort } from '@/server/intake/receive';
import { sealSigned } from '@/server/signoff/sealed';
import { makeNextCopy } from '@/server/packs/copies';
import { makeNextIssue } from '@/server/packs/make';
import { sweepPages } from '@/server/documents/pages';
import { logFault } from '@/server/log/fault';
import { log } from '@/server/log/log';
import { addUnread, ReadingLoops } from '@/server/extraction/loop';
import { mergeSegments } from '@/server/postings/keep';
import { keepRestingNotes } from '@/server/notes/keep';
import { writeAnchor } from '@/server/anchors/anchor';
import { stopQueue } from '@/server/jobs/queue';
import { sweepUploads } from '@/server/uploads/sweep';
import { sweepChanges } from '@/server/tally/sweep';
import { StandInStore } from './store';

/** Reading gives way to people: below what the system gives to the web process and the database. */
const niceness = 19;
setPriority(niceness);

const sweepEveryMs = 60 * 60 * 1000;
const unreadEveryMs = 30_000;
const notesEveryMs = 60_000;
const mergeEveryMs = 20_000;
const exportIdleMs = 1000;
const sealIdleMs = 3000;
const tenMinutesMs = 10 * 60 * 1000;
const runsEveryMs = 15_000;
const anchorEveryMs = 24 * 60 * 60 * 1000;

/** Work that is looked for again and again, one after the other, until it is told to stop. */
class Repeating {
  #stopped = false;
  readonly #running: Promise<void>;

  constructor(one: () => Promise<boolean>, idleMs: number, where: string) {
    this.#running = this.#loop(one, idleMs, where);
  }

  stop(): Promise<void> {
    this.#stopped = true;
    return this.#running;
  }

  async #loop(one: () => Promise<boolean>, idleMs: number, where: string): Promise<void> {
    while (!this.#stopped) {
      const did = await one().catch((error: unknown) => {
        logFault(error, { where });
        return false;
      });
      if (!did) await new Promise((next) => setTimeout(next, idleMs));
    }
  }
}

/** Two at a time: what takes long in one is no reason for the other to wait; and one for OCR. */
const loops = new ReadingLoops();
for (const name of ['read', 'read', 'ocr'] as const) loops.start(name);

const sweep = () =>
  Promise.all([
    sweepUploads(),
    sweepExports(),
    sweepChanges(),
    sweepPages(),
    forgetWaysIn(),
    destroyExpired()
      .then(() => sweepDirectory())
      .then(() => endRuns()),
  ])
    .then(() => noteHealth())
    .catch((error: unknown) => logFault(error, { where: 'sweep' }));
await sweep();

/** Each start and each day the journal's head is written down outside the database. */
const anchor = () => writeAnchor().catch((error: unknown) => logFault(error, { where: 'anchor' }));
await anchor();
const anchoring = setInterval(() => void anchor(), anchorEveryMs);
const exporting = new Repeating(makeNextExport, exportIdleMs, 'export');
const telling = setInterval(
  () => void sendSummaries().catch((error: unknown) => logFault(error, { where: 'summaries' })),
  tenMinutesMs,
);
const endingRuns = setInterval(
  () => void endRuns().catch((error: unknown) => logFault(error, { where: 'disposal runs' })),
  runsEveryMs,
);
const sealing = new Repeating(() => sealSigned().then((sealed) => sealed > 0), sealIdleMs, 'signed copies');
const filingAgendas = new Repeating(() => fileAgendas().then((filed) => filed > 0), sealIdleMs, 'agendas');
const issuing = new Repeating(makeNextIssue, exportIdleMs, 'packs');
const copying = new Repeating(makeNextCopy, exportIdleMs, 'copies of packs');
const proposing = new Repeating(proposeNext, exportIdleMs, 'intake');
const cutting = new Repeating(async () => (await cutNext()) || joinNext(), exportIdleMs, 'scans');
const filingByRule = new Repeating(fileNextByRule, exportIdleMs, 'filing by rule');
const answering = new Repeating(sendNextReceipt, sealIdleMs, 'receipts');
const fetching = new Repeating(async () => (await lookAtWaysIn('here')) > 0, exportIdleMs, 'ways in');
// Beside it, since another server may be slow.
const fetchingElsewhere = new Repeating(
  async () => (await lookAtWaysIn('elsewhere')) > 0,
  exportIdleMs,
  'ways in elsewhere',
);
const { EMBRIN_MAIL_PORT, EMBRIN_STORE_PORT, EMBRIN_STORE } = config();
const standIn = EMBRIN_STORE_PORT === 0 ? null : new StandInStore(EMBRIN_STORE_PORT, EMBRIN_STORE);
void standIn?.start().catch((error: unknown) => logFault(error, { where: 'store to try' }));
const receiving = EMBRIN_MAIL_PORT === 0 ? null : new MailPort(EMBRIN_MAIL_PORT);
const reminding = setInterval(
  () => void remindSigners().catch((error: unknown) => logFault(error, { where: 'reminders' })),
  tenMinutesMs,
);
const backingUp = setInterval(
  () => void backUpIfDue().catch((error: unknown) => logFault(error, { where: 'backup' })),
  tenMinutesMs,
);
const sweeping = setInterval(() => void sweep(), sweepEveryMs);
const unread = () => addUnread().catch((error: unknown) => logFault(error, { where: 'unread' }));
await unread();
const adding = setInterval(() => void unread(), unreadEveryMs);
const notes = () => keepRestingNotes().catch((error: unknown) => logFault(error, { where: 'notes' }));
await notes();
const keeping = setInterval(() => void notes(), notesEveryMs);
const merge = () => mergeSegments().catch((error: unknown) => logFault(error, { where: 'index' }));
const merging = setInterval(() => void merge(), mergeEveryMs);
log().info({ walls: wallsHere() }, 'ready');

async function stop(): Promise<void> {
  clearInterval(sweeping);
  clearInterval(anchoring);
  clearInterval(endingRuns);
  clearInterval(backingUp);
  clearInterval(reminding);
  clearInterval(telling);
  await receiving?.stop();
  await standIn?.stop();
  await exporting.stop();
  await proposing.stop();
  await Promise.all([fetching.stop(), fetchingElsewhere.stop()]);
  await cutting.stop();
  await filingByRule.stop();
  await answering.stop();
  await sealing.stop();
  await filingAgendas.stop();
  await issuing.stop();
  await copying.stop();
  clearInterval(adding);
  clearInterval(keeping);
  clearInterval(merging);
  await loops.stop();
  await stopQueue();
  await disconnect();
  process.exit(0);
}
process.once('SIGTERM', () => void stop());
process.once('SIGINT', () => void stop());
