import { and, eq, or } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { refuse } from '@/core/errors/refusal';
import type { Actor } from '../access/actor';
import { capabilitiesOn } from '../access/held';
import { paperAllows, paperIsDisposed } from '../access/visible';
import { db } from '../db/client';
import { blob, document, preview, version } from '../db/schema';

/**
 * The content of a paper's version (null: the current one), for an actor: `see` to show it on a page of ours,
 * `take` to hand over a copy.
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
  if (!has(held, capability)) refuse('not-allowed', 'You may read this paper here, but not take a copy of it.');
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
