import { and, asc, count, eq, max, sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import { mostBookmarks } from '@/core/desk/contract';
import type { Bookmark } from '@/core/desk/model';
import { refuse } from '@/core/errors/refusal';
import type { Stamp } from '@/core/files/fileKind';
import { actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { idIn } from '../db/idIn';
import { apart } from '../db/transaction';
import { bookmark, document, place, view } from '../db/schema';
import type { Actor } from '../gate/actor';
import { ownOf, paperAllows, placeIsKnown } from '../gate/visible';
import { namesOn, pathsOf } from '../known/names';
import { standName } from '../known/standing';
import { viewIsFor } from '../known/views';

type On = ReadInputOf<'bookmark.remove'>['on'];

/** The caller's bookmarks in their order. What is no longer open to them is left out, and is there again if it is opened again. */
export const bookmarksOf = asks('bookmarks.mine', async (actor): Promise<readonly Bookmark[]> => {
  const personId = ownOf(actor);
  if (personId === null) return [];
  const rows = await db()
    .select({ kind: bookmark.kind, ref: bookmark.ref, name: bookmark.name })
    .from(bookmark)
    .where(eq(bookmark.personId, personId))
    .orderBy(asc(bookmark.position), asc(bookmark.at));
  const refs = (kind: Bookmark['kind']) => rows.flatMap((row) => (row.kind === kind ? [row.ref] : []));
  const [papers, places, views] = await Promise.all([
    papersAt(actor, refs('paper')),
    placesAt(actor, refs('place')),
    viewsAt(actor, refs('view')),
  ]);
  const known = { paper: papers, place: places, view: views };
  return rows.flatMap(({ kind, ref, name }): Bookmark[] => {
    if (kind === 'search') return [{ kind, ref, name, where: '', address: ref, stamp: null }];
    const found = known[kind].get(ref);
    return found ? [{ kind, ref, stamp: null, ...found }] : [];
  });
});

interface Shown {
  readonly name: string;
  readonly where: string;
  readonly address: string;
  readonly stamp?: Stamp;
}

async function papersAt(actor: Actor, ids: readonly string[]): Promise<Map<string, Shown>> {
  const rows = await db()
    .select({ id: document.id, name: document.title, stamp: document.stamp, where: standName(actor) })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(idIn(document.id, ids), paperAllows(actor, 'see')));
  return new Map(rows.map(({ id, ...row }) => [id, { ...row, address: `/paper/${id}` }]));
}

async function placesAt(actor: Actor, ids: readonly string[]): Promise<Map<string, Shown>> {
  const rows = await db()
    .select({ id: place.id, name: place.name, lineage: place.lineage })
    .from(place)
    .where(and(idIn(place.id, ids), placeIsKnown(actor)));
  const paths = await pathsOf(
    db(),
    actor,
    rows.map(({ lineage }) => lineage),
  );
  return new Map(
    rows.map(({ id, name }, at) => [
      id,
      { name, where: namesOn(paths[at]).slice(0, -1).join(' / '), address: `/place/${id}` },
    ]),
  );
}

async function viewsAt(actor: Actor, ids: readonly string[]): Promise<Map<string, Shown>> {
  const rows = await db()
    .select({ id: view.id, name: view.name, placeId: view.placeId, kind: place.kind, where: place.name })
    .from(view)
    .innerJoin(place, eq(place.id, view.placeId))
    .where(and(idIn(view.id, ids), viewIsFor(actor), placeIsKnown(actor)));
  return new Map(
    rows.map(({ id, name, placeId, kind, where }) => [
      id,
      { name, where, address: `${kind === 'library' ? '/all' : `/place/${placeId}`}?view=${id}` },
    ]),
  );
}

const isOn = (personId: string, { kind, ref }: On) =>
  and(eq(bookmark.personId, personId), eq(bookmark.kind, kind), eq(bookmark.ref, ref));

/** Bookmarks something, last in order. Has no journal entry, as none of these acts: bookmarks are private. */
export const putBookmark = actsInSteps('bookmark.put', async (actor, { on, name }) => {
  await requireKnown(actor, on);
  return apart(async (tx) => {
    const [held] = await tx
      .select({ bookmarks: count(), last: max(bookmark.position) })
      .from(bookmark)
      .where(eq(bookmark.personId, actor.personId));
    if ((held?.bookmarks ?? 0) >= mostBookmarks)
      refuse('invalid', 'At most 500 bookmarks fit. Remove some that are no longer needed.');
    await tx
      .insert(bookmark)
      .values({ personId: actor.personId, ...on, name, position: (held?.last ?? 0) + 1, at: now() })
      .onConflictDoNothing();
    return null;
  });
});

async function requireKnown(actor: Actor, { kind, ref }: On): Promise<void> {
  if (kind === 'search') return;
  const known = { paper: papersAt, place: placesAt, view: viewsAt }[kind];
  if ((await known(actor, [ref])).size === 0) refuse('not-found');
}

/** Removes a bookmark. */
export const removeBookmark = actsInSteps('bookmark.remove', async ({ personId }, { on }) => {
  await writableDb().delete(bookmark).where(isOn(personId, on));
  return null;
});

/** Moves a bookmark before another, or to the end. */
export const reorderBookmark = actsInSteps('bookmark.reorder', ({ personId }, { on, before }) =>
  apart(async (tx) => {
    const rows = await tx
      .select({ kind: bookmark.kind, ref: bookmark.ref })
      .from(bookmark)
      .where(eq(bookmark.personId, personId))
      .orderBy(asc(bookmark.position), asc(bookmark.at))
      .for('update');
    const isSame = (one: On, other: On) => one.kind === other.kind && one.ref === other.ref;
    const moving = rows.find((row) => isSame(row as On, on));
    if (!moving) refuse('not-found');
    const others = rows.filter((row) => row !== moving);
    const at = before === null ? others.length : others.findIndex((row) => isSame(row as On, before));
    if (at < 0) refuse('not-found');
    const order = [...others.slice(0, at), moving, ...others.slice(at)];
    await tx.execute(sql`
      update ${bookmark} set position = numbered.position
      from unnest(${sql.param(order.map(({ kind }) => kind))}::text[], ${sql.param(order.map(({ ref }) => ref))}::text[])
        with ordinality as numbered (kind, ref, position)
      where ${bookmark.personId} = ${personId}::uuid and ${bookmark.kind} = numbered.kind and ${bookmark.ref} = numbered.ref`);
    return null;
  }),
);
