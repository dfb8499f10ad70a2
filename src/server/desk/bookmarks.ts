import { and, asc, count, eq, max, sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import { mostBookmarks } from '@/core/desk/contract';
import type { Bookmark } from '@/core/desk/model';
import { refuse } from '@/core/errors/refusal';
import { actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { apart } from '../db/transaction';
import { bookmark } from '../db/schema';
import { ownOf } from '../gate/visible';
import { requireWay, waysTo } from './ways';

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
    waysTo.paper(actor, refs('paper')),
    waysTo.place(actor, refs('place')),
    waysTo.view(actor, refs('view')),
  ]);
  const known = { paper: papers, place: places, view: views };
  return rows.flatMap(({ kind, ref, name }): Bookmark[] => {
    if (kind === 'search') return [{ kind, ref, name, where: '', address: ref, stamp: null }];
    const found = known[kind].get(ref);
    return found ? [{ kind, ref, stamp: null, ...found }] : [];
  });
});

const isOn = (personId: string, { kind, ref }: On) =>
  and(eq(bookmark.personId, personId), eq(bookmark.kind, kind), eq(bookmark.ref, ref));

/** Bookmarks something, last in order. Has no journal entry, as none of these acts: bookmarks are private. */
export const putBookmark = actsInSteps('bookmark.put', async (actor, { on, name }) => {
  if (on.kind !== 'search') await requireWay(actor, on.kind, on.ref);
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
    const moving = rows.find((row) => isSame(row, on));
    if (!moving) refuse('not-found');
    const others = rows.filter((row) => row !== moving);
    const at = before === null ? others.length : others.findIndex((row) => isSame(row, before));
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
