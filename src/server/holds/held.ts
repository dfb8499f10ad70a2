import { and, eq, isNotNull, isNull, sql, type SQL } from 'drizzle-orm';
import { Refusal } from '@/core/errors/refusal';
import type { HeldView } from '@/core/holds/model';
import { allColumns } from '../columns/read';
import { momentNow } from '../conditions/moment';
import { meetsAll } from '../conditions/where';
import type { Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { document, filing, hold, holdOn, place } from '../db/schema';
import type { Actor } from '../gate/actor';

/** Holds are put on by keepers, who see everything; their conditions mean nobody in particular. */
const everyone: Actor = { personId: '00000000-0000-0000-0000-000000000000', name: '', email: '', keeper: true };

/** Papers in a place or below it: by their home, or by being filed there as well. */
const isBelow = (placeId: SQL): SQL => sql`(
  exists (select from place as lying where lying.id = document.home_id and lying.lineage @> array[${placeId}])
  or exists (select from ${filing} as listed join place as lying on lying.id = listed.place_id
    where listed.document_id = document.id and lying.lineage @> array[${placeId}]))`;

/** Papers that meet a view's conditions now. A view that asks for something that is gone holds all papers of its place. */
async function shownBy(reader: Reader, { placeId, below, conditions }: HeldView): Promise<SQL> {
  const within = below ? sql`${place.lineage} @> array[${placeId}::uuid]` : sql`${place.id} = ${placeId}::uuid`;
  let meets = sql`true`;
  try {
    meets = meetsAll(everyone, conditions, await allColumns(reader), await momentNow());
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
  }
  return sql`document.id in (
    select ${document.id} from ${document} join ${place} on ${place.id} = ${document.homeId} where ${within} and ${meets})`;
}

/**
 * The condition under which a paper of a query over `document` is under a hold that is not lifted; of one hold, or of any.
 * It says so of papers in the disposal tray as well.
 */
export async function paperIsHeld(reader: Reader, holdId: string | null = null): Promise<SQL> {
  const stands =
    holdId === null ? sql`${hold.liftedAt} is null` : sql`${hold.id} = ${holdId} and ${hold.liftedAt} is null`;
  const views = await reader
    .select({ view: holdOn.view })
    .from(holdOn)
    .innerJoin(hold, eq(hold.id, holdOn.holdId))
    .where(and(stands, isNotNull(holdOn.view)));
  const places = await reader
    .select({ placeId: holdOn.placeId })
    .from(holdOn)
    .innerJoin(hold, eq(hold.id, holdOn.holdId))
    .where(and(stands, isNotNull(holdOn.placeId)));
  // One after the other: within an act all run on one connection.
  const shown: SQL[] = [];
  for (const { view } of views) if (view) shown.push(await shownBy(reader, view));
  const ways = [
    sql`exists (select from ${holdOn} join ${hold} on ${hold.id} = ${holdOn.holdId} where ${stands} and ${holdOn.documentId} = document.id)`,
    ...places.flatMap(({ placeId }) => (placeId === null ? [] : [isBelow(sql`${placeId}::uuid`)])),
    ...shown,
  ];
  return sql`(${sql.join(ways, sql` or `)})`;
}

/** A hold as papers under it tell of it. */
export interface StandingHold {
  readonly name: string;
  readonly reason: string;
  readonly placedAt: Date;
}

/** Which of some papers are under holds, and under which, by name. */
export async function heldAmong(
  reader: Reader,
  ids: readonly string[],
): Promise<ReadonlyMap<string, readonly StandingHold[]>> {
  const found = new Map<string, StandingHold[]>();
  if (ids.length === 0) return found;
  const holds = await reader
    .select({ id: hold.id, name: hold.name, reason: hold.reason, placedAt: hold.placedAt })
    .from(hold)
    .where(isNull(hold.liftedAt))
    .orderBy(hold.name, hold.id);
  for (const { id, ...standing } of holds) {
    const rows = await reader
      .select({ id: document.id })
      .from(document)
      .where(and(idIn(document.id, ids), await paperIsHeld(reader, id)));
    for (const row of rows) found.set(row.id, [...(found.get(row.id) ?? []), standing]);
  }
  return found;
}

/** Holds by their names, in quotes. */
export const holdsInWords = (holds: readonly StandingHold[]): string =>
  [...new Set(holds.map(({ name }) => `“${name}”`))].join(', ');
