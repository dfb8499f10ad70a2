import { and, asc, eq, inArray, or, sql } from 'drizzle-orm';
import { dueStages, stagePrograms, type Stage, type StageOutcome, type StageResult } from '@/core/reading/stages';
import { contentColumns } from '../blobs/content';
import { now } from '../base/clock';
import { inFolder } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { db, writableDb, type Db, type Tx } from '../db/client';
import { arrival, attachment, blob, document, reading, readingAttempt, readingStage, version } from '../db/schema';
import { apart } from '../db/transaction';
import { OpenContent, NeedsOcr, type ReadContent } from './openContent';
import { runFacts } from './stages/facts';
import { runForm } from './stages/form';
import { runPicture } from './stages/picture';
import { failed, type StageEnd, type StageRuns } from './stages/stageEnd';
import { runTerms } from './stages/terms';
import { runText } from './stages/text';

/** Larger content is filed, and not read. */
const greatestBytes = 300_000_000;
/** Attempts at a stage that stops or crashes its reader. */
const mostAttempts = 2;

const runs: StageRuns = { form: runForm, picture: runPicture, text: runText, facts: runFacts, terms: runTerms };

/**
 * Runs the stages that are due on some content, once for all papers that have it. Each is kept as soon as it ends. Attempts
 * are counted before they begin, so that content which takes the whole process along counts too; after the second the
 * stage is marked as failed, and the next one runs.
 * @param mayOcr whether pages may be read by OCR
 * @throws CagedFault if an attempt failed and another one is due
 * @throws NeedsOcr if pages need OCR, and it may not be run
 */
export async function readStages(sha256: string, mayOcr = true): Promise<void> {
  const content = await contentToRead(sha256);
  if (!content) return;
  // A paper may have been filed while the content was read, and shows nothing yet.
  const results = await resultsOf(sha256);
  const due = dueStages(results);
  if (due.length === 0) return apart((tx) => showCounts(tx, sha256));
  await inFolder(async (folder) => {
    const opened = new OpenContent(content, folder, mayOcr);
    opened.formFailed = results.some(({ stage, outcome }) => stage === 'form' && outcome === 'failed');
    for (const stage of due) {
      const outcome = await runStage(opened, stage);
      if (stage === 'form') opened.formFailed = outcome === 'failed';
    }
  });
}

/** The stages that have run on some content. */
export async function resultsOf(sha256: string): Promise<StageResult[]> {
  return db()
    .select({
      stage: readingStage.stage,
      program: readingStage.program,
      outcome: readingStage.outcome,
      why: readingStage.why,
    })
    .from(readingStage)
    .where(eq(readingStage.sha256, sha256));
}

async function contentToRead(sha256: string): Promise<ReadContent | null> {
  const [content] = await db().select(contentColumns).from(blob).where(eq(blob.sha256, sha256));
  if (!content) return null;
  // The kind was found when it was filed. Two papers can have one content under names that make it a text and a table.
  const [filed] = await db()
    .select({ mediaType: version.mediaType })
    .from(version)
    .where(eq(version.sha256, sha256))
    .orderBy(asc(version.madeAt))
    .limit(1);
  const found = filed ?? (await otherwise(sha256));
  return found ? { ...content, ...found } : null;
}

/** The kind of content that is no paper: attached to a mail, or arrived and not filed yet. */
async function otherwise(sha256: string) {
  const [attached] = await db()
    .select({ mediaType: attachment.mediaType })
    .from(attachment)
    .where(eq(attachment.sha256, sha256))
    .limit(1);
  if (attached) return attached;
  const [arrived] = await db()
    .select({ mediaType: arrival.mediaType })
    .from(arrival)
    .where(eq(arrival.sha256, sha256))
    .limit(1);
  return arrived;
}

async function runStage(opened: OpenContent, stage: Stage): Promise<StageOutcome> {
  const { sha256, sizeBytes } = opened.content;
  const began = performance.now();
  const attempt = await countAttempt(sha256, stage);
  const end =
    attempt > mostAttempts
      ? failed('brokeOff')
      : sizeBytes > greatestBytes
        ? failed('tooLarge')
        : await attempted(opened, stage, attempt);
  await apart((tx) => keep(tx, sha256, stage, end, Math.round(performance.now() - began)));
  return end.outcome;
}

async function attempted(opened: OpenContent, stage: Stage, attempt: number): Promise<StageEnd> {
  opened.isLastAttempt = attempt >= mostAttempts;
  try {
    return await runs[stage](opened);
  } catch (error) {
    if (error instanceof NeedsOcr) await forgetAttempt(writableDb(), opened.content.sha256, stage);
    if (!(error instanceof CagedFault)) throw error;
    if (attempt < mostAttempts) throw error;
    return failed(error.why);
  }
}

async function countAttempt(sha256: string, stage: Stage): Promise<number> {
  const [row] = await writableDb()
    .insert(readingAttempt)
    .values({ sha256, stage, attempts: 1 })
    .onConflictDoUpdate({
      target: [readingAttempt.sha256, readingAttempt.stage],
      set: { attempts: sql`${readingAttempt.attempts} + 1` },
    })
    .returning({ attempts: readingAttempt.attempts });
  return row?.attempts ?? 1;
}

async function forgetAttempt(tx: Tx | Db, sha256: string, stage: Stage): Promise<void> {
  await tx.delete(readingAttempt).where(and(eq(readingAttempt.sha256, sha256), eq(readingAttempt.stage, stage)));
}

/** Keeps what a stage found. Two workers that read one content do it one after the other, and the second in vain. */
async function keep(tx: Tx, sha256: string, stage: Stage, end: StageEnd, tookMs: number): Promise<void> {
  await tx.select({ sha256: blob.sha256 }).from(blob).where(eq(blob.sha256, sha256)).for('no key update');
  const { program } = stagePrograms[stage];
  const found = { program, outcome: end.outcome, why: end.why, tookMs, madeAt: now() };
  await tx.insert(reading).values({ sha256 }).onConflictDoNothing();
  await end.write?.(tx);
  await tx
    .insert(readingStage)
    .values({ sha256, stage, ...found })
    .onConflictDoUpdate({ target: [readingStage.sha256, readingStage.stage], set: found });
  await forgetAttempt(tx, sha256, stage);
  await showCounts(tx, sha256);
}

/** Shows pages and words on the papers whose current version has the content. */
async function showCounts(tx: Tx, sha256: string): Promise<void> {
  const [counted] = await tx
    .select({ pageCount: reading.pageCount, wordCount: reading.wordCount })
    .from(reading)
    .where(eq(reading.sha256, sha256));
  if (!counted) return;
  const current = tx.select({ id: version.id }).from(version).where(eq(version.sha256, sha256));
  await tx
    .update(document)
    .set(counted)
    .where(
      and(
        inArray(document.versionId, current),
        or(
          sql`${document.pageCount} is distinct from ${counted.pageCount}::integer`,
          sql`${document.wordCount} is distinct from ${counted.wordCount}::integer`,
        ),
      ),
    );
}
