import { Chance } from '@/core/chance/chance';
import { isChosen, ticked, type Mark } from '@/core/across/marks';
import { fileBuffer } from '@/demo/file';
import { atMoment } from '@/server/base/clock';
import { setStandstill } from '@/server/standstill/standstill';
import { setAccess } from '@/server/access/change';
import { acrossPapers, acrossTotals } from '@/server/across/chosen';
import { db } from '@/server/db/client';
import { document, place } from '@/server/db/schema';
import { disposePapers } from '@/server/disposal/dispose';
import { docketOf } from '@/server/documents/docket';
import { askForExport, exportsOf } from '@/server/exports/jobs';
import { makeNextExport } from '@/server/exports/make';
import type { Actor } from '@/server/gate/actor';
import { createFolder } from '@/server/places/create';
import { dropLibrary, freshLibrary, furnished, newcomer, open, refusedAs } from '../library';

let keeper: Actor;
let reader: Actor;
const lineages = new Map<string, readonly string[]>();
const homes = new Map<string, string>();
let shutPaper: string;
let shutPlace: string;
let gone: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  for (const name of ['First', 'Second']) {
    const home = await furnished(keeper, name);
    await open(keeper, home.series.id, reader, 'reader');
    const outer = await createFolder(keeper, { parentId: home.year.id, name: 'Outer' });
    const inner = await createFolder(keeper, { parentId: outer.id, name: 'Inner' });
    for (const { id } of [home.dossier, home.year, outer, inner])
      for (const at of [1, 2]) await fileBuffer(keeper, id, `${name} ${at}.txt`, Buffer.from(`${name} ${id} ${at}`));
    shutPlace = inner.id;
    gone = await fileBuffer(keeper, outer.id, 'gone.txt', Buffer.from('gone'));
  }
  shutPaper = await fileBuffer(keeper, shutPlace, 'shut.txt', Buffer.from('shut'));
  await setAccess(keeper, {
    on: { kind: 'paper', id: shutPaper },
    follows: false,
    revision: 0,
    message: null,
    grants: [],
  });
  await disposePapers(keeper, { documentIds: [gone] });
  for (const row of await db().select({ id: place.id, lineage: place.lineage }).from(place))
    lineages.set(row.id, row.lineage);
  for (const row of await db()
    .select({ id: document.id, homeId: document.homeId, disposedAt: document.disposedAt })
    .from(document))
    if (row.disposedAt === null) homes.set(row.id, row.homeId);
});
afterAll(dropLibrary);

const asked = (marks: readonly Mark[]) => ({ marks: marks.map(({ id, on }) => ({ id, on })), conditions: [] });

it('chooses the papers that the ticks mean, whatever is ticked, and no others, for each person', async () => {
  const chance = new Chance(19);
  const wayOf = (id: string, homeId: string) => [...(lineages.get(homeId) ?? []), id];
  const all = [...lineages.values(), ...[...homes].map(([id, homeId]) => wayOf(id, homeId))];
  for (let round = 0; round < 60; round += 1) {
    let marks: Mark[] = [];
    for (let ticks = chance.whole(1, 6); ticks > 0; ticks -= 1) marks = ticked(marks, chance.pick(all));
    const meant = [...homes].flatMap(([id, homeId]) => (isChosen(marks, wayOf(id, homeId)) ? [id] : [])).sort();
    expect(await acrossPapers(keeper, asked(marks))).toEqual(meant);
    expect((await acrossTotals(keeper, asked(marks))).papers).toBe(meant.length);
    expect(await acrossPapers(reader, asked(marks))).toEqual(meant.filter((id) => id !== shutPaper));
  }
});

it('narrows by conditions, and refuses those that it does not know', async () => {
  const everything = ticked([], [...lineages.values()].find((way) => way.length === 1) ?? []);
  const with_ = (conditions: Parameters<typeof acrossTotals>[1]['conditions']) => ({
    ...asked(everything),
    conditions,
  });
  const { papers } = await acrossTotals(keeper, asked(everything));
  expect(papers).toBe(homes.size);
  expect((await acrossTotals(keeper, with_([{ of: 'kind', anyOf: ['TEXT'] }]))).papers).toBe(papers);
  expect((await acrossTotals(keeper, with_([{ of: 'kind', anyOf: ['PDF'] }]))).papers).toBe(0);
  expect(
    (await acrossTotals(keeper, with_([{ of: 'changedAt', span: { from: null, to: '2020-01-01' } }]))).papers,
  ).toBe(0);
  expect(await refusedAs(acrossTotals(keeper, with_([{ of: crypto.randomUUID(), filled: false }])))).not.toBe('done');
});

it('narrows to what was closed before a day, for the last time, and is closed still', async () => {
  const everything = ticked([], [...lineages.values()].find((way) => way.length === 1) ?? []);
  const before = async (closedBefore: string) =>
    (await acrossTotals(keeper, { ...asked(everything), closedBefore })).papers;
  const outer = (await docketOf(keeper, { documentId: shutPaper })).homePath.at(-2)?.id ?? '';
  const below = [...homes.values()].filter((homeId) => lineages.get(homeId)?.includes(outer)).length;
  const turn = (closed: boolean, day: string, revision: number) =>
    atMoment(new Date(`${day}T12:00:00Z`), () =>
      setStandstill(keeper, { placeId: outer, closed, locked: false, reason: 'as it was', revision }),
    );
  expect(await before('2100-01-01')).toBe(0);
  let { revision } = await turn(true, '2027-03-01', 0);
  expect([await before('2027-03-01'), await before('2027-03-02')]).toEqual([0, below]);
  ({ revision } = await turn(false, '2027-04-01', revision));
  expect(await before('2100-01-01')).toBe(0);
  ({ revision } = await turn(true, '2027-05-01', revision));
  expect([await before('2027-03-02'), await before('2027-05-02')]).toEqual([0, below]);
  await turn(false, '2027-06-01', revision);
});

it('counts nothing of a place that is not there or not open, and says nothing of it', async () => {
  const shut = await createFolder(keeper, { parentId: shutPlace, name: 'Kept' });
  await setAccess(keeper, {
    on: { kind: 'place', id: shut.id },
    follows: false,
    revision: 0,
    message: null,
    grants: [],
  });
  await fileBuffer(keeper, shut.id, 'kept.txt', Buffer.from('kept'));
  for (const id of [shut.id, '00000000-0000-4000-8000-000000000000'])
    expect(await acrossTotals(reader, { marks: [{ id, on: true }], conditions: [] })).toEqual({
      papers: 0,
      pages: 0,
      sizeBytes: 0,
    });
  expect(await acrossTotals(keeper, asked([]))).toMatchObject({ papers: 0 });
});

it('is exported in one act', async () => {
  const [, outer = ''] = (await docketOf(keeper, { documentId: shutPaper })).homePath
    .map(({ id }) => id)
    .slice(-2)
    .reverse();
  const across = {
    marks: [
      { id: outer, on: true },
      { id: shutPlace, on: false },
    ],
    conditions: [],
  };
  const { exportId } = await askForExport(keeper, { what: { across }, folders: 'place' });
  while (await makeNextExport());
  expect((await exportsOf(keeper)).find(({ id }) => id === exportId)).toMatchObject({ state: 'done', papers: 2 });
});
