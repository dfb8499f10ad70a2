import { and, eq, sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import type { GivenForecast } from '@/core/columns/contract';
import {
  bindingTypes,
  bindingWords,
  givenAs,
  resolveGiven,
  type Given,
  type GivingPlace,
  type Resolved,
} from '@/core/columns/given';
import type { Values } from '@/core/columns/model';
import { checkValue } from '@/core/columns/read';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { filingYearLabel } from '@/core/calendar/filingYear';
import { acts, asks } from '../acts/operation';
import { placeFor } from '../gate/held';
import { placeIsKnown } from '../gate/visible';
import { db, type Reader, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { columnDef, document, givenValue, place } from '../db/schema';
import { requireChanging, snapshot } from '../db/transaction';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { allColumns, allLists, lexiconsOf, namesFor } from './read';

/** The places on some lineages, by id, in the form `core/columns` takes. */
async function givingPlaces(
  reader: Reader,
  where: ReturnType<typeof sql>,
): Promise<Map<string, GivingPlace & { lineage: string[] }>> {
  const rows = await reader
    .select({
      id: place.id,
      name: place.name,
      kind: place.kind,
      filingYear: place.filingYear,
      meetingDay: place.meetingDay,
      lineage: place.lineage,
    })
    .from(place)
    .where(where);
  const calendar = await libraryCalendar(reader);
  const sheets = new Map<string, Given[]>();
  const given = await reader
    .select()
    .from(givenValue)
    .innerJoin(place, eq(place.id, givenValue.placeId))
    .innerJoin(columnDef, eq(columnDef.id, givenValue.columnId))
    .where(and(where, eq(columnDef.retired, false)));
  for (const { given_value: row } of given) {
    const there = sheets.get(row.placeId) ?? [];
    there.push({ columnId: row.columnId, mode: row.mode, value: row.value, binding: row.binding });
    sheets.set(row.placeId, there);
  }
  return new Map(
    rows.map((row) => [
      row.id,
      {
        ...row,
        filingYear:
          row.filingYear === null
            ? null
            : { startYear: row.filingYear, label: filingYearLabel(row.filingYear, calendar) },
        given: sheets.get(row.id) ?? [],
      },
    ]),
  );
}

interface Outcome {
  readonly fixed: Values;
  readonly offered: Values;
}

/** A supposed change, for forecasts: another sheet at the root, or another parent. */
interface Supposing {
  readonly ownSheet?: readonly Given[];
  readonly parentId?: string;
}

/** What each place at or below `rootId` gives to papers. */
export async function outcomeBelow(
  reader: Reader,
  rootId: string,
  { ownSheet, parentId }: Supposing = {},
): Promise<Map<string, Outcome>> {
  const below = await givingPlaces(reader, sql`${place.lineage} @> array[${rootId}::uuid]`);
  const root = below.get(rootId);
  if (!root) return new Map();
  const [parent] =
    parentId === undefined
      ? []
      : await reader.select({ lineage: place.lineage }).from(place).where(eq(place.id, parentId));
  const wayToRoot = parent ? [...parent.lineage, rootId] : root.lineage;
  const above = await givingPlaces(reader, idIn(place.id, wayToRoot));
  const columns = new Map((await allColumns(reader)).map((column) => [column.id, column]));
  const typeOf = (id: string) => columns.get(id)?.type;
  const at = (id: string): GivingPlace | undefined => {
    const found = below.get(id) ?? above.get(id);
    return found && id === rootId && ownSheet ? { ...found, given: ownSheet } : found;
  };
  return new Map(
    [...below.values()].map((home) => {
      const way = [...wayToRoot, ...home.lineage.slice(root.lineage.length)];
      const resolved = resolveGiven(
        way.flatMap((id) => at(id) ?? []),
        typeOf,
      );
      return [home.id, { fixed: givenAs('fixed', resolved), offered: givenAs('offered', resolved) }];
    }),
  );
}

/** What each of some places gives to papers. */
async function outcomeAt(reader: Reader, ids: readonly string[]): Promise<Map<string, Outcome>> {
  const here = await givingPlaces(reader, idIn(place.id, ids));
  const onTheWay = [...new Set([...here.values()].flatMap((each) => each.lineage))];
  const places = await givingPlaces(reader, idIn(place.id, onTheWay));
  const columns = new Map((await allColumns(reader)).map((column) => [column.id, column]));
  return new Map(
    [...here.values()].map((home) => {
      const resolved = resolveGiven(
        home.lineage.flatMap((id) => places.get(id) ?? []),
        (id) => columns.get(id)?.type,
      );
      return [home.id, { fixed: givenAs('fixed', resolved), offered: givenAs('offered', resolved) }];
    }),
  );
}

/**
 * Recomputes what a place and everything below it give, and the shown values of papers there. Called in the transaction
 * of every change to given values, to the tree, or to something a column can be bound to. Returns how many papers
 * changed.
 */
export async function recomputeGiven(tx: Tx, rootId: string): Promise<number> {
  requireChanging(tx, 'given');
  await keep(tx, await outcomeBelow(tx, rootId));
  return showFixed(tx, sql`${place.lineage} @> array[${rootId}::uuid]`);
}

/** Computes what new places, still without papers, give. */
export async function giveNew(tx: Tx, ids: readonly string[]): Promise<void> {
  await keep(tx, await outcomeAt(tx, ids));
}

/** Stores what places give, writing only what differs. */
async function keep(tx: Tx, outcome: ReadonlyMap<string, Outcome>): Promise<void> {
  const ids = [...outcome.keys()];
  if (ids.length === 0) return;
  await tx.execute(sql`
    update ${place} set fixed_values = outcome.fixed, offered_values = outcome.offered
    from unnest(${sql.param(ids)}::uuid[],
                ${sql.param(ids.map((id) => JSON.stringify(outcome.get(id)?.fixed ?? {})))}::jsonb[],
                ${sql.param(ids.map((id) => JSON.stringify(outcome.get(id)?.offered ?? {})))}::jsonb[])
         as outcome (id, fixed, offered)
    where ${place.id} = outcome.id
      and (${place.fixedValues} <> outcome.fixed or ${place.offeredValues} <> outcome.offered)`);
}

/** Recomputes papers' shown values from their own and their homes' fixed values. */
export async function showFixed(tx: Tx, homes: ReturnType<typeof sql>): Promise<number> {
  const done = await tx.execute(sql`
    update ${document} set shown_values = ${document.ownValues} || ${place.fixedValues}
    from ${place}
    where ${place.id} = ${document.homeId} and ${homes}
      and ${document.shownValues} <> ${document.ownValues} || ${place.fixedValues}`);
  return done.rowCount ?? 0;
}

/** The values set at a place itself, and those in force there with the place each comes from. */
export const givenOf = asks('given.of', async (actor, { placeId }) => {
  const [found] = await db()
    .select({ lineage: place.lineage })
    .from(place)
    .where(and(eq(place.id, placeId), placeIsKnown(actor)));
  if (!found) refuse('not-found');
  const places = await givingPlaces(db(), idIn(place.id, found.lineage));
  const columns = await allColumns(db());
  const types = new Map(columns.map((column) => [column.id, column.type]));
  const resolved = resolveGiven(
    found.lineage.flatMap((id) => places.get(id) ?? []),
    (id) => types.get(id),
  );
  const inForce = [...resolved].map(([columnId, each]): Resolved & { columnId: string } => ({ ...each, columnId }));
  const own = places.get(placeId)?.given ?? [];
  const values = [
    Object.fromEntries(inForce.map((each) => [each.columnId, each.value])),
    Object.fromEntries(own.flatMap((each) => (each.value === null ? [] : [[each.columnId, each.value] as const]))),
  ];
  return { own, inForce, names: await namesFor(db(), actor, columns, values) };
});

/** Checks each line of a sheet against its column. */
async function checkedSheet(
  reader: Reader,
  lineage: readonly string[],
  given: ReadInputOf<'given.set'>['given'],
): Promise<Given[]> {
  const columns = new Map((await allColumns(reader)).map((column) => [column.id, column]));
  const lexicons = lexiconsOf(await allLists(reader));
  if (new Set(given.map((each) => each.columnId)).size < given.length)
    refuse('invalid', 'The same column has two values.');
  return given.map((each) => {
    const column = columns.get(each.columnId);
    if (!column || column.retired || !lineage.includes(column.placeId))
      refuse('not-found', 'One of the columns is not in force here. Nothing was saved.');
    if (each.binding !== null) {
      if (!bindingTypes[each.binding].includes(column.type))
        refuse('invalid', `${column.name} cannot be bound to ${bindingWords[each.binding]}: it is of another type.`);
      return { ...each, value: null };
    }
    return { ...each, value: orRefuse(checkValue(column, each.value, { terms: (id) => lexicons.get(id) })) };
  });
}

/** What changing a place's sheet would change in papers' shown values, by column. */
export const forecastGiven = asks('given.forecast', async (actor, input) => {
  return snapshot(async (tx) => {
    const at = await placeFor(tx, actor, input.placeId, 'manage');
    const outcome = await outcomeBelow(tx, at.id, { ownSheet: await checkedSheet(tx, at.lineage, input.given) });
    return comparedWith(tx, outcome);
  });
});

/** How many papers would change if their homes fixed these values. */
async function comparedWith(tx: Tx, outcome: ReadonlyMap<string, Outcome>): Promise<GivenForecast> {
  const ids = [...outcome.keys()];
  const columns = await allColumns(tx);
  const fixed = sql.param(ids.map((id) => JSON.stringify(outcome.get(id)?.fixed ?? {})));
  const counts = await tx.execute<{ column_id: string; papers: number; overwritten: number }>(sql`
    with home as (
      select * from unnest(${sql.param(ids)}::uuid[], ${fixed}::jsonb[]) as home (id, fixed)
    ), moved as (
      select ${document.id} as id, ${document.shownValues} as before, ${document.ownValues} || home.fixed as after
      from ${document} join home on home.id = ${document.homeId}
      where ${document.disposedAt} is null and ${document.shownValues} <> ${document.ownValues} || home.fixed
    )
    select key as column_id, count(*)::int as papers,
           count(*) filter (where moved.before -> key is not null and moved.after -> key is not null)::int as overwritten
    from moved, lateral (select jsonb_object_keys(moved.before || moved.after) as key) as keys
    where moved.before -> key is distinct from moved.after -> key
    group by key`);
  const papers = await tx.execute<{ papers: number }>(sql`
    select count(*)::int as papers
    from ${document} join unnest(${sql.param(ids)}::uuid[], ${fixed}::jsonb[]) as home (id, fixed)
      on home.id = ${document.homeId}
    where ${document.disposedAt} is null and ${document.shownValues} <> ${document.ownValues} || home.fixed`);
  return {
    papers: papers.rows[0]?.papers ?? 0,
    columns: columns.flatMap((column) => {
      const row = counts.rows.find((each) => each.column_id === column.id);
      return row ? [{ name: column.name, papers: row.papers, overwritten: row.overwritten }] : [];
    }),
  };
}

/** Replaces a place's sheet of given values. Papers below follow in the same act. */
export const setGiven = acts('given.set', ['given'], async (tx, actor, input) => {
  const at = await placeFor(tx, actor, input.placeId, 'manage');
  const given = await checkedSheet(tx, at.lineage, input.given);
  const changed = await tx
    .update(place)
    .set({ revision: input.revision + 1 })
    .where(and(eq(place.id, at.id), eq(place.revision, input.revision)))
    .returning({ id: place.id });
  if (changed.length === 0) refuse('conflict');
  await tx.delete(givenValue).where(eq(givenValue.placeId, at.id));
  if (given.length > 0) await tx.insert(givenValue).values(given.map((each) => ({ ...each, placeId: at.id })));
  const papers = await recomputeGiven(tx, at.id);
  return {
    entry: { act: 'given.set', subjects: [at.id], detail: { name: at.name, columns: given.length, papers } },
    result: { papers },
  };
});

/** What moving a place would change in the shown values of papers in and below it. */
export async function forecastPlaceMove(tx: Tx, placeId: string, toId: string): Promise<GivenForecast> {
  return comparedWith(tx, await outcomeBelow(tx, placeId, { parentId: toId }));
}

/** How shown values would change if papers, or their homes, moved to another place. */
export async function forecastValues(
  tx: Tx,
  target: { id: string },
  papers: readonly { id: string }[],
): Promise<GivenForecast['columns']> {
  const [to] = await tx
    .select({ fixed: place.fixedValues, offered: place.offeredValues })
    .from(place)
    .where(eq(place.id, target.id));
  if (!to) return [];
  const counts = await tx.execute<{ column_id: string; papers: number; overwritten: number }>(sql`
    with moved as (
      select ${document.shownValues} as before,
             ${JSON.stringify(to.offered)}::jsonb || ${document.ownValues} || ${JSON.stringify(to.fixed)}::jsonb as after
      from ${document} where ${idIn(
        document.id,
        papers.map((paper) => paper.id),
      )}
    )
    select key as column_id, count(*)::int as papers,
           count(*) filter (where moved.before -> key is not null)::int as overwritten
    from moved, lateral (select jsonb_object_keys(moved.before || moved.after) as key) as keys
    where moved.before -> key is distinct from moved.after -> key
    group by key`);
  return (await allColumns(tx)).flatMap((column) => {
    const row = counts.rows.find((each) => each.column_id === column.id);
    return row && !column.retired ? [{ name: column.name, papers: row.papers, overwritten: row.overwritten }] : [];
  });
}
