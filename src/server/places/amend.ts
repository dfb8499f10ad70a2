import { and, arrayContains, eq, ne, sql } from 'drizzle-orm';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { readReference } from '@/core/dossiers/reference';
import { nameKey, searchKey } from '@/core/text/fold';
import { reorder } from '../db/order';
import { acts } from '../acts/operation';
import { placeFor } from '../gate/held';
import { recomputeGiven } from '../columns/given';
import type { Tx } from '../db/client';
import { document, filing, place, upload } from '../db/schema';
import { requireFreeNames } from '../tree/names';
import { isUnfinished } from '../db/unfinished';
import { checkedPattern } from './create';

/** Renames a place if it still has the revision the caller saw. A filing year cannot be renamed: its name is its label. */
export const renamePlace = acts('place.rename', ['tree', 'given'], async (tx, actor, input) => {
  const found = await placeFor(tx, actor, input.placeId, 'amend');
  if (found.kind === 'year' || found.kind === 'library') refuse('invalid', 'A filing year is named by its dates.');
  if (found.kind === 'series' && !actor.keeper) refuse('not-allowed', 'Only a keeper renames series.');
  await requireFreeNames(tx, actor, [{ parentId: found.parentId ?? found.id, name: input.name }], found.id);
  await change(tx, input.placeId, input.revision, {
    name: input.name,
    nameKey: nameKey(input.name),
    searchKey: searchKey(`${found.reference ?? ''} ${input.name}`),
  });
  // Columns can be bound to the dossier's name.
  await recomputeGiven(tx, found.id);
  return {
    entry: { act: 'place.renamed', subjects: [found.id], detail: { from: found.name, to: input.name } },
    result: { revision: input.revision + 1 },
  };
});

type Change = Partial<typeof place.$inferInsert>;

async function change(tx: Tx, placeId: string, revision: number, values: Change): Promise<void> {
  const changed = await tx
    .update(place)
    .set({ ...values, revision: revision + 1 })
    .where(and(eq(place.id, placeId), eq(place.revision, revision)))
    .returning({ id: place.id });
  if (changed.length === 0) refuse('conflict');
}

/** Sets the reference pattern of a series. */
export const setPattern = acts('series.setPattern', [], async (tx, actor, input) => {
  const found = await placeFor(tx, actor, input.placeId, 'manage');
  if (found.kind !== 'series') refuse('invalid', 'Only a series has a reference pattern.');
  const pattern = checkedPattern(input.referencePattern);
  await change(tx, found.id, input.revision, { referencePattern: pattern });
  return {
    entry: { act: 'series.patternSet', subjects: [found.id], detail: { name: found.name, pattern } },
    result: null,
  };
});

/** Changes the reference of a dossier. */
export const setReference = acts('dossier.setReference', [], async (tx, actor, input) => {
  const found = await placeFor(tx, actor, input.placeId, 'manage');
  if (found.kind !== 'dossier') refuse('invalid', 'Only a dossier has a reference.');
  const typed = input.reference?.trim() ?? '';
  const reference = typed === '' ? null : orRefuse(readReference(typed));
  await change(tx, found.id, input.revision, { reference, searchKey: searchKey(`${reference ?? ''} ${found.name}`) });
  const detail = { name: found.name, from: found.reference, to: reference };
  return { entry: { act: 'dossier.referenceSet', subjects: [found.id], detail }, result: null };
});

/** Sets or removes a folder's meeting day. Columns bound to it follow. */
export const setMeeting = acts('folder.setMeeting', ['tree', 'given'], async (tx, actor, input) => {
  const found = await placeFor(tx, actor, input.placeId, 'amend');
  if (found.kind !== 'folder') refuse('invalid', 'Only a folder is one of a meeting.');
  await change(tx, found.id, input.revision, { meetingDay: input.meetingDay });
  const papers = await recomputeGiven(tx, found.id);
  const entry =
    input.meetingDay === null
      ? ({ act: 'folder.meetingUnset', detail: { name: found.name } } as const)
      : ({ act: 'folder.meetingSet', detail: { name: found.name, day: input.meetingDay } } as const);
  return { entry: { ...entry, subjects: [found.id] }, result: { papers } };
});

/** Moves a place before one of its siblings (null: to the end), for everyone. */
export const reorderPlace = acts('place.reorder', [], async (tx, actor, input) => {
  const moved = await placeFor(tx, actor, input.placeId, 'see');
  if (moved.parentId === null) refuse('invalid', 'The library itself has no order to change.');
  const [parent] = await tx.select().from(place).where(eq(place.id, moved.parentId)).for('no key update');
  if (!parent) refuse('not-found');
  if (parent.kind === 'library') {
    if (!actor.keeper) refuse('not-allowed', 'Only a keeper orders the series.');
  } else await placeFor(tx, actor, parent.id, 'manage');
  const siblings = await tx
    .select({ id: place.id })
    .from(place)
    .where(eq(place.parentId, parent.id))
    .orderBy(place.position, place.name, place.id);
  const ids = siblings.map((row) => row.id);
  await reorder(tx, place, ids, moved.id, input.beforeId);
  const detail = { name: parent.name, moved: moved.name };
  return { entry: { act: 'place.reordered', subjects: [parent.id, moved.id], detail }, result: null };
});

/** Gives a place another colour. */
export const recolourPlace = acts('place.recolour', [], async (tx, actor, input) => {
  const found = await placeFor(tx, actor, input.placeId, 'amend');
  await tx.update(place).set({ colour: input.colour }).where(eq(place.id, found.id));
  const detail = { name: found.name, colour: input.colour };
  return { entry: { act: 'place.recoloured', subjects: [found.id], detail }, result: null };
});

/** Removes an empty place; a dossier may contain empty filing years. Refuses if papers of it are in the disposal tray. */
export const removePlace = acts('place.remove', ['tree'], async (tx, actor, input) => {
  const found = await placeFor(tx, actor, input.placeId, 'manage');
  if (found.parentId === null || found.kind === 'year')
    refuse('invalid', 'A filing year stays while the library keeps it.');
  const below = tx
    .select({ id: place.id })
    .from(place)
    .where(arrayContains(place.lineage, [found.id]));
  const [held] = await tx
    .select({ id: document.id })
    .from(document)
    .where(sql`${document.homeId} in ${below}`)
    .limit(1);
  const [inner] = await tx
    .select({ id: place.id })
    .from(place)
    .where(and(arrayContains(place.lineage, [found.id]), ne(place.id, found.id), ne(place.kind, 'year')))
    .limit(1);
  const [coming] = await tx
    .select({ id: upload.id })
    .from(upload)
    .where(and(sql`${upload.placeId} in ${below}`, isUnfinished))
    .limit(1);
  const [listed] = await tx
    .select({ id: filing.id })
    .from(filing)
    .where(sql`${filing.placeId} in ${below}`)
    .limit(1);
  if (held || inner || coming || listed) refuse('not-empty');
  await tx.delete(place).where(and(arrayContains(place.lineage, [found.id]), eq(place.kind, 'year')));
  await tx.delete(place).where(eq(place.id, found.id));
  return {
    entry: { act: 'place.removed', subjects: [found.id, found.parentId], detail: { name: found.name } },
    result: { parentId: found.parentId },
  };
});
