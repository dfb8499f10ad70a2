import { and, asc, eq, sql, type SQL } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { refuse } from '@/core/errors/refusal';
import { nameKey } from '@/core/text/fold';
import { openingView, type SavedView } from '@/core/views/saved';
import { viewSpecSchema, plainView } from '@/core/views/spec';
import { reorder } from '../db/order';
import { acts, asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { capabilitiesIn } from '../gate/held';
import { placeIsKnown } from '../gate/visible';
import { db, type Reader, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { viewIsFor } from '../known/views';
import { membership, person, personGroup, place, scopeEntry, view, viewGroup } from '../db/schema';
import { columnsIn } from '../columns/inForce';

async function knownPlace(reader: Reader, actor: Actor, placeId: string) {
  const [found] = await reader
    .select({ id: place.id, name: place.name, kind: place.kind, lineage: place.lineage, scopeId: place.scopeId })
    .from(place)
    .where(and(eq(place.id, placeId), placeIsKnown(actor)));
  return found ?? refuse('not-found');
}

/** The caller's views of a place and of the places above it. */
export const viewsAt = asks('views.at', async (actor, { placeId }) => {
  const at = await knownPlace(db(), actor, placeId);
  const rows = await db()
    .select({
      id: view.id,
      placeId: view.placeId,
      placeName: place.name,
      placeKind: place.kind,
      scopeId: place.scopeId,
      name: view.name,
      purpose: view.purpose,
      audience: view.audience,
      spec: view.spec,
      opensHere: view.opensHere,
      ownerId: view.ownerId,
      ownerName: person.name,
      revision: view.revision,
      groupIds: sql<
        string[]
      >`array(select ${viewGroup.groupId}::text from ${viewGroup} where ${viewGroup.viewId} = ${view.id})`,
      others: othersOf(actor),
    })
    .from(view)
    .innerJoin(place, eq(place.id, view.placeId))
    .innerJoin(person, eq(person.id, view.ownerId))
    .where(and(idIn(view.placeId, at.lineage), placeIsKnown(actor), viewIsFor(actor)))
    .orderBy(asc(view.position), asc(view.name), asc(view.id));
  const manages = new Map<string, boolean>();
  for (const { placeId: on, scopeId } of rows)
    if (!manages.has(on)) manages.set(on, has(await capabilitiesIn(db(), actor, scopeId), 'manage'));
  const views = rows
    .sort((a, b) => at.lineage.indexOf(b.placeId) - at.lineage.indexOf(a.placeId))
    .map(({ ownerId, placeKind, scopeId: _scope, ...row }): SavedView => ({
      ...row,
      placeName: placeKind === 'library' ? 'the whole library' : row.placeName,
      // Reads specs saved by older versions; one that cannot be read becomes the plain list, never an error.
      spec: viewSpecSchema.safeParse(row.spec).data ?? plainView,
      mayChange: ownerId === actor.personId || (row.audience !== 'me' && manages.get(row.placeId) === true),
    }));
  return {
    views,
    opensId: openingView(views, at.lineage)?.id ?? null,
    mayShare: has(await capabilitiesIn(db(), actor, at.scopeId), 'manage'),
    groups: await groupsFor(actor),
    columns: await columnsIn(actor, placeId, true),
  };
});

/** How many people other than the caller a view is for: members of its groups, or those who may see its place. */
const othersOf = (actor: Actor): SQL<number> => sql<number>`(case ${view.audience}
  when 'me' then 0
  when 'groups' then (select count(distinct ${membership.personId}) from ${membership}
    join ${viewGroup} on ${viewGroup.groupId} = ${membership.groupId}
    where ${viewGroup.viewId} = ${view.id} and ${membership.personId} <> ${actor.personId})
  else (select count(*) from ${person} as reader where reader.active and reader.id <> ${actor.personId} and (reader.keeper
    or exists (select from ${scopeEntry} where ${scopeEntry.personId} = reader.id and ${scopeEntry.scopeId} = ${place.scopeId})))
  end)::int`;

/** The groups the caller can save a view for: all, if they may know all groups, or else their own. */
async function groupsFor(actor: Actor): Promise<{ id: string; name: string }[]> {
  const mine = sql`exists (select from ${membership} where ${membership.groupId} = ${personGroup.id} and ${membership.personId} = ${actor.personId})`;
  return db()
    .select({ id: personGroup.id, name: personGroup.name })
    .from(personGroup)
    .where(actor.keeper ? sql`true` : mine)
    .orderBy(personGroup.name);
}

/** Views for oneself need `see` at the place; views for others need `manage`. */
async function placeToSaveOn(tx: Tx, actor: Actor, placeId: string, audience: SavedView['audience']) {
  const at = await knownPlace(tx, actor, placeId);
  if (audience !== 'me' && !has(await capabilitiesIn(tx, actor, at.scopeId), 'manage')) refuse('not-allowed');
  return at;
}

interface ViewName {
  readonly id: string;
  readonly name: string;
  readonly audience: SavedView['audience'];
}

/** The journal of a place has only views for everyone; the names of others are private. */
const entryFor = (
  act: 'view.saved' | 'view.changed' | 'view.removed' | 'view.reordered',
  told: ViewName,
  at: { readonly id: string; readonly name: string },
) => ({
  act,
  subjects: told.audience === 'all' ? [told.id, at.id] : [told.id],
  detail: { name: told.name, place: at.name },
});

async function setGroups(
  tx: Tx,
  viewId: string,
  audience: SavedView['audience'],
  groupIds: readonly string[],
): Promise<void> {
  await tx.delete(viewGroup).where(eq(viewGroup.viewId, viewId));
  if (audience !== 'groups') return;
  if (groupIds.length === 0) refuse('invalid', 'Choose at least one group that the view is for.');
  const there = await tx.select({ id: personGroup.id }).from(personGroup).where(idIn(personGroup.id, groupIds));
  if (there.length < new Set(groupIds).size) refuse('gone', 'One of the groups is not there any more. Choose again.');
  await tx.insert(viewGroup).values(there.map(({ id }) => ({ viewId, groupId: id })));
}

/** At most one view per place and audience opens by default: the newest one set to. */
async function onlyOpening(
  tx: Tx,
  viewId: string,
  ownerId: string,
  input: { audience: SavedView['audience']; opensHere: boolean },
  placeId: string,
) {
  if (!input.opensHere) return;
  const same =
    input.audience === 'me'
      ? and(eq(view.audience, 'me'), eq(view.ownerId, ownerId))
      : eq(view.audience, input.audience);
  await tx
    .update(view)
    .set({ opensHere: false })
    .where(and(eq(view.placeId, placeId), same, sql`${view.id} <> ${viewId}`));
}

/** Saves a view. */
export const saveView = acts('view.save', [], async (tx, actor, input) => {
  const at = await placeToSaveOn(tx, actor, input.placeId, input.audience);
  const [made] = await tx
    .insert(view)
    .values({
      placeId: at.id,
      ownerId: actor.personId,
      name: input.name,
      nameKey: nameKey(input.name),
      purpose: input.purpose,
      audience: input.audience,
      spec: input.spec,
      opensHere: input.opensHere,
      position: sql`(select coalesce(max(position), 0) + 1 from ${view} where place_id = ${at.id})`,
    })
    .returning({ id: view.id });
  if (!made) throw new Error('The view was not saved');
  await setGroups(tx, made.id, input.audience, input.groupIds);
  await onlyOpening(tx, made.id, actor.personId, input, at.id);
  return { entry: entryFor('view.saved', { ...input, id: made.id }, at), result: made };
});

/** A view that the caller may change, with its place. */
async function changeable(tx: Tx, actor: Actor, viewId: string) {
  const [found] = await tx
    .select({
      id: view.id,
      placeId: view.placeId,
      ownerId: view.ownerId,
      audience: view.audience,
      name: view.name,
      revision: view.revision,
    })
    .from(view)
    .where(and(eq(view.id, viewId), viewIsFor(actor)))
    .for('update');
  if (!found) refuse('not-found');
  const at = await knownPlace(tx, actor, found.placeId);
  const manages = has(await capabilitiesIn(tx, actor, at.scopeId), 'manage');
  if (found.ownerId !== actor.personId && !(manages && found.audience !== 'me')) refuse('not-allowed');
  return { ...found, at };
}

/** Changes a saved view. */
export const changeView = acts('view.change', [], async (tx, actor, input) => {
  const found = await changeable(tx, actor, input.viewId);
  if (found.revision !== input.revision) refuse('conflict');
  await placeToSaveOn(tx, actor, found.placeId, input.audience);
  const revision = input.revision + 1;
  await tx
    .update(view)
    .set({
      name: input.name,
      nameKey: nameKey(input.name),
      purpose: input.purpose,
      audience: input.audience,
      spec: input.spec,
      opensHere: input.opensHere,
      revision,
    })
    .where(eq(view.id, found.id));
  await setGroups(tx, found.id, input.audience, input.groupIds);
  await onlyOpening(tx, found.id, found.ownerId, input, found.placeId);
  return { entry: entryFor('view.changed', { ...input, id: found.id }, found.at), result: { revision } };
});

/** Removes a saved view. */
export const removeView = acts('view.remove', [], async (tx, actor, input) => {
  const found = await changeable(tx, actor, input.viewId);
  if (found.revision !== input.revision) refuse('conflict');
  await tx.delete(view).where(eq(view.id, found.id));
  return { entry: entryFor('view.removed', found, found.at), result: null };
});

/** Moves a view's tab before another of the same place (null: to the end). */
export const reorderView = acts('view.reorder', [], async (tx, actor, input) => {
  const moved = await changeable(tx, actor, input.viewId);
  const rows = await tx
    .select({ id: view.id })
    .from(view)
    .where(eq(view.placeId, moved.placeId))
    .orderBy(asc(view.position), asc(view.name), asc(view.id))
    .for('update');
  const ids = rows.map((row) => row.id);
  await reorder(tx, view, ids, moved.id, input.beforeId);
  return { entry: entryFor('view.reordered', moved, moved.at), result: null };
});
