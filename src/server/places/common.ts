import { dossierIn, seriesIn } from '@/core/tree/lineage';
import { acts, asks } from '../acts/operation';
import { dossierOf } from '../db/lineage';
import { and, eq, isNotNull, sql, type SQL } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import { refuse } from '@/core/errors/refusal';
import { inDossier } from '@/core/places/common';
import type { PlaceRow } from '@/core/places/model';
import { nameKey } from '@/core/text/fold';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { placeAllows, scopeAllows } from '../gate/visible';
import { db, type Reader, type Tx } from '../db/client';
import { place } from '../db/schema';
import { snapshot } from '../db/transaction';
import { makePlace } from './make';
import { forecastInto, putInto } from './move';
import { placeRows } from '../known/places';

type Place = Awaited<ReturnType<typeof placeFor>>;

/** Whether a planned folder's key is of one that each dossier has once: it names no year or meeting. */
const isOnce = (key: string | null): key is string => key !== null && !key.includes(' ');

/**
 * The common folders shown directly in a place: in the planned folder set for them, if the dossier has it and the caller
 * may see it, or else in the dossier. Null for places that never show any.
 */
export function commonSeenIn(
  actor: Actor,
  { id, kind, lineage, plannedKey }: Pick<Place, 'id' | 'kind' | 'lineage' | 'plannedKey'>,
): SQL | null {
  const [, seriesId, dossierId] = lineage;
  if (seriesId === undefined || dossierId === undefined) return null;
  const kept = sql`${place.parentId} = ${seriesId}::uuid and ${place.seenIn} is not null`;
  if (kind === 'folder') return isOnce(plannedKey) ? sql`${kept} and ${place.seenIn} = ${plannedKey}` : null;
  if (kind !== 'dossier') return null;
  return sql`${kept} and not exists (
    select from ${place} as holder
    where ${dossierOf(sql`holder.lineage`)} = ${id}::uuid and holder.planned_key = ${place.seenIn}
      and ${scopeAllows(actor, 'see', sql`holder.scope_id`)})`;
}

/** The children of a place, followed by the common folders shown there. */
export async function shownIn(
  reader: Reader,
  actor: Actor,
  found: Pick<Place, 'id' | 'kind' | 'lineage' | 'plannedKey'>,
): Promise<PlaceRow[]> {
  const common = commonSeenIn(actor, found);
  const [own, seen] = await Promise.all([
    placeRows(reader, actor, eq(place.parentId, found.id)),
    common ? placeRows(reader, actor, common) : [],
  ]);
  return [...own, ...seen];
}

/**
 * The path to a place in a common folder through a dossier: ids from the series down, without the place itself. Null if
 * the place is not in a folder that this dossier shows, or the caller may not see the dossier.
 */
export async function wayWithin(actor: Actor, lineage: readonly string[], dossierId: string): Promise<string[] | null> {
  const [, seriesId, commonId] = lineage;
  if (seriesId === undefined || commonId === undefined) return null;
  const [common] = await db()
    .select({ seenIn: place.seenIn })
    .from(place)
    .where(and(eq(place.id, commonId), isNotNull(place.seenIn)));
  const [dossier] = await db()
    .select({ id: place.id })
    .from(place)
    .where(
      and(eq(place.id, dossierId), eq(place.kind, 'dossier'), eq(place.parentId, seriesId), placeAllows(actor, 'see')),
    );
  if (!common || !dossier) return null;
  const [holder] = await db()
    .select({ lineage: place.lineage })
    .from(place)
    .where(
      and(
        sql`${dossierOf(place.lineage)} = ${dossierId}::uuid`,
        eq(place.plannedKey, common.seenIn ?? ''),
        placeAllows(actor, 'see'),
      ),
    );
  return [seriesId, ...(holder?.lineage.slice(2) ?? [dossierId]), ...lineage.slice(2, -1)];
}

/** Where a folder in a dossier will be shown once it is common. */
const seenInFrom = (parent: Pick<Place, 'kind' | 'plannedKey'>): string =>
  parent.kind === 'folder' && isOnce(parent.plannedKey) ? parent.plannedKey : inDossier;

/** Makes a common folder: it is stored once in the series, and shown in every dossier at the position of `parentId`. */
export async function makeCommon(tx: Tx, actor: Actor, input: ReadInputOf<'folder.create'>) {
  const parent = await placeFor(tx, actor, input.parentId, 'see');
  const series = await seriesToChange(tx, actor, parent);
  const seenIn = seenInFrom(parent);
  const id = await makePlace(tx, actor, { parentId: series.id, kind: 'folder', name: input.name, seenIn });
  return { id, holderId: series.id };
}

/** The series of a common folder; needs `manage` there. */
async function seriesToChange(
  tx: Tx,
  actor: Actor,
  { lineage, filingYear }: Pick<Place, 'lineage' | 'filingYear'>,
): Promise<Place> {
  if (filingYear !== null) refuse('invalid', 'What belongs to a filing year is its dossier’s only. Nothing was made.');
  return placeFor(tx, actor, seriesIn(lineage) ?? '', 'manage');
}

