import { and, eq, sql } from 'drizzle-orm';
import type { OutputOf, ReadInputOf } from '@/core/contract';
import { invalidField, issue } from '@/core/errors/issue';
import { refuse, Refusal } from '@/core/errors/refusal';
import { filingYearLabel } from '@/core/filing/filingYear';
import { perform } from '../act';
import type { Actor } from '../access/actor';
import { paperAllows } from '../access/visible';
import { recomputeGiven } from '../columns/given';
import { allColumns } from '../columns/read';
import { db, type Reader, type Tx } from '../db/client';
import { document, filingYear, library, place, upload } from '../db/schema';
import { requireKeeper } from '../people/people';
import { insertPlaces, type NewPlace } from '../places/insertMany';
import { gapsOf } from './gaps';
import { keepToPlan } from './plans';

/** Undoes what was only tried. */
class Tried<T> extends Error {
  constructor(readonly outcome: T) {
    super('This was only tried');
  }
}

const labelOf = async (reader: Reader, startYear: number): Promise<string> => {
  const [rule] = await reader.select({ startMonth: library.yearStartMonth }).from(library);
  return filingYearLabel(startYear, rule?.startMonth ?? 1);
};

/** Dossiers in which a year can be opened: those that are closed, or stand in a closed series, stay as they are. */
const openDossiers = and(
  eq(place.kind, 'dossier'),
  sql`not exists (select from ${place} as above where above.id = any(${place.lineage}) and above.closed)`,
);

async function makeYear(tx: Tx, actor: Actor, startYear: number): Promise<{ dossiers: number; folders: number }> {
  const added = await tx.insert(filingYear).values({ startYear }).onConflictDoNothing().returning();
  if (added.length === 0) throw new Refusal(issue('name-taken', 'That filing year is kept already.'));
  const label = await labelOf(tx, startYear);
  const dossiers = await tx.select({ id: place.id, seriesId: place.parentId }).from(place).where(openDossiers);
  const made = dossiers.map(({ id }): NewPlace => ({
    id: crypto.randomUUID(),
    parentId: id,
    kind: 'year',
    name: label,
    filingYear: startYear,
    meetingDay: null,
    plannedKey: null,
  }));
  await insertPlaces(tx, actor, made);
  const [root] = await tx.select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  if (root) await recomputeGiven(tx, root.id);
  let folders = 0;
  for (const seriesId of new Set(dossiers.flatMap((dossier) => dossier.seriesId ?? [])))
    folders += await keepToPlan(tx, actor, seriesId, null);
  return { dossiers: made.length, folders };
}

/** Makes a filing year: its place in every open dossier, and the folders that the plans have for one. */
export async function openYear(actor: Actor, { startYear }: ReadInputOf<'year.open'>): Promise<OutputOf<'year.open'>> {
  return perform(actor, async (tx) => {
    if (!actor.keeper) refuse('not-allowed', 'Only a keeper opens filing years.');
    const made = await makeYear(tx, actor, startYear);
    const detail = { label: await labelOf(tx, startYear), dossiers: made.dossiers };
    return {
      entry: { act: 'year.opened', subjects: [], detail },
      result: { made: made.dossiers, folders: made.folders },
    };
  });
}

/** What opening a filing year would make: it is done, counted and undone. */
export async function forecastYearOpening(
  actor: Actor,
  { startYear }: ReadInputOf<'year.openForecast'>,
): Promise<OutputOf<'year.openForecast'>> {
  requireKeeper(actor);
  const [{ kept } = { kept: 0 }] = await db()
    .select({ kept: sql<number>`count(*)::integer` })
    .from(place)
    .where(eq(place.kind, 'dossier'));
  try {
    await db().transaction(async (tx) => {
      throw new Tried(await makeYear(tx, actor, startYear));
    });
  } catch (error) {
    if (!(error instanceof Tried)) throw error;
    const made = error.outcome as { dossiers: number; folders: number };
    return { ...made, closedDossiers: kept - made.dossiers };
  }
  throw new Error('What was tried came true');
}

/** What is unfinished in a filing year that is to be closed. */
export async function forecastYearClosing(
  actor: Actor,
  { startYear }: ReadInputOf<'year.closeForecast'>,
): Promise<OutputOf<'year.closeForecast'>> {
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
}

async function keptYear(reader: Reader, startYear: number) {
  const [year] = await reader.select().from(filingYear).where(eq(filingYear.startYear, startYear));
  return year ?? refuse('not-found', 'That filing year is not kept.');
}

/** Closes a filing year in all dossiers, or opens it again, for which the journal keeps a reason. */
export async function setYearClosed(
  actor: Actor,
  { startYear, closed, reason }: ReadInputOf<'year.setClosed'>,
): Promise<OutputOf<'year.setClosed'>> {
  return perform(actor, async (tx) => {
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
  });
}
