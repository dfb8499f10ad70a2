import path from 'node:path';
import { and, eq, or } from 'drizzle-orm';
import { Refusal, refuse } from '@/core/errors/refusal';
import { actsInSteps } from '../acts/operation';
import { perform } from '../acts/act';
import { now } from '../base/clock';
import { bytesFile, inFolder, madeBytes } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { readCaged } from '../cage/reader';
import { db } from '../db/client';
import { document, paperCover, reading, version } from '../db/schema';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { paperAllows, paperIsDisposed } from '../gate/visible';
import { contentFor, currentOf } from './content';

/** The longer side of a cover's picture, in pixels. */
const coverSize = 560;

/** Chooses what a paper's cover shows. A picture is copied: it stays if the paper it was taken from goes. */
export const setCover = actsInSteps('paper.setCover', async (actor, { documentId, cover }) => {
  await papersFor(db(), actor, [documentId], 'amend');
  const picture =
    cover === null ? null : 'ofPaper' in cover ? await firstPage(actor, cover.ofPaper) : await drawn(cover.picture);
  return perform(actor, async (tx) => {
    const [paper] = await papersFor(tx, actor, [documentId], 'amend');
    if (!paper) refuse('not-found');
    const [gone] = await tx.delete(paperCover).where(eq(paperCover.documentId, documentId)).returning();
    if (picture) await tx.insert(paperCover).values({ documentId, picture, setBy: actor.personId, setAt: now() });
    else if (!gone) return { entry: null, result: null };
    await tx
      .update(document)
      .set({ revision: paper.revision + 1, changedBy: actor.personId, changedAt: now() })
      .where(eq(document.id, documentId));
    const entry = {
      act: 'paper.coverSet',
      subjects: [documentId, paper.homeId],
      detail: { title: paper.title },
    } as const;
    return { entry, result: null };
  });
});

/** The first page of a paper. Whoever sees the cover need not see that paper: so it takes the right to copy it. */
async function firstPage(actor: Actor, documentId: string): Promise<Buffer> {
  await contentFor(actor, currentOf(documentId), 'take');
  const { picture } = await pictureFor(actor, documentId, 'firstPage').catch((error: unknown) => {
    if (!(error instanceof Refusal)) throw error;
    return refuse('invalid', 'That paper has no picture of its first page.');
  });
  return picture;
}

/** A picture from outside, drawn anew in a caged process. */
async function drawn(base64: string): Promise<Buffer> {
  return inFolder(async (folder) => {
    const file = await bytesFile(folder, Buffer.from(base64, 'base64'));
    const { drawn: done } = await readCaged('picture', file, { page: 1, longestSide: coverSize });
    const made = done ? await madeBytes(path.join(folder, 'picture')) : null;
    return made ?? refuse('kind-refused', 'This is not a picture that can be read. Nothing was changed.');
  }).catch((error: unknown) => {
    if (!(error instanceof CagedFault)) throw error;
    return refuse('too-large', 'This picture is too large to be read. Nothing was changed.');
  });
}

/**
 * A paper's picture, a JPEG: the cover chosen for it, or its first page. Refuses as not found if there is none (yet).
 * @returns also what changes with the picture
 */
export async function pictureFor(actor: Actor, documentId: string, which: 'cover' | 'firstPage' = 'cover') {
  const [found] = await db()
    .select({
      firstPage: reading.picture,
      sha256: version.sha256,
      cover: paperCover.picture,
      coverAt: paperCover.setAt,
    })
    .from(document)
    .innerJoin(version, eq(version.id, document.versionId))
    .leftJoin(reading, eq(reading.sha256, version.sha256))
    .leftJoin(paperCover, eq(paperCover.documentId, document.id))
    .where(and(eq(document.id, documentId), or(paperAllows(actor, 'see'), paperIsDisposed(actor))));
  const picture = (which === 'cover' ? found?.cover : null) ?? found?.firstPage;
  if (!found || !picture) refuse('not-found');
  return { picture, mark: picture === found.cover ? `${found.coverAt?.getTime() ?? 0}` : found.sha256 };
}