/** A folder that is to become common, or one dossier's: its new parent, and where it will be shown in every dossier (null: nowhere). */
async function changing(tx: Tx, actor: Actor, { placeId, onlyId }: ReadInputOf<'common.set'>) {
  const folder = await placeFor(tx, actor, placeId, 'manage');
  if (folder.kind !== 'folder' || folder.parentId === null) refuse('invalid', 'Only a folder is common to dossiers.');
  const parentId = folder.parentId;
  const base = { folder, parentId, seriesId: seriesIn(folder.lineage) ?? '' };
  if (onlyId !== null) {
    if (folder.seenIn === null) refuse('conflict', `“${folder.name}” is no longer common.`);
    const dossier = await placeFor(tx, actor, onlyId, 'manage');
    if (dossier.kind !== 'dossier' || dossier.parentId !== parentId) refuse('not-found');
    const [holder] = await tx
      .select({ id: place.id })
      .from(place)
      .where(and(sql`${dossierOf(place.lineage)} = ${dossier.id}::uuid`, eq(place.plannedKey, folder.seenIn)));
    return {
      ...base,
      dossier,
      target: holder ? await placeFor(tx, actor, holder.id, 'manage') : dossier,
      seenIn: null,
    };
  }
  if (folder.seenIn !== null) refuse('conflict', `“${folder.name}” is common already.`);
  if (folder.plannedKey !== null)
    refuse('invalid', 'The filing plan makes this folder in every dossier. Take it out of the plan first.');
  const target = await seriesToChange(tx, actor, folder);
  const parent = await placeFor(tx, actor, parentId, 'see');
  return { ...base, dossier: null, target, seenIn: seenInFrom(parent) };
}

/** Makes a folder common to all dossiers of its series, or the folder of one dossier again. */
export const setCommon = acts('common.set', ['tree', 'access', 'given'], async (tx, actor, input) => {
  const { folder, parentId, target, seenIn, dossier } = await changing(tx, actor, input);
  if (target.id !== parentId) await putInto(tx, actor, folder, target);
  await tx.update(place).set({ seenIn }).where(eq(place.id, folder.id));
  const subjects = [folder.id, parentId, target.id];
  return {
    entry: dossier
      ? { act: 'folder.madeOwn', subjects, detail: { name: folder.name, dossier: dossier.name } }
      : { act: 'folder.madeCommon', subjects, detail: { name: folder.name, series: target.name } },
    result: { fromId: parentId },
  };
});

/** What making a folder common, or one dossier's, would change. */
export const forecastCommon = asks('common.forecast', async (actor, input) => {
  return snapshot(async (tx) => {
    const { folder, parentId, target, seriesId, seenIn } = await changing(tx, actor, input);
    const own = input.onlyId ?? dossierIn(folder.lineage) ?? '';
    const others = sql`dossier.parent_id = ${seriesId}::uuid and dossier.kind = 'dossier' and dossier.id <> ${own}::uuid
      and ${scopeAllows(actor, 'see', sql`dossier.scope_id`)}`;
    const { rows } = await tx.execute<{ dossiers: number; same: number }>(sql`
      select count(*)::int as dossiers, (count(*) filter (where exists (
        select from ${place} as beside
        where beside.parent_id = coalesce((select holder.id from ${place} as holder
            where ${dossierOf(sql`holder.lineage`)} = dossier.id and holder.planned_key = ${seenIn}), dossier.id)
          and beside.name_key = ${nameKey(folder.name)} and beside.kind = 'folder'
          and ${scopeAllows(actor, 'see', sql`beside.scope_id`)})))::int as same
      from ${place} as dossier where ${others}`);
    // A folder already in the series does not move.
    const forecast =
      target.id === parentId
        ? { paperCount: 0, impact: [], values: [] }
        : await forecastInto(tx, actor, folder.id, target.id);
    return {
      ...forecast,
      dossiers: rows[0]?.dossiers ?? 0,
      sameName: input.onlyId === null ? (rows[0]?.same ?? 0) : 0,
    };
  });
});

/** The common folders of a series that the caller may see. */
export const commonOf = asks('common.of', async (actor, { seriesId }) => {
  await placeFor(db(), actor, seriesId, 'see');
  const where = sql`${place.parentId} = ${seriesId}::uuid and ${place.seenIn} is not null`;
  const rows = await placeRows(db(), actor, where);
  const seen = await db().select({ id: place.id, seenIn: place.seenIn }).from(place).where(where);
  const seenIn = new Map(seen.map((row) => [row.id, row.seenIn ?? inDossier]));
  return rows.map(({ id, name, paperCount }) => ({ id, name, paperCount, seenIn: seenIn.get(id) ?? inDossier }));
});
