import { and, eq, notInArray, sql } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import type { PlanForecast, PlanLine } from '@/core/plans/contract';
import { checkExpected, type Expectation } from '@/core/plans/expectation';
import { checkPlan } from '@/core/plans/plan';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { acts, asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { placeIsKnown } from '../gate/visible';
import { db, type Reader, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { expectedSay, filingPlan, place } from '../db/schema';
import { columnsIn } from '../columns/inForce';
import { applyPlan, removeEmpty } from './apply';
import { makePlaces } from '../places/make';
import { yearPlaces } from './yearPlaces';
import { arrange, planOfSeries, type Arranged } from './read';

/** The most lines of a forecast. */
const mostLines = 200;

const dossiersOf = (seriesId: string) => sql`${place.parentId} = ${seriesId}::uuid`;

/** The plan of a series that the caller may see. */
export const planOf = asks('plan.of', async (actor, { seriesId }) => {
  const series = await seriesFor(db(), actor, seriesId, 'see');
  const { byYear, folders, expected, revision } = await planOfSeries(db(), seriesId);
  const dossiers = await db().$count(place, and(eq(place.kind, 'dossier'), dossiersOf(seriesId), placeIsKnown(actor)));
  return { byYear, folders, expected, revision, mayChange: has(series.held, 'manage'), dossiers };
});

/** Loads a series for a capability. */
export async function seriesFor(reader: Reader, actor: Actor, seriesId: string, capability: 'see' | 'manage') {
  const found = await placeFor(reader, actor, seriesId, capability);
  if (found.kind !== 'series') refuse('invalid', 'A filing plan belongs to a series.');
  return found;
}

/** What saving a plan would change in the dossiers of its series. */
export const forecastPlan = asks('plan.forecast', async (actor, input) => {
  const series = await seriesFor(db(), actor, input.seriesId, 'manage');
  const before = await planOfSeries(db(), series.id);
  const plan = orRefuse(checkPlan({ folders: input.folders, byYear: input.byYear ?? before.byYear }));
  return told(await arrange(db(), actor, 'manage', plan, dossiersOf(input.seriesId), { withYears: true }));
});

/** Saves the plan of a series and makes its dossiers agree with it, in one act. */
export const setPlan = acts('plan.set', ['tree', 'access', 'given'], async (tx, actor, input) => {
  const series = await seriesFor(tx, actor, input.seriesId, 'manage');
  const before = await planOfSeries(tx, series.id);
  if (before.revision !== input.revision) refuse('conflict');
  const plan = orRefuse(checkPlan({ folders: input.folders, byYear: input.byYear ?? before.byYear }));
  const columns = await columnsIn(actor, series.id, true);
  const expected = orRefuse(checkExpected(input.expected ?? before.expected, plan, columns));
  const next = { byYear: plan.byYear, folders: plan.folders, expected, revision: before.revision + 1 };
  await tx
    .insert(filingPlan)
    .values({ seriesId: series.id, ...next })
    .onConflictDoUpdate({ target: filingPlan.seriesId, set: next });
  await forgetSays(tx, series.id, expected);
  const arranged = await arrange(tx, actor, 'manage', plan, dossiersOf(series.id), { withYears: true });
  const forecast = told(arranged);
  await makeYears(tx, actor, arranged);
  // Years that have just been made get their folders too.
  await applyPlan(tx, actor, series.id, await arrange(tx, actor, 'manage', plan, dossiersOf(series.id)));
  await removeYears(tx, arranged);
  // Leaves out how much was made: some of it may be hidden from readers of the series.
  const detail = { name: series.name };
  return {
    entry: { act: 'plan.set', subjects: [series.id], detail },
    result: { ...forecast, revision: next.revision },
  };
});

/** Deletes statements about papers that the plan no longer expects. */
async function forgetSays(tx: Tx, seriesId: string, expected: readonly Expectation[]): Promise<void> {
  await tx.delete(expectedSay).where(
    and(
      sql`${expectedSay.dossierId} in (select ${place.id} from ${place} where ${dossiersOf(seriesId)})`,
      notInArray(
        expectedSay.expectationId,
        expected.map((each) => each.id),
      ),
    ),
  );
}

/** Makes some dossiers, or all of a series, agree with its current plan: after a new dossier, year or meeting. */
export async function keepToPlan(
  tx: Tx,
  actor: Actor,
  seriesId: string,
  dossierIds: readonly string[] | null,
  capability: 'amend' | 'manage' = 'manage',
): Promise<number> {
  const arranged = await arrange(
    tx,
    actor,
    capability,
    await planOfSeries(tx, seriesId),
    dossierIds === null ? dossiersOf(seriesId) : idIn(place.id, dossierIds),
  );
  const [only, ...others] = dossierIds ?? [];
  await applyPlan(tx, actor, only !== undefined && others.length === 0 ? only : seriesId, arranged);
  return arranged.reduce((sum, { difference }) => sum + difference.add.length, 0);
}

/** Makes the years that dossiers lack. */
async function makeYears(tx: Tx, actor: Actor, arranged: readonly Arranged[]): Promise<void> {
  const missing = arranged.map(({ id, years }) => ({
    dossierId: id,
    startYears: years.add.map((year) => year.startYear),
  }));
  await makePlaces(tx, actor, await yearPlaces(tx, missing));
}

/** Removes years that dossiers need not have, and that hold nothing. */
async function removeYears(tx: Tx, arranged: readonly Arranged[]): Promise<void> {
  const empty = arranged.flatMap(({ years }) => years.remove.map((year) => year.id));
  if ((await removeEmpty(tx, empty)).length > 0) throw new Error('An empty year of a dossier could not be removed');
}

function told(arranged: readonly Arranged[]): PlanForecast {
  const counts: Record<PlanLine['what'], number> = {
    add: 0,
    adopt: 0,
    rename: 0,
    move: 0,
    remove: 0,
    leave: 0,
    closed: 0,
  };
  const lines: PlanLine[] = [];
  const say = (dossier: string, what: PlanLine['what'], name: string, to: string | null = null) => {
    counts[what] += 1;
    if (lines.length < mostLines) lines.push({ dossier, what, name, to });
  };
  for (const { name: dossier, difference, years } of arranged) {
    for (const each of years.leave) say(dossier, 'leave', each.name);
    for (const each of years.remove) say(dossier, 'remove', each.name);
    for (const each of years.add) say(dossier, 'add', each.label);
    for (const each of difference.leave) say(dossier, 'leave', each.name);
    for (const each of difference.remove) say(dossier, 'remove', each.name);
    for (const each of difference.rename) say(dossier, 'rename', each.from, each.wanted.name);
    for (const each of difference.move) say(dossier, 'move', each.name);
    for (const each of difference.adopt) say(dossier, 'adopt', each.wanted.name);
    for (const each of difference.add) say(dossier, 'add', each.name);
    for (const each of difference.closed) say(dossier, 'closed', each.name);
  }
  return { dossiers: arranged.length, counts, lines };
}
