import { and, asc, count, eq, gt, ne, or, sql, type SQL } from 'drizzle-orm';
import { followKinds, mostFollowed, type Followed } from '@/core/follow/contract';
import type { ReadInputOf } from '@/core/contract';
import type { NewsLine } from '@/core/desk/news';
import { Refusal, refuse } from '@/core/errors/refusal';
import { needsTally } from '@/core/views/conditions';
import { actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { allColumns } from '../columns/read';
import { momentNow } from '../conditions/moment';
import { meetsAll } from '../conditions/where';
import { db, writableDb } from '../db/client';
import { idIn } from '../db/idIn';
import { apart } from '../db/transaction';
import { document, follow, place, view } from '../db/schema';
import { newsWhere } from '../desk/news';
import { requireWay, waysTo } from '../desk/ways';
import type { Actor } from '../gate/actor';
import { ownOf } from '../gate/visible';
import { standsIn } from '../known/standing';
import { viewIsFor } from '../known/views';

type On = ReadInputOf<'follow.put'>['on'];
const newsDays = 14;
const mostLines = 12;

/** What the caller follows and is still open to them. */
export const followedBy = asks('follow.list', async (actor): Promise<readonly Followed[]> => {
  const personId = ownOf(actor);
  if (personId === null) return [];
  const refs = await refsOf(personId);
  const found = await Promise.all(
    followKinds.map(async (kind) => {
      const ways = await waysTo[kind](actor, refs[kind]);
      return refs[kind].flatMap((ref): Followed[] => {
        const way = ways.get(ref);
        return way ? [{ kind, ref, name: way.name, where: way.where, address: way.address }] : [];
      });
    }),
  );
  return found.flat();
});

async function refsOf(personId: string): Promise<Record<(typeof followKinds)[number], string[]>> {
  const rows = await db().select().from(follow).where(eq(follow.personId, personId)).orderBy(asc(follow.at));
  const of = (kind: (typeof followKinds)[number]) => rows.flatMap((row) => (row.kind === kind ? [row.ref] : []));
  return { paper: of('paper'), place: of('place'), view: of('view') };
}

const viewsFor = (actor: Actor, ids: readonly string[]) =>
  db()
    .select({ spec: view.spec, placeId: view.placeId })
    .from(view)
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
  await requireWay(actor, kind, ref);
  const [found] = kind === 'view' ? await viewsFor(actor, [ref]) : [];
  if (found && needsTally(found.spec.conditions))
    refuse('invalid', 'A view that looks for words, reviews or retention cannot be followed. Bookmark it instead.');
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
  const moment = await momentNow();
  const columns = await allColumns(db());
  return (await viewsFor(actor, ids)).flatMap(({ placeId, spec }) => {
    if (needsTally(spec.conditions)) return [];
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
