import { and, asc, count, desc, eq, isNull, or, sql } from 'drizzle-orm';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { checkHeldConditions } from '@/core/holds/check';
import type { HeldThing, HeldThings, HoldRow } from '@/core/holds/contract';
import { counted } from '@/core/text/measure';
import { checkConditions } from '@/core/views/property';
import { acts, asks } from '../acts/operation';
import { now } from '../base/clock';
import { allColumns } from '../columns/read';
import { db, type Reader, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, hold, holdOn, person, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { papersFor, placeFor } from '../gate/held';
import { requireKeeper } from '../gate/keeper';
import { paperAllows, paperIsDisposed } from '../gate/visible';
import { fullName } from '../known/places';
import { heldAmong, paperIsHeld } from './held';

/** The holds that a paper is under: told to whoever sees the paper. */
export const holdsOf = asks('holds.of', async (actor, { documentId }) => {
  await papersFor(db(), actor, [documentId], 'see');
  const holds = (await heldAmong(db(), [documentId])).get(documentId) ?? [];
  return holds.map((each) => ({ ...each, placedAt: each.placedAt.toISOString() }));
});

/** So many things of a hold are listed. */
const mostListed = 50;

/** All holds, those that stand first, newest first. */
export const listHolds = asks('holds.list', async (actor): Promise<readonly HoldRow[]> => {
  requireKeeper(actor);
  const rows = await db()
    .select({
      id: hold.id,
      name: hold.name,
      reason: hold.reason,
      placedBy: sql<string>`(select name from ${person} where ${person.id} = ${hold.placedBy})`,
      placedAt: hold.placedAt,
      liftedBy: sql<string | null>`(select name from ${person} where ${person.id} = ${hold.liftedBy})`,
      liftedAt: hold.liftedAt,
      liftReason: hold.liftReason,
      wasOn: hold.wasOn,
      revision: hold.revision,
    })
    .from(hold)
    .orderBy(sql`${hold.liftedAt} is not null`, desc(hold.placedAt));
  return Promise.all(
    rows.map(async (row): Promise<HoldRow> => {
      const isLifted = row.liftedAt !== null;
      const [things, [total], [under]] = await Promise.all([
        thingsOf(db(), row.id),
        db().select({ things: count() }).from(holdOn).where(eq(holdOn.holdId, row.id)),
        isLifted
          ? [{ papers: 0 }]
          : db()
              .select({ papers: count() })
              .from(document)
              .where(await paperIsHeld(db(), row.id)),
      ]);
      return {
        ...row,
        placedAt: row.placedAt.toISOString(),
        liftedAt: row.liftedAt?.toISOString() ?? null,
        things: things.slice(0, mostListed),
        thingCount: total?.things ?? 0,
        papers: under?.papers ?? 0,
      };
    }),
  );
});

async function thingsOf(reader: Reader, holdId: string): Promise<HeldThing[]> {
  const rows = await reader
    .select({
      id: holdOn.id,
      kind: holdOn.kind,
      placeId: holdOn.placeId,
      placeName: sql<string | null>`case when ${place.id} is not null then ${fullName} end`,
      documentId: holdOn.documentId,
      title: document.title,
      view: holdOn.view,
    })
    .from(holdOn)
    .leftJoin(place, eq(place.id, holdOn.placeId))
    .leftJoin(document, eq(document.id, holdOn.documentId))
    .where(eq(holdOn.holdId, holdId))
    .orderBy(asc(holdOn.kind), asc(document.title), asc(holdOn.id));
  return rows.map(({ id, kind, placeId, placeName, documentId, title, view }) => ({
    id,
    kind,
    name: (kind === 'place' ? placeName : kind === 'paper' ? title : view?.name) ?? '',
    address: kind === 'paper' ? `/paper/${documentId ?? ''}` : `/place/${placeId ?? view?.placeId ?? ''}`,
  }));
}

/** Puts a hold on things: from then on nothing under it is destroyed. */
export const placeHold = acts('hold.place', [], async (tx, actor, { name, reason, on }) => {
  requireKeeper(actor);
  const [made] = await tx
    .insert(hold)
    .values({ name, reason, placedBy: actor.personId, placedAt: now() })
    .returning({ id: hold.id });
  if (!made) throw new Error('The hold was not kept');
  await putUnder(tx, actor, made.id, on);
  const detail = { name, reason, count: thingsInWords(on) };
  return { entry: { act: 'hold.placed', subjects: subjectsOf(on), detail }, result: { holdId: made.id } };
});

/** Puts further things under a hold. What is under it already stays. */
export const extendHold = acts('hold.extend', [], async (tx, actor, { holdId, on, revision }) => {
  requireKeeper(actor);
  const found = await standing(tx, holdId, revision);
  await putUnder(tx, actor, holdId, on);
  const detail = { name: found.name, count: thingsInWords(on) };
  return { entry: { act: 'hold.extended', subjects: subjectsOf(on), detail }, result: null };
});

/** Takes one thing out of a hold. */
export const releaseFromHold = acts('hold.release', [], async (tx, actor, { holdId, thingId, revision }) => {
  requireKeeper(actor);
  const found = await standing(tx, holdId, revision);
  const thing = (await thingsOf(tx, holdId)).find(({ id }) => id === thingId);
  if (!thing) refuse('not-found');
  const [gone] = await tx
    .delete(holdOn)
    .where(and(eq(holdOn.holdId, holdId), eq(holdOn.id, thingId)))
    .returning({ placeId: holdOn.placeId, documentId: holdOn.documentId });
  const detail = { name: found.name, thing: thing.name };
  const subjects = [gone?.placeId, gone?.documentId].flatMap((id) => id ?? []);
  return { entry: { act: 'hold.released', subjects, detail }, result: null };
});

/** Lifts a hold: what it was on is kept in words, and may be destroyed again. */
export const liftHold = acts('hold.lift', [], async (tx, actor, { holdId, reason, revision }) => {
  requireKeeper(actor);
  const found = await standing(tx, holdId, revision);
  const things = await thingsOf(tx, holdId);
  await tx
    .update(hold)
    .set({
      liftedBy: actor.personId,
      liftedAt: now(),
      liftReason: reason,
      wasOn: things.slice(0, 1000).map(({ name }) => name),
    })
    .where(eq(hold.id, holdId));
  await tx.delete(holdOn).where(eq(holdOn.holdId, holdId));
  return { entry: { act: 'hold.lifted', subjects: [], detail: { name: found.name, reason } }, result: null };
});

/** The hold, not lifted, as it was seen; its revision goes on. */
async function standing(tx: Tx, holdId: string, revision: number) {
  const [found] = await tx
    .update(hold)
    .set({ revision: revision + 1 })
    .where(and(eq(hold.id, holdId), eq(hold.revision, revision), isNull(hold.liftedAt)))
    .returning({ name: hold.name });
  if (!found) refuse('conflict');
  return found;
}

async function putUnder(tx: Tx, actor: Actor, holdId: string, on: HeldThings): Promise<void> {
  const { placeIds, documentIds, views } = on;
  if (placeIds.length + documentIds.length + views.length === 0) refuse('invalid', 'Say what the hold is on.');
  for (const placeId of new Set(placeIds)) await placeFor(tx, actor, placeId, 'see');
  await requirePapers(tx, actor, documentIds);
  const columns = await allColumns(tx);
  for (const view of views) {
    await placeFor(tx, actor, view.placeId, 'see');
    orRefuse(checkConditions(view.conditions, columns));
    orRefuse(checkHeldConditions(view.conditions));
  }
  await tx
    .insert(holdOn)
    .values([
      ...[...new Set(placeIds)].map((placeId) => ({ holdId, kind: 'place' as const, placeId })),
      ...[...new Set(documentIds)].map((documentId) => ({ holdId, kind: 'paper' as const, documentId })),
      ...views.map((view) => ({ holdId, kind: 'view' as const, view })),
    ])
    .onConflictDoNothing();
}

/** Papers that the caller sees, or that wait in the disposal tray: a hold stops their destruction there. Locks their rows. */
async function requirePapers(tx: Tx, actor: Actor, documentIds: readonly string[]): Promise<void> {
  const wanted = new Set(documentIds);
  const rows = await tx
    .select({ id: document.id })
    .from(document)
    .where(and(idIn(document.id, wanted), or(paperAllows(actor, 'see'), paperIsDisposed(actor))))
    .orderBy(document.id)
    .for('update');
  if (rows.length < wanted.size) refuse('not-found');
}

const thingsInWords = ({ placeIds, documentIds, views }: HeldThings): string =>
  [
    placeIds.length > 0 ? counted(placeIds.length, 'place') : [],
    documentIds.length > 0 ? counted(documentIds.length, 'paper') : [],
    views.length > 0 ? counted(views.length, 'view') : [],
  ]
    .flat()
    .join(', ');

const subjectsOf = ({ placeIds, documentIds, views }: HeldThings): string[] => [
  ...new Set([...placeIds, ...documentIds, ...views.map(({ placeId }) => placeId)]),
];
