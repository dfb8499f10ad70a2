import { and, eq } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { refuse } from '@/core/errors/refusal';
import type { PackReading } from '@/core/packs/contract';
import { mostAttempts } from '@/core/packs/model';
import { leftOutOf, placeInCopy } from '@/core/packs/copies';
import { leftOutInWords, pageLabel, pagesInWords } from '@/core/packs/letIn';
import { asks } from '../acts/operation';
import { now } from '../base/clock';
import { contentColumns } from '../blobs/content';
import { db, writableDb } from '../db/client';
import { idIn } from '../db/idIn';
import { blob, document, packCopy, packIssue, person } from '../db/schema';
import type { Actor } from '../gate/actor';
import { paperAllows } from '../gate/visible';
import { copyOf, copySilentMs, guarded, leftOutKey } from './copies';
import { packFor } from './read';
import { mayLead } from './mayLead';

/** What somebody may read of an issue: by their access now, and by who may know of what is confidential. */
export async function readingOf(actor: Actor, issueId: string) {
  const [found] = await db()
    .select({ issue: packIssue, issuedBy: person.name })
    .from(packIssue)
    .innerJoin(person, eq(person.id, packIssue.issuedBy))
    .where(eq(packIssue.id, issueId));
  if (!found || (found.issue.state !== 'done' && found.issue.state !== 'withdrawn')) refuse('not-found');
  const { pack, place } = await packFor(db(), actor, found.issue.packId, 'see');
  const { record } = found.issue;
  const ids = record.entries.flatMap(({ documentId }) => documentId ?? []);
  const rows =
    ids.length === 0
      ? []
      : await db()
          .select({ id: document.id })
          .from(document)
          .where(and(idIn(document.id, ids), paperAllows(actor, 'see')));
  const takeable = await db().$count(document, and(idIn(document.id, ids), paperAllows(actor, 'take')));
  const seen = new Set(rows.map(({ id }) => id));
  const leftOut = leftOutOf(guarded(record), actor.seenBy?.personId ?? actor.personId, {
    knowsAll: has(place.held, 'amend'),
    maySee: (documentId) => seen.has(documentId),
  });
  return { ...found, pack, place, leftOut, mayTake: has(place.held, 'take') && takeable === rows.length };
}

/** An issue of a pack as the caller may read it. Their copy is asked for where nobody's is the same. */
export const readPack = asks('pack.read', async (actor, { issueId }): Promise<PackReading> => {
  const { issue, issuedBy, pack, place, leftOut, mayTake } = await readingOf(actor, issueId);
  const { plan, runs, lines } = copyOf(issue.record, leftOut);
  const isOpen = issue.state === 'done';
  const [copy] = await db()
    .select({ sha256: packCopy.sha256, pages: packCopy.pages, attempts: packCopy.attempts, beatAt: packCopy.beatAt })
    .from(packCopy)
    .where(and(eq(packCopy.issueId, issueId), eq(packCopy.leftOutKey, leftOutKey(leftOut))));
  if (!copy && isOpen)
    await writableDb()
      .insert(packCopy)
      .values({ issueId, leftOutKey: leftOutKey(leftOut), leftOut, askedAt: now() })
      .onConflictDoNothing();
  return {
    id: issue.id,
    name: issue.record.name,
    called: issue.called,
    state: issue.state,
    endReason: issue.endReason,
    issuedAt: issue.issuedAt?.toISOString() ?? '',
    issuedBy,
    place: { id: place.id, name: place.name },
    meetingId: pack.meetingId,
    pagesInWords: pagesInWords(issue.record, plan),
    firstPage: issue.record.firstPage,
    ...(issue.record.labels ? { labels: issue.record.labels } : {}),
    ...(await supplementsOf(issue)),
    copy: isOpen && copy?.sha256 && copy.pages !== null ? { sha256: copy.sha256, pages: copy.pages } : null,
    copyFailed: copy?.sha256 === null && copy.attempts >= mostAttempts && isSilent(copy.beatAt),
    mayTake,
    contents: isOpen
      ? lines.map(({ kind, title, depth, page }) => ({
          kind,
          title,
          depth,
          number: page === null ? null : pageLabel(issue.record, page),
          page: page === null ? null : placeInCopy(runs, page),
        }))
      : [],
    runs,
    mayLead: isOpen && (await mayLead(db(), actor, { meetingId: pack.meetingId, held: place.held })),
    leftOut: isOpen
      ? runs.filter(({ kind }) => kind === 'leftOut').map((run) => leftOutInWords(issue.record, run))
      : [],
  };
});

/** Whether nobody can be making it any more. */
const isSilent = (beatAt: Date | null): boolean => beatAt === null || beatAt.getTime() < now().getTime() - copySilentMs;

/** The supplements to an issue, and what it is a supplement to. */
async function supplementsOf({ id, supplementTo }: typeof packIssue.$inferSelect) {
  const columns = { id: packIssue.id, called: packIssue.called, pages: packIssue.pages };
  const supplements = await db()
    .select(columns)
    .from(packIssue)
    .where(and(eq(packIssue.supplementTo, id), eq(packIssue.state, 'done')))
    .orderBy(packIssue.number);
  const [base] =
    supplementTo === null ? [] : await db().select(columns).from(packIssue).where(eq(packIssue.id, supplementTo));
  return {
    supplements: supplements.map(({ pages, ...each }) => ({ ...each, pages: pages ?? 0 })),
    supplementTo: base ? { id: base.id, called: base.called } : null,
  };
}

/** The content of the caller's copy of an issue. @throws Refusal `not-found` for one that is withdrawn or not theirs */
export async function packContent(actor: Actor, issueId: string, capability: 'see' | 'take') {
  const { issue, leftOut, mayTake } = await readingOf(actor, issueId);
  if (capability === 'take' && !mayTake)
    refuse('not-allowed', 'This pack may be read on the screen, and no copies of it may be taken.');
  if (issue.state !== 'done') refuse('gone', 'This issue was withdrawn. Nothing of it is given out.');
  const [found] = await db()
    .select(contentColumns)
    .from(packCopy)
    .innerJoin(blob, eq(blob.sha256, packCopy.sha256))
    .where(and(eq(packCopy.issueId, issueId), eq(packCopy.leftOutKey, leftOutKey(leftOut))));
  if (!found) refuse('not-found');
  return { ...found, mediaType: 'application/pdf', fileName: `${issue.record.name}.pdf`, mayTake };
}
