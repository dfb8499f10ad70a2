import { and, asc, count, eq, gt, ne, or, sql, type SQL } from 'drizzle-orm';
import { dayAt } from '@/core/calendar/period';
import { type followKinds, mostFollowed, type Followed } from '@/core/follow/contract';
import type { ReadInputOf } from '@/core/contract';
import type { NewsLine } from '@/core/desk/news';
import { Refusal, refuse } from '@/core/errors/refusal';
import { findsIn } from '@/core/views/conditions';
import { actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { allColumns } from '../columns/read';
import { meetsAll } from '../conditions/where';
import { db, writableDb } from '../db/client';
import { idIn } from '../db/idIn';
import { apart } from '../db/transaction';
import { document, follow, place, view } from '../db/schema';
import { newsWhere } from '../desk/news';
import type { Actor } from '../gate/actor';
import { ownOf, paperAllows, placeAllows } from '../gate/visible';
import { fullName } from '../known/places';
import { standsIn } from '../known/standing';
import { viewIsFor } from '../known/views';
import { librarySettings } from '../library/settings';

type On = ReadInputOf<'follow.put'>['on'];
const newsDays = 14;
const mostLines = 12;

/** What the caller follows and is still open to them. */
export const followedBy = asks('follow.list', async (actor): Promise<readonly Followed[]> => {
  const personId = ownOf(actor);
  if (personId === null) return [];
  const refs = await refsOf(personId);
  const [papers, places, views] = await Promise.all([
    db()
      .select({ ref: document.id, name: document.title })
      .from(document)
      .where(and(idIn(document.id, refs.paper), paperAllows(actor, 'see'))),
    db()
      .select({ ref: place.id, name: fullName })
      .from(place)
      .where(and(idIn(place.id, refs.place), placeAllows(actor, 'see'))),
    viewsFor(actor, refs.view),
  ]);
  return [
    ...places.map((row) => ({ ...row, kind: 'place' as const, address: `/place/${row.ref}` })),
    ...papers.map((row) => ({ ...row, kind: 'paper' as const, address: `/paper/${row.ref}` })),
    ...views.map(({ id, name, placeId, isRoot }) => ({
      ref: id,
      name,
      kind: 'view' as const,
      address: `${isRoot ? '/all' : `/place/${placeId}`}?view=${id}`,
    })),
  ];
});

async function refsOf(personId: string): Promise<Record<(typeof followKinds)[number], string[]>> {
  const rows = await db().select().from(follow).where(eq(follow.personId, personId)).orderBy(asc(follow.at));
  const of = (kind: (typeof followKinds)[number]) => rows.flatMap((row) => (row.kind === kind ? [row.ref] : []));
  return { paper: of('paper'), place: of('place'), view: of('view') };
}

const viewsFor = (actor: Actor, ids: readonly string[]) =>
  db()
    .select({
      id: view.id,
      name: view.name,
      spec: view.spec,
      placeId: view.placeId,
      isRoot: sql<boolean>`${place.kind} = 'library'`,
    })
    .from(view)
    .innerJoin(place, eq(place.id, view.placeId))
    .where(and(idIn(view.id, ids), viewIsFor(actor)));

/** Follows a paper, a place with all below it, or a view. Has no journal entry, as none of these acts: it is private. */
export const putFollow = actsInSteps('follow.put', async (actor, { on }) => {
  await requireFollowable(actor, on);
  return apart(async (tx) => {
    const [held] = await tx.select({ followed: count() }).from(follow).where(eq(follow.personId, actor.personId));
    if ((held?.followed ?? 0) >= mostFollowed)
      refuse('invalid', 'At most 200 things can be followed. Stop following some first.');
    await tx
      .insert(follow)
      .values({ personId: actor.personId, ...on, at: now() })
      .onConflictDoNothing();
    return null;
  });
});

async function requireFollowable(actor: Actor, { kind, ref }: On): Promise<void> {
  if (kind === 'view') {
    const [found] = await viewsFor(actor, [ref]);
    if (!found) refuse('not-found');
    if (findsIn(found.spec.conditions).length > 0)
      refuse('invalid', 'A view that looks for words cannot be followed. Bookmark it instead.');
    return;
  }
  const [found] =
    kind === 'paper'
      ? await db()
          .select({ id: document.id })
          .from(document)
          .where(and(eq(document.id, ref), paperAllows(actor, 'see')))
      : await db()
          .select({ id: place.id })
          .from(place)
          .where(and(eq(place.id, ref), placeAllows(actor, 'see')));
  if (!found) refuse('not-found');
}

/** Stops following something. */
export const removeFollow = actsInSteps('follow.remove', async ({ personId }, { on }) => {
  await writableDb()
    .delete(follow)
    .where(and(eq(follow.personId, personId), eq(follow.kind, on.kind), eq(follow.ref, on.ref)));
  return null;
});

/** What others changed lately in what the caller follows. */
export const newsOfFollowed = asks('follow.news', (actor) =>
  newsSince(actor, new Date(now().getTime() - newsDays * 86_400_000)),
);

/** What others changed since a moment in what a person follows, as far as they may see it now. */
export async function newsSince(actor: Actor, since: Date): Promise<NewsLine[]> {
  const personId = ownOf(actor);
  if (personId === null) return [];
  const refs = await refsOf(personId);
  const within: SQL[] = [];
  if (refs.paper.length > 0) within.push(idIn(document.id, refs.paper));
  if (refs.place.length > 0) within.push(standsIn(actor, sql`${place.lineage} && ${sql.param(refs.place)}::uuid[]`));
  within.push(...(await viewConditions(actor, refs.view)));
  if (within.length === 0) return [];
  const which = and(or(...within), ne(document.changedBy, personId), gt(document.changedAt, since)) ?? sql`false`;
  return newsWhere(actor, which, { most: mostLines });
}

async function viewConditions(actor: Actor, ids: readonly string[]): Promise<SQL[]> {
  if (ids.length === 0) return [];
  const { timeZone, yearStartMonth } = await librarySettings();
  const moment = { timeZone, yearStartMonth, today: dayAt(now().getTime(), timeZone), lookedAt: null };
  const columns = await allColumns(db());
  return (await viewsFor(actor, ids)).flatMap(({ placeId, spec }) => {
    if (findsIn(spec.conditions).length > 0) return [];
    const inside = spec.below ? sql`${place.lineage} @> array[${placeId}::uuid]` : sql`${place.id} = ${placeId}::uuid`;
    try {
      return [sql`(${standsIn(actor, inside)} and ${meetsAll(actor, spec.conditions, columns, moment)})`];
    } catch (error) {
      // It asks for something that is no longer there, such as a column: it says nothing then.
      if (error instanceof Refusal) return [];
      throw error;
    }
  });
}
