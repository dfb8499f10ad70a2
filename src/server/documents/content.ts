import { and, eq, or, sql } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import type { ReadInputOf } from '@/core/contract';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import type { Actor } from '../gate/actor';
import { capabilitiesOn } from '../gate/held';
import { paperAllows, paperIsDisposed } from '../gate/visible';
import { db } from '../db/client';
import { blob, document, preview, version } from '../db/schema';

/**
 * The content of a paper's version (null: the current one), for an actor: `see` for pages drawn from it, `take` for its bytes,
 * whether they are shown or handed over.
 */
export async function contentFor(actor: Actor, documentId: string, number: number | null, capability: 'see' | 'take') {
  const [found] = await db()
    .select({
      title: document.title,
      fileName: version.fileName,
      mediaType: version.mediaType,
      sizeBytes: version.sizeBytes,
      sha256: version.sha256,
      contentId: blob.contentId,
    })
    .from(document)
    .innerJoin(
      version,
      number === null
        ? eq(version.id, document.versionId)
        : and(eq(version.documentId, document.id), eq(version.number, number)),
    )
    .innerJoin(blob, eq(blob.sha256, version.sha256))
    .where(and(eq(document.id, documentId), or(paperAllows(actor, 'see'), paperIsDisposed(actor))));
  if (!found) refuse('not-found');
  const held = await capabilitiesOn(db(), actor, documentId);
  if (!has(held, capability))
    refuse('not-allowed', 'You may read this paper here, page by page, but not have a copy of it.');
  return found;
}

/** The picture of a paper's first page: a JPEG, or not found where there is none (yet). */
export async function pictureFor(actor: Actor, documentId: string) {
  const [found] = await db()
    .select({ picture: preview.picture, sha256: preview.sha256 })
    .from(document)
    .innerJoin(version, eq(version.id, document.versionId))
    .innerJoin(preview, eq(preview.sha256, version.sha256))
    .where(and(eq(document.id, documentId), or(paperAllows(actor, 'see'), paperIsDisposed(actor))));
  if (!found?.picture) refuse('not-found');
  return { picture: found.picture, sha256: found.sha256 };
}

/** Of some papers, those of which the actor may take copies. */
export async function copiable(actor: Actor, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const rows = await db()
    .select({ id: document.id })
    .from(document)
    .where(and(sql`${document.id} = any(${sql.param([...ids])}::uuid[])`, paperAllows(actor, 'take')));
  return new Set(rows.map((row) => row.id));
}

/** Of some papers, those that the actor may read and take no copies of: they are left out of all that leaves the library. */
export async function notCopiable(actor: Actor, { documentIds }: ReadInputOf<'papers.notCopiable'>): Promise<string[]> {
  const taken = await copiable(actor, documentIds);
  const seen = await db()
    .select({ id: document.id })
    .from(document)
    .where(and(sql`${document.id} = any(${sql.param([...documentIds])}::uuid[])`, paperAllows(actor, 'see')));
  return seen.flatMap(({ id }) => (taken.has(id) ? [] : [id]));
}

/** Where all that a list would hold may be read and not copied, there is no list. */
export function refuseList(): never {
  refuse('not-allowed', 'You may read these papers here, but take no copies of them, nor lists.');
}

/** Rows about papers without those that may not be copied; refused where that leaves none. */
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

/** What the name of a file says that was made without some papers. */
export const leftOutInWords = (leftOut: number): string =>
  leftOut === 0 ? '' : `, without ${counted(leftOut, 'paper')} that may not be copied`;
