import { and, eq, sql } from 'drizzle-orm';
import type { PlannedFolder } from '@/core/plans/plan';
import { fileBuffer } from '@/demo/file';
import { writableDb } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { createDossier } from '@/server/dossiers/create';
import { checkDossiers, makeDossiers } from '@/server/dossiers/dossiers';
import { openRack } from '@/server/expected/rack';
import type { Actor } from '@/server/gate/actor';
import { forecastPlan, planOf, setPlan } from '@/server/plans/plans';
import { createSeries } from '@/server/places/create';
import { setStandstill } from '@/server/standstill/standstill';
import { stopTally } from '@/server/tally/host';
import { forecastYearOpening, openYear } from '@/server/years/years';
import { dropLibrary, freshLibrary, newcomer, refusedAs } from '../library';
import { placeOn, say } from '../sheets';

let keeper: Actor;

const contract = '00000000-0000-4000-9000-0000000000c0';
const yearly = '00000000-0000-4000-9000-0000000000c1';
const folder = (id: string, timing: PlannedFolder['timing'], pattern: string): PlannedFolder => ({
  id,
  parentId: null,
  timing,
  pattern,
});

async function yearsOf(dossierId: string): Promise<number[]> {
  const rows = await writableDb()
    .select({ startYear: place.filingYear })
    .from(place)
    .where(and(eq(place.parentId, dossierId), eq(place.kind, 'year')))
    .orderBy(place.filingYear);
  return rows.map((row) => Number(row.startYear));
}
const seriesOf = (name: string, byYear: boolean) => createSeries(keeper, { name, referencePattern: null, byYear });
const dossierIn = async (seriesId: string, name: string) =>
  (await createDossier(keeper, { seriesId, name, reference: null })).id;

beforeAll(async () => {
  keeper = await freshLibrary();
  // Beside the year that is now, with which a library begins.
  for (const startYear of [1990, 1991]) await openYear(keeper, { startYear });
});
afterAll(async () => {
  await stopTally();
  await dropLibrary();
});

it('makes no years in the dossiers of such a series: one by one, from a list, for a new year or when reopened', async () => {
  const works = await seriesOf('Works', false);
  const job = await dossierIn(works.id, 'Pontoon repair');
  const list = { seriesId: works.id, text: 'Slipway crane\nFerry Stage bridge' };
  const lines = await checkDossiers(keeper, list);
  expect(lines).toHaveLength(2);
  await makeDossiers(keeper, { ...list, onlyGood: false });
  const forecast = await forecastYearOpening(keeper, { startYear: 1992 });
  expect(forecast).toMatchObject({ dossiers: 0, folders: 0, closedDossiers: 0 });
  await openYear(keeper, { startYear: 1992 });
  const jobs = await writableDb().select({ id: place.id }).from(place).where(eq(place.parentId, works.id));
  expect(jobs).toHaveLength(3);
  const [row] = await writableDb().select({ revision: place.revision }).from(place).where(eq(place.id, job));
  await setStandstill(keeper, {
    placeId: job,
    closed: true,
    locked: false,
    reason: '',
    revision: row?.revision ?? 0,
  });
  await setStandstill(keeper, {
    placeId: job,
    closed: false,
    locked: false,
    reason: 'Again',
    revision: (row?.revision ?? 0) + 1,
  });
  for (const { id } of jobs) expect(await yearsOf(id)).toEqual([]);
});

