import { and, eq, or } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { contentColumns, requireWhole } from '../blobs/content';
import { capabilitiesOn } from '../gate/held';
import { paperAllows, paperIsDisposed } from '../gate/visible';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { attachment, blob, document, version } from '../db/schema';

/** Which content of a paper: of a version (null: the current one), or of an attachment of that mail. */
export interface ContentOf {
  readonly documentId: string;
  readonly version: number | null;
  readonly attachment: number | null;
}

/** The content of a paper's current version. */
export const currentOf = (documentId: string): ContentOf => ({ documentId, version: null, attachment: null });

/**
 * The content of a paper. Needs `see` for page pictures and `take` for the bytes, whether displayed or downloaded.
 * An attachment is as open as its mail.
 */
export async function contentFor(
  actor: Actor,
  { documentId, version: number, attachment: attached }: ContentOf,
  capability: 'see' | 'take' | 'amend',
) {
  const found = await (attached === null
    ? ofVersion(actor, documentId, number)
    : ofAttachment(actor, documentId, number, attached));
  if (!found) refuse('not-found');
  const held = await capabilitiesOn(db(), actor, documentId);
  if (!has(held, capability))
    refuse(
      'not-allowed',
      capability === 'take' ? 'You may read this paper here, page by page, but not have a copy of it.' : undefined,
    );
  await requireWhole(found);
  return { ...found, mayTake: has(held, 'take') };
}

const versionAsked = (number: number | null) =>
  number === null
    ? eq(version.id, document.versionId)
    : and(eq(version.documentId, document.id), eq(version.number, number));

async function ofVersion(actor: Actor, documentId: string, number: number | null) {
  const [found] = await db()
    .select({
      title: document.title,
      fileName: version.fileName,
      mediaType: version.mediaType,
      ...contentColumns,
    })
    .from(document)
    .innerJoin(version, versionAsked(number))
    .innerJoin(blob, eq(blob.sha256, version.sha256))
    .where(and(eq(document.id, documentId), or(paperAllows(actor, 'see'), paperIsDisposed(actor))));
  return found ?? null;
}

async function ofAttachment(actor: Actor, documentId: string, number: number | null, attached: number) {
  const [found] = await db()
    .select({ title: attachment.name, fileName: attachment.name, mediaType: attachment.mediaType, ...contentColumns })
    .from(document)
    .innerJoin(version, versionAsked(number))
    .innerJoin(attachment, and(eq(attachment.mailSha256, version.sha256), eq(attachment.number, attached)))
    .innerJoin(blob, eq(blob.sha256, attachment.sha256))
    .where(and(eq(document.id, documentId), or(paperAllows(actor, 'see'), paperIsDisposed(actor))));
  return found ?? null;
}

/** The papers, among these, of which the caller may take copies. */
export async function copiable(actor: Actor, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const rows = await db()
    .select({ id: document.id })
    .from(document)
    .where(and(idIn(document.id, ids), paperAllows(actor, 'take')));
  return new Set(rows.map((row) => row.id));
}

/** The papers, among these, that the caller may read but not copy: they are left out of every download. */
export const notCopiable = asks('papers.notCopiable', async (actor, { documentIds }) => {
  const taken = await copiable(actor, documentIds);
  const seen = await db()
    .select({ id: document.id })
    .from(document)
    .where(and(idIn(document.id, documentIds), paperAllows(actor, 'see')));
  return seen.flatMap(({ id }) => (taken.has(id) ? [] : [id]));
});

/** Refuses a list whose papers may all be read but not copied. */
export function refuseList(): never {
  refuse('not-allowed', 'You may read these papers here, but take no copies of them, nor lists.');
}

/** Leaves out rows of papers that may not be copied; refuses if that leaves none. */
export async function onlyCopiable<T extends { readonly id: string }>(
  actor: Actor,
  papers: readonly T[],
): Promise<{ papers: T[]; leftOut: number }> {
  const lets = await copiable(
    actor,
    papers.map((paper) => paper.id),
  );
  const kept = papers.filter((paper) => lets.has(paper.id));
  if (kept.length === 0 && papers.length > 0) refuseList();
  return { papers: kept, leftOut: papers.length - kept.length };
}

/** The part of a file's name that says how many papers were left out. */
export const leftOutInWords = (leftOut: number): string =>
  leftOut === 0 ? '' : `, without ${counted(leftOut, 'paper')} that may not be copied`;
