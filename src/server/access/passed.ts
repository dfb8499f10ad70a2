import { and, desc, eq, gt, isNull, ne, or, sql, type SQL } from 'drizzle-orm';
import { bitOf } from '@/core/access/capability';
import type { AccessOn } from '@/core/access/contract';
import { acts, asks } from '../acts/operation';
import { now } from '../base/clock';
import { db } from '../db/client';
import { accessGrant, document, passedMark, person, personGroup, place } from '../db/schema';
import { standId, standName } from '../known/standing';
import { fullName } from '../known/places';
import type { Actor } from '../gate/actor';
import { ownOf, paperAllows, placeAllows, placeIsKnown } from '../gate/visible';

const most = 300;
const givesSight = sql`${accessGrant.gives} & ${bitOf('see')} <> 0`;

const giverName = sql<
  string | null
>`(select giver.name from ${person} as giver where giver.id = ${accessGrant.givenBy})`;
const receiverName = sql<string | null>`coalesce(
  (select receiver.name::text from ${person} as receiver where receiver.id = ${accessGrant.personId}),
  (select receiving.name::text from ${personGroup} as receiving where receiving.id = ${accessGrant.groupId}))`;

/** Columns of both lists. Grants on places and on papers are read separately, since they need different conditions of the gate. */
const shared = {
  at: accessGrant.givenAt,
  set: accessGrant.gives,
  personId: accessGrant.personId,
  groupId: accessGrant.groupId,
  givenByName: giverName,
  toName: receiverName,
  seenAt: passedMark.seenAt,
};

const papersGranted = (actor: Actor, which: SQL) =>
  db()
    .select({
      ...shared,
      id: document.id,
      name: document.title,
      whereId: standId(actor),
      whereName: standName(actor),
      mayWithdraw: sql<boolean>`${paperAllows(actor, 'manage')}`,
    })
    .from(accessGrant)
    .innerJoin(document, eq(document.id, accessGrant.documentId))
    .innerJoin(place, eq(place.id, document.homeId))
    .leftJoin(
      passedMark,
      and(eq(passedMark.documentId, document.id), sql`${passedMark.personId} = ${ownOf(actor)}::uuid`),
    )
    .where(and(which, givesSight, paperAllows(actor, 'see')))
    .orderBy(desc(accessGrant.givenAt), accessGrant.id)
    .limit(most);

const placesGranted = (actor: Actor, which: SQL) =>
  db()
    .select({
      ...shared,
      id: place.id,
      name: fullName,
      whereId: sql<string | null>`above.id`,
      whereName: sql<string | null>`above.name::text`,
      mayWithdraw: sql<boolean>`${placeAllows(actor, 'manage')}`,
    })
    .from(accessGrant)
    .innerJoin(place, eq(place.id, accessGrant.placeId))
    // The place above is a step to one that the caller may see, so they may know of it.
    .leftJoin(sql`${place} as above`, sql`above.id = ${place.parentId} and above.kind <> 'library'`)
    .leftJoin(passedMark, and(eq(passedMark.placeId, place.id), sql`${passedMark.personId} = ${ownOf(actor)}::uuid`))
    .where(and(which, givesSight, placeAllows(actor, 'see'), placeIsKnown(actor)))
    .orderBy(desc(accessGrant.givenAt), accessGrant.id)
    .limit(most);

type Granted = Awaited<ReturnType<typeof papersGranted>>[number] | Awaited<ReturnType<typeof placesGranted>>[number];

async function granted(actor: Actor, which: SQL): Promise<(Granted & { kind: AccessOn['kind'] })[]> {
  const papers = (await papersGranted(actor, which)).map((row) => ({ ...row, kind: 'paper' as const }));
  const places = (await placesGranted(actor, which)).map((row) => ({ ...row, kind: 'place' as const }));
  return [...papers, ...places].sort((a, b) => b.at.getTime() - a.at.getTime()).slice(0, most);
}

const told = ({ kind, id, name, whereId, whereName, at, set }: Granted & { kind: AccessOn['kind'] }) => ({
  on: { kind, id },
  name,
  where: whereId === null || whereName === null ? null : { id: whereId, name: whereName },
  at: at.toISOString(),
  set,
});

/** What others shared with the caller by name, newest first, less what the caller removed from the list. */
export const passedToMe = asks('passed.toMe', async (actor) => {
  const mine = and(
    eq(accessGrant.personId, actor.personId),
    or(isNull(accessGrant.givenBy), ne(accessGrant.givenBy, actor.personId)),
    or(isNull(passedMark.takenOutAt), gt(accessGrant.givenAt, passedMark.takenOutAt)),
  );
  const rows = await granted(actor, mine ?? sql`false`);
  return rows.map((row) => ({
    ...told(row),
    by: row.givenByName,
    seen: row.seenAt !== null && row.seenAt >= row.at,
  }));
});

/** What the caller shared with others, newest first, as far as the caller may still see it. */
export const passedByMe = asks('passed.byMe', async (actor) => {
  const mine = and(
    eq(accessGrant.givenBy, actor.personId),
    or(isNull(accessGrant.personId), ne(accessGrant.personId, actor.personId)),
  );
  const rows = await granted(actor, mine ?? sql`false`);
  return rows.map((row) => ({
    ...told(row),
    subject:
      row.personId !== null
        ? { kind: 'person', id: row.personId }
        : row.groupId !== null
          ? { kind: 'group', id: row.groupId }
          : { kind: 'everyone' },
    to: row.toName ?? 'Everyone signed in',
    mayWithdraw: row.mayWithdraw,
  }));
});

/** Stores what the caller did with an item shared with them. Private to them, so it has no journal entry. */
export const markPassed = acts('passed.mark', [], async (tx, actor, { on, as }) => {
  const at = now();
  const set =
    as === 'seen' ? { seenAt: at } : as === 'unseen' ? { seenAt: null } : { takenOutAt: as === 'takenOut' ? at : null };
  // Refuses items that were never shared with them, so that a real id cannot be told from a made-up one.
  const known = new Set(await passedTo(actor));
  const marked = on.filter(({ kind, id }) => known.has(`${kind} ${id}`));
  if (marked.length > 0)
    await tx
      .insert(passedMark)
      .values(
        marked.map(({ kind, id }) => ({
          personId: actor.personId,
          placeId: kind === 'place' ? id : null,
          documentId: kind === 'paper' ? id : null,
          ...set,
        })),
      )
      .onConflictDoUpdate({ target: [passedMark.personId, passedMark.placeId, passedMark.documentId], set });
  return { entry: null, result: null };
});

/** Keys of everything that was shared with someone by name, including what they removed from their list. */
async function passedTo(actor: Actor): Promise<string[]> {
  const rows = await db()
    .select({ placeId: accessGrant.placeId, documentId: accessGrant.documentId })
    .from(accessGrant)
    .where(eq(accessGrant.personId, actor.personId));
  return rows.map((row) => (row.placeId === null ? `paper ${row.documentId ?? ''}` : `place ${row.placeId}`));
}
