import { and, eq } from 'drizzle-orm';
import type { Stamp } from '@/core/files/fileKind';
import { refuse } from '@/core/errors/refusal';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { document, place, view } from '../db/schema';
import type { Actor } from '../gate/actor';
import { paperAllows, placeIsKnown } from '../gate/visible';
import { namesOn, pathsOf } from '../known/names';
import { standName } from '../known/standing';
import { viewIsFor } from '../known/views';

/** A way to something: what it is called, where it is, and its address. */
export interface Way {
  readonly name: string;
  readonly where: string;
  readonly address: string;
  readonly stamp?: Stamp;
}

type Ways = ReadonlyMap<string, Way>;

/** What people keep ways to, each with how those are found that the caller may know of, by id. */
export const waysTo: Readonly<
  Record<'paper' | 'place' | 'view', (actor: Actor, ids: readonly string[]) => Promise<Ways>>
> = { paper: waysToPapers, place: waysToPlaces, view: waysToViews };

/** Refuses what the caller may not know of. */
export async function requireWay(actor: Actor, kind: keyof typeof waysTo, id: string): Promise<void> {
  if (!(await waysTo[kind](actor, [id])).has(id)) refuse('not-found');
}

async function waysToPapers(actor: Actor, ids: readonly string[]): Promise<Ways> {
  const rows = await db()
    .select({ id: document.id, name: document.title, stamp: document.stamp, where: standName(actor) })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(idIn(document.id, ids), paperAllows(actor, 'see')));
  return new Map(rows.map(({ id, ...row }) => [id, { ...row, address: `/paper/${id}` }]));
}

async function waysToPlaces(actor: Actor, ids: readonly string[]): Promise<Ways> {
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

async function waysToViews(actor: Actor, ids: readonly string[]): Promise<Ways> {
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
