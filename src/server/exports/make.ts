import { createWriteStream } from 'node:fs';
import { mkdir, open, rename, rm } from 'node:fs/promises';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { ExportFault } from '@/core/exports/contract';
import { Refusal } from '@/core/errors/refusal';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db, writableDb } from '../db/client';
import { document, exportJob, library, person, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { paperAllows } from '../gate/visible';
import { logFault } from '../log/fault';
import { chosenIds } from '../across/chosen';
import { exportPapers } from './exportPapers';
import { exportFile, takeable } from './jobs';

/** So often progress is noted, and after so long without a note another worker takes over. */
const [beatMs, silentMs] = [500, 30_000];
const mostAttempts = 3;

/** The export was cancelled, or another worker has taken it over. */
class NoLongerMine extends Error {
  override readonly name = 'NoLongerMine';
}

type Job = typeof exportJob.$inferSelect;

/** Makes the export that has waited longest. Returns whether there was one. */
export async function makeNextExport(): Promise<boolean> {
  const job = await claim();
  if (!job) return false;
  try {
    await make(job);
  } catch (error) {
    await rm(exportFile(job.id, true), { force: true });
    if (error instanceof NoLongerMine) {
      // Cancelled at the last moment, it may have its file already; taken over, that file is the other's.
      const [row] = await db().select({ id: exportJob.id }).from(exportJob).where(eq(exportJob.id, job.id));
      if (!row) await rm(exportFile(job.id), { force: true });
      return true;
    }
    const fault = faultOf(error);
    if (fault === null) {
      logFault(error, { where: 'export' });
      // Another attempt follows once nobody has been heard of it for a while.
      if (job.attempts < mostAttempts) return true;
    }
    await writableDb()
      .update(exportJob)
      .set({ state: 'failed', fault: fault ?? 'gaveUp' })
      .where(mine(job));
  }
  return true;
}

/** One worker gets it: who reads at the same moment skips the row. */
async function claim(): Promise<Job | undefined> {
  const silent = new Date(now().getTime() - silentMs);
  const [job] = await writableDb()
    .update(exportJob)
    .set({ state: 'making', begunAt: now(), beatAt: now(), bytes: 0, attempts: sql`${exportJob.attempts} + 1` })
    .where(
      sql`${exportJob.id} = (
        select id from ${exportJob} as next
        where next.state = 'waiting' or (next.state = 'making' and next.beat_at < ${silent.toISOString()}::timestamptz)
        order by next.asked_at for update skip locked limit 1)`,
    )
    .returning();
  if (!job || job.attempts <= mostAttempts) return job;
  await writableDb().update(exportJob).set({ state: 'failed', fault: 'gaveUp' }).where(mine(job));
  return undefined;
}

const mine = ({ id, attempts }: Job) =>
  and(eq(exportJob.id, id), eq(exportJob.attempts, attempts), eq(exportJob.state, 'making'));

async function make(job: Job): Promise<void> {
  const actor = await askerOf(job);
  const asked = await idsOf(actor, job);
  const archive = await exportPapers(actor, asked, job.folders);
  await note(job, { documentIds: [...archive.ids], leftOut: archive.leftOut, ofBytes: archive.sizeBytes });
  await mkdir(config().EMBRIN_EXPORTS, { recursive: true, mode: 0o700 });
  const file = exportFile(job.id, true);
  let bytes = 0;
  const counting = new Transform({
    transform(part: Buffer, _encoding, done) {
      bytes += part.length;
      done(null, part);
    },
  });
  const stopped = new AbortController();
  const beating = setInterval(() => {
    note(job, { bytes }).catch((error: unknown) => stopped.abort(error));
  }, beatMs);
  try {
    await pipeline(archive.begin(), counting, createWriteStream(file, { mode: 0o600 }), { signal: stopped.signal });
  } catch (error) {
    throw stopped.signal.aborted ? stopped.signal.reason : error;
  } finally {
    clearInterval(beating);
  }
  // Handed out is only what is open to them in the end, too.
  if ((await takeable(await askerOf(job), archive.ids)) < archive.ids.length) throw new Closed();
  const handle = await open(file, 'r');
  await handle.sync();
  await handle.close();
  await rename(file, exportFile(job.id));
  const [settings] = await db().select({ days: library.exportDays }).from(library);
  const expiresAt = new Date(now().getTime() + (settings?.days ?? 7) * 86_400_000);
  await note(job, { state: 'done', bytes, expiresAt });
}

class Closed extends Error {
  override readonly name = 'Closed';
}

/** Notes how far it is. @throws NoLongerMine */
async function note(job: Job, values: Partial<typeof exportJob.$inferInsert>): Promise<void> {
  const noted = await writableDb()
    .update(exportJob)
    .set({ ...values, beatAt: now() })
    .where(mine(job))
    .returning({ id: exportJob.id });
  if (noted.length === 0) throw new NoLongerMine();
}

/** Whoever asked, with the rights that they have now. @throws Closed where their account is off */
async function askerOf(job: Job): Promise<Actor> {
  const [found] = await db()
    .select({ personId: person.id, name: person.name, email: person.email, keeper: person.keeper })
    .from(person)
    .where(and(eq(person.id, job.personId), eq(person.active, true)));
  if (!found) throw new Closed();
  return found;
}

/** The papers that were asked for, as far as the person may see them. */
async function idsOf(actor: Actor, { what }: Job): Promise<readonly string[]> {
  if ('papers' in what) return what.papers;
  if ('across' in what) return chosenIds(actor, what.across);
  const rows = await db()
    .select({ id: document.id })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        sql`${place.lineage} && ${sql.param(what.places)}::uuid[]`,
        isNull(document.disposedAt),
        paperAllows(actor, 'see'),
      ),
    );
  return rows.map(({ id }) => id);
}

/** What a person is told; null for what only the log understands. */
function faultOf(error: unknown): ExportFault | null {
  if (error instanceof Closed) return 'access';
  if (error instanceof Refusal) {
    if (error.issue.kind === 'damaged-content') return 'damaged';
    if (error.issue.kind === 'not-allowed') return 'nothing';
  }
  const code = typeof error === 'object' && error !== null && 'code' in error ? error.code : null;
  return code === 'ENOSPC' || code === 'EDQUOT' ? 'disk' : null;
}
