import { eq } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { shownForm } from '@/core/reading/form';
import { perform } from '../acts/act';
import { actsInSteps } from '../acts/operation';
import { now } from '../base/clock';
import { inFolder } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { db } from '../db/client';
import { pack, packPicture } from '../db/schema';
import { contentFor, currentOf } from '../documents/content';
import { OpenContent } from '../extraction/openContent';
import { drawPage } from '../extraction/pages';
import type { Actor } from '../gate/actor';
import { packFor, packToChange } from './read';

/** The longer side of the picture on a cover, in pixels: about 200 to the inch of its room there. */
const pictureSize = 1300;

/** Puts a picture on a pack's cover, or takes it off. It is a copy: it stays if the paper it was taken from goes. */
export const setCoverPicture = actsInSteps('pack.setPicture', async (actor, { packId, documentId }) => {
  await packFor(db(), actor, packId, 'amend');
  const picture = documentId === null ? null : await pictureOf(actor, documentId);
  return perform(actor, async (tx) => {
    const { pack: found, place } = await packToChange(tx, actor, packId);
    // Issues that have the one before keep it.
    const [made] =
      picture === null
        ? []
        : await tx
            .insert(packPicture)
            .values({ picture, setBy: actor.personId, setAt: now() })
            .returning({ id: packPicture.id });
    await tx
      .update(pack)
      .set({ pictureId: made?.id ?? null })
      .where(eq(pack.id, packId));
    return { entry: { act: 'pack.changed', subjects: [place.id], detail: { name: found.name } }, result: null };
  });
});

/** A picture of the library as a JPEG, drawn in a caged process. All who get the pack see it, so it takes the right to copy it. */
async function pictureOf(actor: Actor, documentId: string): Promise<Buffer> {
  const content = await contentFor(actor, currentOf(documentId), 'take');
  if (shownForm(content.mediaType) !== 'picture')
    refuse('kind-refused', 'Only a picture can be on the cover. Nothing was changed.');
  const drawn = await inFolder(async (folder) =>
    drawPage(await new OpenContent(content, folder, false).file(), 'picture', 1, pictureSize),
  ).catch((error: unknown) => {
    if (!(error instanceof CagedFault)) throw error;
    return refuse('too-large', 'This picture is too large to be read. Nothing was changed.');
  });
  return drawn ?? refuse('kind-refused', 'This picture cannot be read. Nothing was changed.');
}

/** The picture on the cover of an issue; null where it has none. */
export async function issuedPicture(pictureId: string | null): Promise<Buffer | null> {
  if (pictureId === null) return null;
  const [found] = await db()
    .select({ picture: packPicture.picture })
    .from(packPicture)
    .where(eq(packPicture.id, pictureId));
  return found?.picture ?? null;
}
