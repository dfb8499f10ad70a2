import { and, eq, sql, TransactionRollbackError, type SQL } from 'drizzle-orm';
import { invalidField, issue } from '@/core/errors/issue';
import { refuse, Refusal } from '@/core/errors/refusal';
import { filingYearLabel } from '@/core/calendar/filingYear';
import { acts, asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { paperAllows } from '../gate/visible';
import { allColumns } from '../columns/read';
import { db, type Reader, type Tx } from '../db/client';
import { document, filingYear, place, upload } from '../db/schema';
import { transaction } from '../db/transaction';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { requireKeeper } from '../gate/keeper';
import { makePlaces } from '../places/make';
import { gapsOf } from '../expected/gaps';
import { keepToPlan } from '../plans/plans';
import { isFiledByYear, openYears, yearPlaces } from '../plans/yearPlaces';

const labelOf = async (reader: Reader, startYear: number): Promise<string> =>
  filingYearLabel(startYear, await libraryCalendar(reader));

/**
 * Makes the places that open dossiers of series filed by year lack for some filing years, with their planned folders. Skips
 * closed dossiers and those in closed series. `which` is a condition on `place`, the dossiers; default: all.
 */
async function addMissingYears(
  tx: Tx,
  actor: Actor,
  startYears: readonly number[],
  which?: SQL,
): Promise<{ dossiers: number; folders: number }> {
  const dossiers = await tx
    .select({ id: place.id, seriesId: place.parentId })
    .from(place)
    .where(
      and(
        eq(place.kind, 'dossier'),
        which,
        isFiledByYear,
        sql`not exists (select from ${place} as above where above.id = any(${place.lineage}) and above.closed)`,
      ),
    );
  const there = await tx
    .select({ dossierId: place.parentId, startYear: place.filingYear })
    .from(place)
    .where(and(eq(place.kind, 'year'), sql`${place.filingYear} = any(${sql.param([...startYears])}::integer[])`));
  const held = new Set(there.map((year) => `${year.dossierId} ${year.startYear}`));
  const made = await yearPlaces(
    tx,
    dossiers.map(({ id }) => ({
      dossierId: id,
      startYears: startYears.filter((startYear) => !held.has(`${id} ${startYear}`)),
    })),
  );
  const lacking = new Set(made.map((year) => year.parentId));
  if (lacking.size === 0) return { dossiers: 0, folders: 0 };
  await makePlaces(tx, actor, made);
  const caughtUp = dossiers.filter((dossier) => lacking.has(dossier.id));
  let folders = 0;
  for (const seriesId of new Set(caughtUp.flatMap((dossier) => dossier.seriesId ?? []))) {
    const ids = caughtUp.filter((dossier) => dossier.seriesId === seriesId).map((dossier) => dossier.id);
    folders += await keepToPlan(tx, actor, seriesId, ids);
  }
  return { dossiers: lacking.size, folders };
}

/** Gives the dossiers of a reopened place the filing years that were opened meanwhile. */
export async function catchUpYears(tx: Tx, actor: Actor, placeId: string): Promise<void> {
  await addMissingYears(tx, actor, await openYears(tx), sql`${place.lineage} @> array[${placeId}::uuid]`);
}

async function makeYear(tx: Tx, actor: Actor, startYear: number): Promise<{ dossiers: number; folders: number }> {
  const added = await tx.insert(filingYear).values({ startYear }).onConflictDoNothing().returning();
  if (added.length === 0) throw new Refusal(issue('name-taken', 'That filing year is kept already.'));
  return addMissingYears(tx, actor, [startYear]);
}

/** Opens a filing year: makes its place, with planned folders, in every open dossier. */
export const openYear = acts('year.open', ['tree', 'access', 'given'], async (tx, actor, { startYear }) => {
  if (!actor.keeper) refuse('not-allowed', 'Only a keeper opens filing years.');
  const made = await makeYear(tx, actor, startYear);
  const detail = { label: await labelOf(tx, startYear), dossiers: made.dossiers };
  return {
    entry: { act: 'year.opened', subjects: [], detail },
    result: { made: made.dossiers, folders: made.folders },
  };
});

/** What opening a filing year would make: does it, counts, and rolls back. */
export const forecastYearOpening = asks('year.openForecast', async (actor, { startYear }) => {
  requireKeeper(actor);
  const [{ kept } = { kept: 0 }] = await db()
    .select({ kept: sql<number>`count(*)::integer` })
    .from(place)
    .where(and(eq(place.kind, 'dossier'), isFiledByYear));
  let made = { dossiers: 0, folders: 0 };
  await transaction(['tree', 'access', 'given'], async (tx) => {
    made = await makeYear(tx, actor, startYear);
    tx.rollback();
  }).catch((error: unknown) => {
    if (!(error instanceof TransactionRollbackError)) throw error;
  });
  return { ...made, closedDossiers: kept - made.dossiers };
});

/** What is unfinished in a filing year that is about to be closed. */
export const forecastYearClosing = asks('year.closeForecast', async (actor, { startYear }) => {
  requireKeeper(actor);
  await keptYear(db(), startYear);
  const inYear = sql`(select ${place.id} from ${place} where ${place.filingYear} = ${startYear})`;
  const required = (await allColumns(db())).filter((column) => column.required && !column.retired);
  const lacks = required.map(
    (column) =>
      sql`(${place.lineage} @> array[${column.placeId}::uuid] and not ${document.shownValues} ? ${column.id})`,
  );
  const [{ gaps, state }, [open], [uploads], [papers]] = await Promise.all([
    gapsOf(actor, { placeId: null }),
    db()
      .select({ places: sql<number>`count(*)::integer` })
      .from(place)
      .where(and(eq(place.kind, 'year'), eq(place.filingYear, startYear), eq(place.closed, false))),
    db()
      .select({ count: sql<number>`count(*)::integer` })
      .from(upload)
      .where(and(sql`${upload.placeId} in ${inYear}`, sql`${upload.outcome} is null`)),
    db()
      .select({ count: sql<number>`count(*)::integer` })
      .from(document)
      .innerJoin(place, eq(place.id, document.homeId))
      .where(
        and(
          eq(place.filingYear, startYear),
          paperAllows(actor, 'see'),
          lacks.length === 0 ? sql`false` : sql`(${sql.join(lacks, sql` or `)})`,
        ),
      ),
  ]);
  const missing = gaps.filter((gap) => gap.startYear === startYear);
  const bySeries = new Map<string, number>();
  for (const gap of missing) bySeries.set(gap.series, (bySeries.get(gap.series) ?? 0) + 1);
  return {
    state,
    places: open?.places ?? 0,
    gaps: missing.length,
    gapsBySeries: [...bySeries].map(([name, count]) => ({ name, count })),
    undescribed: papers?.count ?? 0,
    uploads: uploads?.count ?? 0,
  };
});

async function keptYear(reader: Reader, startYear: number) {
  const [year] = await reader.select().from(filingYear).where(eq(filingYear.startYear, startYear));
  return year ?? refuse('not-found', 'That filing year is not kept.');
}

/** Closes a filing year in all dossiers, or reopens it, with a reason for the journal. */
export const setYearClosed = acts(
  'year.setClosed',
  ['tree', 'access', 'given'],
  async (tx, actor, { startYear, closed, reason }) => {
    if (!actor.keeper) refuse('not-allowed', 'Only a keeper closes filing years.');
    const year = await keptYear(tx, startYear);
    if (!closed && year.closed && reason === '')
      throw new Refusal(invalidField('reason', 'A reason is needed: the journal keeps it.'));
    await tx.update(filingYear).set({ closed }).where(eq(filingYear.startYear, startYear));
    const turned = await tx
      .update(place)
      .set({ closed, revision: sql`${place.revision} + 1` })
      .where(and(eq(place.kind, 'year'), eq(place.filingYear, startYear), eq(place.closed, !closed)))
      .returning({ id: place.id });
    // Dossiers made while it was closed have no place for it.
    if (!closed) await addMissingYears(tx, actor, [startYear]);
    if (year.closed === closed && turned.length === 0) return { entry: null, result: { places: 0 } };
    const detail = {
      label: await labelOf(tx, startYear),
      places: turned.length,
      reason: reason === '' ? 'no reason given' : reason,
    };
    return {
      entry: { act: closed ? 'year.closed' : 'year.reopened', subjects: turned.map((row) => row.id), detail },
      result: { places: turned.length },
    };
  },
);
