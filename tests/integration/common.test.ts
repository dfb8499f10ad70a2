import { eq, sql } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import { inDossier } from '@/core/places/common';
import type { Actor } from '@/server/gate/actor';
import { db } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { setPlan } from '@/server/plans/plans';
import { librarySettings } from '@/server/library/settings';
import { commonOf, forecastCommon, setCommon } from '@/server/places/common';
import { setSeenIn } from '@/server/plans/seenIn';
import { createFolder, createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { movePlace } from '@/server/places/move';
import { listChildren, openPlace, seriesOf } from '@/server/places/open';
import { placeOn, say } from '../sheets';
import { dropLibrary, freshLibrary, newcomer, refusedAs } from '../library';

let keeper: Actor;
let officer: Actor;
let neighbour: Actor;
let series: string;
let ardent: string;
let brisk: string;
let forms: string;
const letters = '00000000-0000-4000-9000-00000000c001';

const names = async (actor: Actor, placeId: string) =>
  (await listChildren(actor, { placeId })).map(
    (row) => `${row.name}${row.commonTo === null ? '' : ` (${row.commonTo})`}`,
  );
const childNamed = async (placeId: string, name: string) => {
  const [row] = await db()
    .select({ id: place.id })
    .from(place)
    .where(sql`${place.parentId} = ${placeId}::uuid and ${place.name} = ${name}`);
  return row?.id ?? '';
};

beforeAll(async () => {
  keeper = await freshLibrary();
  officer = await newcomer(keeper, 'Off Icer');
  neighbour = await newcomer(keeper, 'Neigh Bour');
  series = (await createSeries(keeper, { name: 'Tenants', referencePattern: null })).id;
  const folders = [{ id: letters, parentId: null, timing: 'once' as const, pattern: 'Letters' }];
  await setPlan(keeper, { seriesId: series, folders, revision: 0 });
  ardent = (await createDossier(keeper, { seriesId: series, name: 'Ardent', reference: null })).id;
  brisk = (await createDossier(keeper, { seriesId: series, name: 'Brisk', reference: null })).id;
  await say(keeper, placeOn(series), [{ who: officer, gives: ['see', 'add'] }]);
  await say(keeper, placeOn(brisk), [{ who: neighbour, gives: ['see', 'add', 'amend', 'manage'] }]);
  forms = (await createFolder(keeper, { parentId: ardent, name: 'Forms', common: true })).id;
});
afterAll(dropLibrary);

it('is kept once at the series, and seen and filed into from every dossier; its papers count once', async () => {
  await fileBuffer(keeper, forms, 'Form of lease.txt', Buffer.from('lease'));
  expect(await names(officer, ardent)).toContain('Forms (2)');
  expect(await names(officer, brisk)).toContain('Forms (2)');
  const papers = async (actor: Actor, placeId: string) => (await openPlace(actor, { placeId })).place.paperCount;
  expect(await papers(officer, series)).toBe(1);
  expect(await papers(officer, ardent)).toBe(0);
  expect(await papers(officer, forms)).toBe(1);
  // Who may see only one dossier is told nothing of what is kept at the series.
  expect(await names(neighbour, brisk)).toEqual(['2026–27', 'Letters']);
  expect(await refusedAs(openPlace(neighbour, { placeId: forms }))).toBe('not-found');
});

it('is looked at by way of the dossier one comes from, and of no other place', async () => {
  const inner = await createFolder(keeper, { parentId: forms, name: 'Old ones' });
  const way = async (actor: Actor, placeId: string, withinId: string) => {
    const page = await openPlace(actor, { placeId, withinId });
    return [page.withinId, ...page.path.map((step) => step.name)];
  };
  expect(await way(officer, forms, brisk)).toEqual([brisk, 'Tenants', 'Brisk']);
  expect(await way(officer, inner.id, ardent)).toEqual([ardent, 'Tenants', 'Ardent', 'Forms']);
  // By way of what is no dossier of the series: by itself.
  expect(await way(officer, forms, series)).toEqual([null, 'Tenants']);
  expect(await way(officer, ardent, brisk)).toEqual([null, 'Tenants']);
});

it('lies in a series, whose tab stays open; the library itself lies in none', async () => {
  for (const placeId of [forms, ardent, series])
    expect(await seriesOf(officer, { placeId })).toEqual({ seriesId: series });
  expect(await refusedAs(seriesOf(neighbour, { placeId: forms }))).toBe('not-found');
  expect(await seriesOf(keeper, { placeId: (await librarySettings()).rootId })).toEqual({ seriesId: null });
});

it('is seen where the plan says, and in the dossier itself where that has no such folder', async () => {
  await setSeenIn(keeper, { placeId: forms, seenIn: letters });
  expect(await commonOf(officer, { seriesId: series })).toEqual([
    { id: forms, name: 'Forms', paperCount: 1, seenIn: letters },
  ]);
  const inArdent = await childNamed(ardent, 'Letters');
  expect(await names(officer, ardent)).not.toContain('Forms (2)');
  expect(await names(officer, inArdent)).toEqual(['Forms (2)']);
  const path = (await openPlace(officer, { placeId: forms, withinId: ardent })).path.map((step) => step.name);
  expect(path).toEqual(['Tenants', 'Ardent', 'Letters']);
  // The plan has it no more: the folder goes, and what was seen in it is seen in the dossier.
  await setPlan(keeper, { seriesId: series, folders: [], revision: 1 });
  expect(await childNamed(ardent, 'Letters')).toBe('');
  expect(await names(officer, ardent)).toContain('Forms (2)');
  expect(await refusedAs(setSeenIn(keeper, { placeId: forms, seenIn: letters }))).toBe('conflict');
  await setSeenIn(keeper, { placeId: forms, seenIn: inDossier });
});

it('becomes one dossier’s only, and common again, with its papers, after who gains and loses was said', async () => {
  const told = await forecastCommon(keeper, { placeId: forms, onlyId: brisk });
  expect(told).toMatchObject({ paperCount: 1, dossiers: 1, sameName: 0 });
  expect(JSON.stringify(told.impact)).toContain('Neigh Bour');
  await setCommon(keeper, { placeId: forms, onlyId: brisk });
  expect(await names(officer, ardent)).not.toContain('Forms (2)');
  expect(await names(officer, brisk)).toContain('Forms');
  expect((await openPlace(neighbour, { placeId: brisk })).place.paperCount).toBe(1);
  expect(await refusedAs(setCommon(keeper, { placeId: forms, onlyId: brisk }))).toBe('conflict');

  await createFolder(keeper, { parentId: ardent, name: 'FORMS' });
  expect(await forecastCommon(keeper, { placeId: forms, onlyId: null })).toMatchObject({ dossiers: 1, sameName: 1 });
  await setCommon(keeper, { placeId: forms, onlyId: null });
  expect(await names(officer, ardent)).toEqual(expect.arrayContaining(['FORMS', 'Forms (2)']));
  expect(await refusedAs(openPlace(neighbour, { placeId: forms }))).toBe('not-found');
  expect(await refusedAs(setCommon(keeper, { placeId: forms, onlyId: null }))).toBe('conflict');
});

it('is made and changed only by who manages the series, out of a folder that is no year’s and not the plan’s', async () => {
  expect(await refusedAs(createFolder(officer, { parentId: ardent, name: 'Mine', common: true }))).toBe('not-allowed');
  // Who manages one dossier does not manage all.
  expect(await refusedAs(createFolder(neighbour, { parentId: brisk, name: 'Mine', common: true }))).toBe('not-found');
  const own = await createFolder(neighbour, { parentId: brisk, name: 'Own' });
  expect(await refusedAs(setCommon(neighbour, { placeId: own.id, onlyId: null }))).toBe('not-found');
  expect(await refusedAs(forecastCommon(neighbour, { placeId: own.id, onlyId: null }))).toBe('not-found');

  const year = await childNamed(ardent, '2026–27');
  const ofYear = await createFolder(keeper, { parentId: year, name: 'Invoices' });
  expect(await refusedAs(setCommon(keeper, { placeId: ofYear.id, onlyId: null }))).toBe('invalid');
  expect(await refusedAs(createFolder(keeper, { parentId: year, name: 'Mine', common: true }))).toBe('invalid');
  const folders = [{ id: letters, parentId: null, timing: 'once' as const, pattern: 'Letters' }];
  await setPlan(keeper, { seriesId: series, folders, revision: 2 });
  const planned = await childNamed(ardent, 'Letters');
  expect(await refusedAs(setCommon(keeper, { placeId: planned, onlyId: null }))).toBe('invalid');
  // In a planned folder of each dossier, what is made common is seen in that.
  const inPlanned = await createFolder(keeper, { parentId: planned, name: 'Circulars' });
  await setCommon(keeper, { placeId: inPlanned.id, onlyId: null });
  expect(await names(officer, await childNamed(brisk, 'Letters'))).toEqual(['Circulars (2)']);

  expect(await refusedAs(movePlace(keeper, { placeId: forms, toId: ardent }))).toBe('invalid');
  const [kept] = await db().select().from(place).where(eq(place.id, forms));
  expect(kept?.parentId).toBe(series);
});

it('can be made of a folder that stands in the series already, which stays where it is', async () => {
  const plain = await createFolder(keeper, { parentId: series, name: 'Tariffs' });
  await fileBuffer(keeper, plain.id, 'Tariff of dues.txt', Buffer.from('dues'));
  expect(await names(officer, ardent)).not.toContain('Tariffs (2)');
  const told = await forecastCommon(keeper, { placeId: plain.id, onlyId: null });
  expect(told).toEqual({ paperCount: 0, impact: [], values: [], dossiers: 2, sameName: 0 });
  await setCommon(keeper, { placeId: plain.id, onlyId: null });
  expect(await names(officer, ardent)).toContain('Tariffs (2)');
});

it('is changed once by two people at the same time', async () => {
  const folder = await createFolder(keeper, { parentId: ardent, name: 'Two at once' });
  const change = () => setCommon(keeper, { placeId: folder.id, onlyId: null });
  const outcomes = await Promise.allSettled([change(), change()]);
  expect(outcomes.filter((each) => each.status === 'fulfilled')).toHaveLength(1);
  expect((await commonOf(keeper, { seriesId: series })).filter((each) => each.name === 'Two at once')).toHaveLength(1);
});
