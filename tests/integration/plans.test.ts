import { and, eq, sql } from 'drizzle-orm';
import type { PlannedFolder } from '@/core/plans/plan';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { writableDb } from '@/server/db/client';
import { document, place } from '@/server/db/schema';
import { checkDossiers, makeDossiers } from '@/server/dossiers/dossiers';
import { makeMeetings, meetingsOf, removeMeeting } from '@/server/meetings/meetings';
import { forecastPlan, planOf, setPlan } from '@/server/plans/plans';
import { journalOf } from '@/server/journal/read';
import { renamePlace } from '@/server/places/amend';
import { createFolder, createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { openYear } from '@/server/years/years';
import { movePlace } from '@/server/places/move';
import { setStandstill } from '@/server/standstill/standstill';
import { placeOn, say } from '../sheets';
import { plainView } from '@/core/views/spec';
import { startUpload, unfinishedUploads } from '@/server/uploads/start';
import { saveView } from '@/server/views/saved';
import { dropLibrary, freshLibrary, newcomer, open, refusedAs } from '../library';

let keeper: Actor;
let officer: Actor;
let series: string;
let dossier: string;

const ids = Array.from({ length: 9 }, (_each, at) => `00000000-0000-4000-9000-00000000000${at}`);
const [lease = '', letters = '', old = '', accounts = '', meetingFolder = '', annexes = ''] = ids;
const planned = (id: string, timing: PlannedFolder['timing'], pattern: string, parentId: string | null = null) => ({
  id,
  parentId,
  timing,
  pattern,
});
const plan = [
  planned(lease, 'once', 'Lease of {dossier}'),
  planned(letters, 'once', 'Letters'),
  planned(old, 'once', 'Old', letters),
  planned(accounts, 'year', 'Accounts {year}'),
  planned(meetingFolder, 'meeting', '{meeting:d MMM} meeting'),
  planned(annexes, 'meeting', 'Annexes', meetingFolder),
];

/** The folders of a dossier as paths, without the library and the series. */
async function paths(dossierId: string): Promise<string[]> {
  const rows = await writableDb().execute<{ path: string }>(sql`
    select (select string_agg(step.name::text, ' / ' order by array_length(step.lineage, 1))
      from ${place} as step where step.id = any(below.lineage) and array_length(step.lineage, 1) > 3) as path
    from ${place} as below where below.lineage @> array[${dossierId}::uuid] and below.kind = 'folder' order by 1`);
  return rows.rows.map((row) => row.path);
}
const put = async (folders: readonly PlannedFolder[], who = keeper) =>
  setPlan(who, {
    seriesId: series,
    folders: [...folders],
    revision: (await planOf(keeper, { seriesId: series })).revision,
  });

beforeAll(async () => {
  keeper = await freshLibrary();
  officer = await newcomer(keeper, 'Off Icer');
  series = (await createSeries(keeper, { name: 'Tenants', referencePattern: 'T-###' })).id;
  dossier = (await createDossier(keeper, { seriesId: series, name: 'Ardent', reference: null })).id;
  await open(keeper, series, officer, 'officer');
});
afterAll(dropLibrary);

describe('dossiers from a pasted list', () => {
  const seriesOf = async (name: string) => (await createSeries(keeper, { name, referencePattern: 'S-###' })).id;

  it('are made in one act, all or only the good, each with its years and planned folders', async () => {
    const seriesId = await seriesOf('Suppliers');
    await setPlan(keeper, { seriesId, folders: [planned(accounts, 'year', 'Invoices')], revision: 0 });
    const text = 'name\treference\nTimber\t\nFuel\tS-009\nTIMBER\t\nRope\t';
    expect((await checkDossiers(keeper, { seriesId, text })).map((line) => line.wrong === null)).toEqual([
      true,
      true,
      false,
      true,
    ]);
    expect(await refusedAs(makeDossiers(keeper, { seriesId, text, onlyGood: false }))).toBe('invalid');
    expect(await writableDb().$count(place, eq(place.parentId, seriesId))).toBe(0);
    expect(await makeDossiers(keeper, { seriesId, text, onlyGood: true })).toEqual({ made: 3, folders: 3 });
    const made = await writableDb()
      .select({ id: place.id, name: place.name, reference: place.reference })
      .from(place)
      .where(eq(place.parentId, seriesId))
      .orderBy(place.position);
    expect(made.map((row) => `${row.reference} ${row.name}`)).toEqual(['S-010 Timber', 'S-009 Fuel', 'S-011 Rope']);
    expect(await paths(made[0]?.id ?? '')).toEqual(['2026–27 / Invoices']);
    expect(await refusedAs(checkDossiers(officer, { seriesId, text }))).toBe('not-found');
  });

  it('two thousand with thirty bad lines are reported line by line, and made at once', async () => {
    const seriesId = await seriesOf('Clients');
    const rows = Array.from({ length: 2000 }, (_each, at) => (at % 67 === 5 ? '\tS-1' : `Client ${at}\t`));
    const text = rows.join('\n');
    const lines = await checkDossiers(keeper, { seriesId, text });
    expect(lines.filter((line) => line.wrong !== null)).toHaveLength(30);
    expect((await makeDossiers(keeper, { seriesId, text, onlyGood: true })).made).toBe(1970);
    const taken = await writableDb()
      .select({ reference: place.reference })
      .from(place)
      .where(eq(place.parentId, seriesId));
    expect(new Set(taken.map((row) => row.reference)).size).toBe(1970);
  });

  it('by two people at once get different references', async () => {
    const seriesId = await seriesOf('Projects');
    await Promise.all(
      ['A', 'B'].map((name) => makeDossiers(keeper, { seriesId, text: `${name}1\n${name}2`, onlyGood: true })),
    );
    const taken = await writableDb()
      .select({ reference: place.reference })
      .from(place)
      .where(eq(place.parentId, seriesId));
    expect(taken.map((row) => row.reference).sort()).toEqual(['S-001', 'S-002', 'S-003', 'S-004']);
  });
});

describe('the filing plan of a series', () => {
  it('is said before and made in one act, in every dossier; a second time it finds nothing to do', async () => {
    const before = await forecastPlan(keeper, { seriesId: series, folders: plan });
    expect(before.counts).toMatchObject({ add: 4, rename: 0, remove: 0 });
    const done = await put(plan);
    expect(done.counts).toEqual(before.counts);
    expect(await paths(dossier)).toEqual(['2026–27 / Accounts 2026–27', 'Lease of Ardent', 'Letters', 'Letters / Old']);
    expect((await forecastPlan(keeper, { seriesId: series, folders: plan })).counts).toMatchObject({
      add: 0,
      leave: 0,
    });
    const [line] = await journalOf(keeper, { subject: 'place', id: series, before: null });
    expect(line?.words).toBe('changed the filing plan of “Tenants”');
  });

  it('is kept by who manages the series; others see it; two at once do not both win', async () => {
    expect(await refusedAs(put(plan, officer))).toBe('not-allowed');
    expect((await planOf(officer, { seriesId: series })).mayChange).toBe(false);
    const stranger = await newcomer(keeper, 'Stran Ger');
    expect(await refusedAs(planOf(stranger, { seriesId: series }))).toBe('not-found');
    const { revision } = await planOf(keeper, { seriesId: series });
    const both = await Promise.all(
      [1, 2].map(() => refusedAs(setPlan(keeper, { seriesId: series, folders: plan, revision }))),
    );
    expect(both.sort()).toEqual(['conflict', 'done']);
    expect(await refusedAs(put([planned(lease, 'once', '{client}')]))).toBe('invalid');
    expect(await refusedAs(planOf(keeper, { seriesId: dossier }))).toBe('invalid');
  });

  it('gives a new dossier all its folders in the same act, and every dossier those of a new year', async () => {
    const made = await createDossier(keeper, { seriesId: series, name: 'Cockle', reference: null });
    expect(await paths(made.id)).toEqual(['2026–27 / Accounts 2026–27', 'Lease of Cockle', 'Letters', 'Letters / Old']);
    await openYear(keeper, { startYear: 2027 });
    expect((await paths(made.id)).filter((each) => each.startsWith('2027'))).toEqual(['2027–28 / Accounts 2027–28']);
    expect((await paths(dossier)).filter((each) => each.startsWith('2027'))).toEqual(['2027–28 / Accounts 2027–28']);
  });

  it('makes the folders of a meeting with it, in the year in which it falls, told apart on one day', async () => {
    const days = ['2026-07-14', '2027-03-31', '2027-04-01', '2026-07-14'];
    expect(await makeMeetings(officer, { dossierId: dossier, days, title: 'Board', venue: 'Pier' })).toEqual({
      made: 3,
      folders: 6,
    });
    expect((await paths(dossier)).filter((each) => each.includes('meeting'))).toEqual([
      '2026–27 / 14 Jul meeting',
      '2026–27 / 14 Jul meeting / Annexes',
      '2026–27 / 31 Mar meeting',
      '2026–27 / 31 Mar meeting / Annexes',
      '2027–28 / 1 Apr meeting',
      '2027–28 / 1 Apr meeting / Annexes',
    ]);
    const [folder] = await writableDb()
      .select({ day: place.meetingDay })
      .from(place)
      .where(and(eq(place.name, '31 Mar meeting'), sql`${place.lineage} @> array[${dossier}::uuid]`));
    expect(folder?.day).toBe('2027-03-31');
    await makeMeetings(keeper, { dossierId: dossier, days: ['2026-07-14'], title: 'Extra', venue: '' });
    expect(await paths(dossier)).toContain('2026–27 / 14 Jul meeting (2)');
    const extra = (await meetingsOf(officer, { dossierId: dossier })).find((each) => each.title === 'Extra');
    await removeMeeting(officer, { meetingId: extra?.id ?? '', revision: 0 });
    expect(await paths(dossier)).not.toContain('2026–27 / 14 Jul meeting (2)');
  });

  it('changed, renames what it named, keeps what people named, and never takes a place from a paper', async () => {
    const at = async (path: string) => {
      const [row] = await writableDb()
        .select({ id: place.id, revision: place.revision })
        .from(place)
        .where(and(eq(place.name, path), sql`${place.lineage} @> array[${dossier}::uuid]`));
      if (!row) throw new Error(`No ${path}`);
      return row;
    };
    const kept = await at('Lease of Ardent');
    const paper = await fileBuffer(keeper, kept.id, 'Lease.txt', Buffer.from('Lease\n'));
    const own = await at('Letters');
    await renamePlace(keeper, { placeId: own.id, name: 'Post', revision: own.revision });
    await createFolder(keeper, { parentId: dossier, name: 'Photos' });
    const next = [
      planned(letters, 'once', 'Correspondence'),
      planned(ids[6] ?? '', 'once', 'Photos'),
      planned(accounts, 'year', 'Figures {year:first}'),
      planned(meetingFolder, 'meeting', '{meeting:yyyy-MM-dd}'),
    ];
    const { counts, lines } = await put(next);
    const here = lines.filter((line) => line.dossier === 'Ardent');
    expect(here.filter((line) => line.what === 'leave').map((line) => line.name)).toEqual(['Lease of Ardent']);
    expect(here.filter((line) => line.what === 'adopt').map((line) => line.name)).toEqual(['Photos']);
    expect(counts.remove).toBeGreaterThan(3);
    expect(await paths(dossier)).toEqual([
      '2026–27 / 2026-07-14',
      '2026–27 / 2027-03-31',
      '2026–27 / Figures 2026',
      '2027–28 / 2027-04-01',
      '2027–28 / Figures 2027',
      'Lease of Ardent',
      'Photos',
      'Post',
    ]);
    const [row] = await writableDb().select({ homeId: document.homeId }).from(document).where(eq(document.id, paper));
    expect(row?.homeId).toBe(kept.id);
    expect((await forecastPlan(keeper, { seriesId: series, folders: next })).counts).toEqual({
      add: 0,
      adopt: 0,
      rename: 0,
      move: 0,
      remove: 0,
      leave: 0,
      closed: 0,
    });
  });

  it('removes a folder into which someone moved another that the plan has elsewhere, or that is locked', async () => {
    const away = await createSeries(keeper, { name: 'Moved by hand', referencePattern: null });
    const { id: home } = await createDossier(keeper, { seriesId: away.id, name: 'One', reference: null });
    const [outer, inner] = [
      planned(crypto.randomUUID(), 'once', 'Outer'),
      planned(crypto.randomUUID(), 'once', 'Inner'),
    ];
    let revision = 0;
    const plan = async (...folders: (typeof outer)[]) => {
      ({ revision } = await setPlan(keeper, { seriesId: away.id, folders, revision }));
      return (await paths(home)).filter((path) => /Outer|Inner/u.test(path));
    };
    const placeCalled = async (name: string) => {
      const [row] = await writableDb()
        .select()
        .from(place)
        .where(sql`${place.lineage}[3] = ${home}::uuid and name = ${name}`);
      if (!row) throw new Error(`No ${name}`);
      return row;
    };
    const moveInside = async () =>
      movePlace(keeper, { placeId: (await placeCalled('Inner')).id, toId: (await placeCalled('Outer')).id });
    await plan(outer, inner);
    await moveInside();
    expect(await plan(inner)).toEqual(['Inner']);
    await plan(outer, inner);
    await moveInside();
    const { id, revision: seen } = await placeCalled('Inner');
    await setStandstill(keeper, { placeId: id, locked: true, closed: false, reason: '', revision: seen });
    expect(await plan()).toEqual(['Outer', 'Outer / Inner']);
  });

  it('of a manager reaches no dossier that is kept from them, and tells nothing of it', async () => {
    const manager = await newcomer(keeper, 'Man Ager');
    const seriesId = (await createSeries(keeper, { name: 'Cases', referencePattern: null })).id;
    await say(keeper, placeOn(seriesId), [{ who: manager, gives: ['manage'] }]);
    const seen = await createDossier(keeper, { seriesId, name: 'Open case', reference: null });
    const kept = await createDossier(keeper, { seriesId, name: 'Secret case', reference: null });
    const folders = [planned(lease, 'once', 'Letters'), planned(old, 'once', 'Old', lease)];
    await setPlan(keeper, { seriesId, folders, revision: 0 });
    await say(keeper, placeOn(kept.id), [], false);
    const [inside] = await writableDb()
      .select({ id: place.id })
      .from(place)
      .where(and(eq(place.parentId, seen.id), eq(place.name, 'Letters')));
    await say(keeper, placeOn(inside?.id ?? ''), [], false);
    const next = folders.map((folder) => ({ ...folder, pattern: `${folder.pattern} and notes` }));
    const told = await forecastPlan(manager, { seriesId, folders: next });
    expect(told).toEqual({
      dossiers: 1,
      counts: { add: 0, adopt: 0, rename: 0, move: 0, remove: 0, leave: 0, closed: 0 },
      lines: [],
    });
    expect((await planOf(manager, { seriesId })).dossiers).toBe(1);
    await setPlan(manager, { seriesId, folders: next, revision: 1 });
    for (const id of [seen.id, kept.id]) expect(await paths(id)).toEqual(['Letters', 'Letters / Old']);
    expect((await forecastPlan(keeper, { seriesId, folders: next })).counts.rename).toBe(4);
  });

  it('takes no folder away that something is on its way to, or that someone has said something of', async () => {
    const seriesId = (await createSeries(keeper, { name: 'Jobs', referencePattern: null })).id;
    const job = await createDossier(keeper, { seriesId, name: 'Crane', reference: null });
    const names = ['Coming', 'Viewed', 'Opened', 'Bare'];
    await setPlan(keeper, {
      seriesId,
      folders: names.map((name, at) => planned(ids[at] ?? '', 'once', name)),
      revision: 0,
    });
    const idOf = async (name: string) => {
      const [row] = await writableDb()
        .select({ id: place.id })
        .from(place)
        .where(and(eq(place.parentId, job.id), eq(place.name, name)));
      return row?.id ?? '';
    };
    const coming = crypto.randomUUID();
    await startUpload(keeper, coming, 10, { placeId: await idOf('Coming'), fileName: 'Coming.txt' });
    await saveView(keeper, {
      placeId: await idOf('Viewed'),
      name: 'Mine',
      purpose: '',
      audience: 'me',
      groupIds: [],
      opensHere: false,
      spec: plainView,
    });
    await say(keeper, placeOn(await idOf('Opened')), [{ who: officer, gives: ['see'] }]);
    const { counts } = await setPlan(keeper, { seriesId, folders: [], revision: 1 });
    expect([counts.remove, counts.leave]).toEqual([1, 3]);
    expect(await paths(job.id)).toEqual(['Coming', 'Opened', 'Viewed']);
    expect((await unfinishedUploads(keeper)).map((each) => each.id)).toContain(coming);
  });

  it('leaves what is closed as it is', async () => {
    const [year] = await writableDb()
      .select({ id: place.id, revision: place.revision })
      .from(place)
      .where(and(eq(place.parentId, dossier), eq(place.filingYear, 2026), eq(place.kind, 'year')));
    if (!year) throw new Error('No year');
    await setStandstill(keeper, {
      placeId: year.id,
      locked: false,
      closed: true,
      reason: 'Done',
      revision: year.revision,
    });
    await put([planned(accounts, 'year', 'Money {year}')]);
    expect((await paths(dossier)).filter((each) => each.includes(' / '))).toEqual([
      '2026–27 / 2026-07-14',
      '2026–27 / 2027-03-31',
      '2026–27 / Figures 2026',
      '2027–28 / Money 2027–28',
    ]);
  });
});
