import { and, asc, eq, sql } from 'drizzle-orm';
import { dayInWords, momentInWords } from '@/core/calendar/moment';
import { certificateCsv, certificatePage, type Certificate } from '@/core/retention/certificate';
import { appendToJournal } from '../acts/append';
import { now } from '../base/clock';
import { sha256Hex } from '../base/sha256';
import { storeBytes } from '../blobs/keep';
import { printedPage } from '../cage/printed';
import { db } from '../db/client';
import { disposalRun, disposalRunItem, person } from '../db/schema';
import { transaction } from '../db/transaction';
import { filePapers, type StoredContent } from '../documents/file';
import type { Actor } from '../gate/actor';
import { librarySettings } from '../library/settings';

/** Runs of whose papers none waits in the tray any more. */
const endable = and(
  eq(disposalRun.state, 'approved'),
  sql`not exists (select from ${disposalRunItem} where ${disposalRunItem.runId} = ${disposalRun.id} and ${disposalRunItem.state} = 'disposed')`,
);

/**
 * Ends the runs whose papers are all gone or put back: makes the certificate of destruction, as PDF and as CSV, and files both
 * where the run says. Of two workers one does so. Returns how many.
 */
export async function endRuns(): Promise<number> {
  const rows = await db().select({ id: disposalRun.id }).from(disposalRun).where(endable);
  let ended = 0;
  for (const { id } of rows) if (await endRun(id)) ended += 1;
  return ended;
}

async function endRun(runId: string): Promise<boolean> {
  const certificate = await certificateOf(runId);
  const csv = Buffer.from(certificateCsv(certificate));
  const page = certificatePage(certificate, sha256Hex(csv));
  const pdf = certificate.papers.length === 0 ? null : await printedPage(page);
  return transaction([], async (tx) => {
    const [run] = await tx
      .select()
      .from(disposalRun)
      .where(and(eq(disposalRun.id, runId), endable))
      .for('update');
    if (!run) return false;
    const [approver] = await tx
      .select({ personId: person.id, name: person.name, email: person.email })
      .from(person)
      .where(eq(person.id, run.approvedBy ?? run.preparedBy));
    if (!approver) throw new Error('Whoever approved a disposal is not there');
    // Filed in the name of whoever approved it; the place was checked when the run was prepared.
    const actor: Actor = { ...approver, keeper: true };
    const title = `Certificate of destruction, ${certificate.day}`;
    const files: StoredContent[] = [];
    if (pdf !== null) {
      const made = [
        { bytes: pdf, ending: 'pdf', mediaType: 'application/pdf', stamp: 'PDF' as const },
        { bytes: csv, ending: 'csv', mediaType: 'text/csv', stamp: 'SHEET' as const },
      ];
      for (const { bytes, ending, mediaType, stamp } of made) {
        const sha256 = sha256Hex(bytes);
        await storeBytes(tx, sha256, bytes);
        files.push({
          sha256,
          arrived: null,
          sizeBytes: bytes.length,
          fileName: `${title}.${ending}`,
          mediaType,
          stamp,
        });
      }
    }
    const remark = 'Made by the library when the last paper of the disposal was destroyed.';
    const filings = files.map((content, at) => ({
      placeId: run.placeId,
      title: at === 0 ? title : `${title}, list`,
      remark,
      content,
    }));
    const filed = filings.length === 0 ? [] : await filePapers(tx, actor, filings);
    const [first] = filed;
    await tx
      .update(disposalRun)
      .set({ state: 'ended', endedAt: now(), certificateId: first?.documentId ?? null })
      .where(eq(disposalRun.id, runId));
    await appendToJournal(tx, null, {
      act: 'run.ended',
      subjects: [...filed.map(({ documentId }) => documentId), run.placeId],
      detail: { destroyed: certificate.papers.length, title: first?.title ?? 'none' },
    });
    return true;
  });
}

async function certificateOf(runId: string): Promise<Certificate> {
  const { timeZone, name } = await librarySettings();
  const [run] = await db()
    .select({
      note: disposalRun.note,
      preparedAt: disposalRun.preparedAt,
      approvedAt: disposalRun.approvedAt,
      preparedBy: sql<string>`(select name from ${person} where ${person.id} = ${disposalRun.preparedBy})`,
      approvedBy: sql<string>`(select name from ${person} where ${person.id} = ${disposalRun.approvedBy})`,
    })
    .from(disposalRun)
    .where(eq(disposalRun.id, runId));
  if (!run) throw new Error('The run is not there');
  const items = await db()
    .select()
    .from(disposalRunItem)
    .where(and(eq(disposalRunItem.runId, runId), eq(disposalRunItem.state, 'destroyed')))
    .orderBy(asc(disposalRunItem.className), asc(disposalRunItem.placeName), asc(disposalRunItem.title));
  const moment = (at: Date | null): string => (at === null ? '' : momentInWords(at.toISOString(), timeZone));
  return {
    library: name,
    day: dayInWords(now().toISOString(), timeZone),
    note: run.note,
    preparedBy: run.preparedBy,
    preparedAt: moment(run.preparedAt),
    approvedBy: run.approvedBy,
    approvedAt: moment(run.approvedAt),
    papers: items.map((item) => ({
      title: item.title,
      place: item.placeName,
      className: item.className,
      authority: item.authority,
      keptUntil: item.keptUntil,
      destroyedAt: item.destroyedAt?.toISOString() ?? '',
      sha256s: item.sha256s,
    })),
  };
}
