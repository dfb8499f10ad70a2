import { seriesIn } from '@/core/tree/lineage';
import { and, eq, sql } from 'drizzle-orm';
import { has, listOf } from '@/core/access/capability';
import { stoppedBy } from '@/core/standstill/standstill';
import { refuse } from '@/core/errors/refusal';
import { pathOf } from '../known/names';
import { asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { capabilitiesIn, standstillOf } from '../gate/held';
import { namesIn } from '../scopes/scopes';
import { placeIsKnown } from '../gate/visible';
import { db } from '../db/client';
import { plannedOnce } from '../db/plannedOnce';
import { person, place, scope } from '../db/schema';
import { shownIn, wayWithin } from './common';
import { placeRow, placeRows } from '../known/places';

/** The series that the caller may know of, in the keeper's order. */
export const listSeries = asks('places.series', async (actor) => {
  return placeRows(db(), actor, eq(place.kind, 'series'));
});

/** The places directly in a place. Refuses a place the caller may not know of as not found. */
export const listChildren = asks('place.children', async (actor, { placeId }) => {
  return shownIn(db(), actor, await knownPlace(actor, placeId));
});

/** The series a place belongs to; null for the library itself. */
export const seriesOf = asks('place.seriesOf', async (actor, { placeId }) => {
  const { lineage } = await knownPlace(actor, placeId);
  return { seriesId: seriesIn(lineage) };
});

/** A place that the caller may know of; refuses others as not found. */
export async function knownPlace(actor: Actor, placeId: string) {
  const [found] = await db()
    .select({
      id: place.id,
      kind: place.kind,
      plannedKey: place.plannedKey,
      lineage: place.lineage,
      scopeId: place.scopeId,
      referencePattern: place.referencePattern,
      meetingDay: place.meetingDay,
      createdAt: place.createdAt,
      createdBy: sql<string | null>`${person.name}`,
    })
    .from(place)
    .leftJoin(person, eq(person.id, place.createdBy))
    .where(and(eq(place.id, placeId), placeIsKnown(actor), plannedOnce));
  return found ?? refuse('not-found');
}

/** Everything a place's page needs except the papers. */
export const openPlace = asks('place.open', async (actor, { placeId, withinId = null }) => {
  const found = await knownPlace(actor, placeId);
  const within = withinId === null ? null : await wayWithin(actor, found.lineage, withinId);
  const held = await capabilitiesIn(db(), actor, found.scopeId);
  const [still, row, path, children, names, follows] = await Promise.all([
    standstillOf(db(), found.lineage),
    placeRow(db(), actor, placeId),
    pathOf(db(), actor, within ?? found.lineage.slice(0, -1)),
    shownIn(db(), actor, found),
    has(held, 'manage') ? namesIn(db(), [found.scopeId]) : null,
    followedName(actor, found.scopeId, placeId),
  ]);
  return {
    place: {
      ...row,
      referencePattern: found.referencePattern,
      meetingDay: found.meetingDay,
      createdAt: found.createdAt.toISOString(),
      createdBy: found.createdBy ?? 'The library itself',
    },
    withinId: within === null ? null : withinId,
    path,
    children,
    capabilities: listOf(held & ~stoppedBy(still)),
    stillAbove: { closed: still.closed && !row.closed, locked: still.locked && !row.locked },
    openTo: names && names.length,
    followsName: follows,
  };
});

/** The name of the place from which a place inherits access; null if it has its own. */
async function followedName(actor: Actor, scopeId: string | null, placeId: string): Promise<string | null> {
  if (scopeId === null) return null;
  const [owner] = await db()
    .select({ id: place.id, name: place.name })
    .from(scope)
    .innerJoin(place, eq(place.id, scope.placeId))
    .where(and(eq(scope.id, scopeId), placeIsKnown(actor), plannedOnce));
  return owner && owner.id !== placeId ? owner.name : null;
}
