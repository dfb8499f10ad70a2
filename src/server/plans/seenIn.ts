import { eq } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { inDossier } from '@/core/places/common';
import { acts } from '../acts/operation';
import { place } from '../db/schema';
import { placeFor } from '../gate/held';
import { planOfSeries } from './read';

/** Sets where a common folder is shown in every dossier: in a planned folder, or in the dossier itself. */
export const setSeenIn = acts('common.seenIn', ['tree'], async (tx, actor, input) => {
  const folder = await placeFor(tx, actor, input.placeId, 'manage');
  if (folder.seenIn === null || folder.parentId === null) refuse('conflict', `“${folder.name}” is no longer common.`);
  const series = await placeFor(tx, actor, folder.parentId, 'manage');
  const { folders } = await planOfSeries(tx, series.id);
  const isThere = folders.some(({ id, timing }) => id === input.seenIn && timing === 'once');
  if (input.seenIn !== inDossier && !isThere)
    refuse('conflict', 'The plan has no such folder in each dossier. Load it again.');
  await tx.update(place).set({ seenIn: input.seenIn }).where(eq(place.id, folder.id));
  return {
    entry: { act: 'folder.seenIn', subjects: [folder.id, series.id], detail: { name: folder.name } },
    result: null,
  };
});