it('becomes filed by year and back: what will come of each dossier is said first; nothing that holds a paper goes', async () => {
  const series = await seriesOf('Suppliers', true);
  const [full, empty] = [await dossierIn(series.id, 'Timber'), await dossierIn(series.id, 'Rope')];
  await setPlan(keeper, { seriesId: series.id, folders: [folder(yearly, 'year', 'Invoices')], revision: 0 });
  const invoices = await writableDb()
    .select({ id: place.id })
    .from(place)
    .where(sql`${place.lineage} @> array[${full}::uuid] and ${place.filingYear} = 1991 and ${place.kind} = 'folder'`);
  await fileBuffer(keeper, invoices[0]?.id ?? '', 'Invoice 1.txt', Buffer.from('One\n'));
  const before = await yearsOf(full);
  expect(before).toHaveLength(4);

  const notYearly = { seriesId: series.id, byYear: false, folders: [folder(contract, 'once', 'Contract')] };
  expect(await refusedAs(forecastPlan(keeper, { ...notYearly, folders: [folder(yearly, 'year', 'Invoices')] }))).toBe(
    'invalid',
  );
  const forecast = await forecastPlan(keeper, notYearly);
  // Two dossiers: seven empty years with their seven folders go; one year and its folder hold a paper.
  expect(forecast.counts).toMatchObject({ add: 2, remove: 14, leave: 2 });
  const { revision, ...done } = await setPlan(keeper, { ...notYearly, revision: 1 });
  expect(done).toEqual(forecast);
  expect(await yearsOf(full)).toEqual([1991]);
  expect(await yearsOf(empty)).toEqual([]);
  expect((await planOf(keeper, { seriesId: series.id })).byYear).toBe(false);

  const again = { seriesId: series.id, byYear: true, folders: [folder(yearly, 'year', 'Invoices')] };
  const back = await forecastPlan(keeper, again);
  const set = await setPlan(keeper, { ...again, revision });
  expect({ ...set, revision: undefined }).toEqual({ ...back, revision: undefined });
  expect(await yearsOf(full)).toEqual(before);
  expect(await yearsOf(empty)).toEqual(before);
  const made = await writableDb()
    .select({ id: place.id })
    .from(place)
    .where(sql`${place.lineage} @> array[${empty}::uuid] and ${place.kind} = 'folder' and ${place.name} = 'Invoices'`);
  expect(made).toHaveLength(4);
});

it('is changed by who manages it, by one of two at once', async () => {
  const series = await seriesOf('Policies', true);
  await dossierIn(series.id, 'In force');
  const manager = await newcomer(keeper, 'Man Ager');
  await say(keeper, placeOn(series.id), [{ who: manager, gives: ['see', 'add'] }]);
  const off = { seriesId: series.id, byYear: false, folders: [], revision: 0 };
  expect(await refusedAs(setPlan(manager, off))).toBe('not-allowed');
  const told = await Promise.all([setPlan(keeper, off), setPlan(keeper, off)].map((each) => refusedAs(each)));
  expect(told.sort()).toEqual(['conflict', 'done']);
});

it('has planned folders across its rack, each with what the caller may see in it', async () => {
  const series = await seriesOf('Jobs', false);
  const job = await dossierIn(series.id, 'North Bar dredging');
  const closed = await dossierIn(series.id, 'Closed to most');
  await setPlan(keeper, {
    seriesId: series.id,
    folders: [folder(contract, 'once', 'Contract'), folder(yearly, 'once', 'Cost')],
    expected: [
      {
        id: yearly,
        timing: 'once',
        name: 'Cost plan',
        folderId: yearly,
        conditions: [],
        dueDays: -5,
        dueFrom: 'start',
      },
    ],
    revision: 0,
  });
  const [inContract] = await writableDb()
    .select({ id: place.id })
    .from(place)
    .where(and(eq(place.parentId, job), eq(place.plannedKey, contract)));
  await fileBuffer(keeper, inContract?.id ?? '', 'Contract.txt', Buffer.from('Contract\n'));
  await fileBuffer(keeper, job, 'Loose.txt', Buffer.from('Loose\n'));
  const reader = await newcomer(keeper, 'Rea Der');
  await say(keeper, placeOn(job), [{ who: reader, gives: ['see'] }]);
  const rackOf = async (who: Actor) => {
    const rack = await openRack(who, { seriesId: series.id });
    return rack.rows.map((row) => [
      row.name,
      row.whole.papers,
      row.gaps,
      ...row.cells.map((cell) => `${cell?.papers} ${cell?.squares}`),
    ]);
  };
  const mine = ['North Bar dredging', 2, 1, '1 ', '0 g'];
  expect(await rackOf(keeper)).toEqual([mine, ['Closed to most', 0, 1, '0 ', '0 g']]);
  expect(await rackOf(reader)).toEqual([mine]);
  const { columns, rows, byYear } = await openRack(reader, { seriesId: series.id });
  expect(byYear).toBe(false);
  expect(columns.map((column) => column.label)).toEqual(['Contract', 'Cost']);
  expect(rows[0]?.places[0]?.id).toBe(inContract?.id);
  expect(closed).not.toBe(job);
});
