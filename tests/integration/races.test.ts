import { eq, inArray, sql } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { setAccess } from '@/server/access/change';
import { setGiven } from '@/server/columns/given';
import { defineColumn } from '@/server/columns/define';
import { plainFields } from '@/core/columns/contract';
import { writableDb } from '@/server/db/client';
import { document, person, place } from '@/server/db/schema';
import { setKeeper } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { transaction } from '@/server/db/transaction';
import { movePlace } from '@/server/places/move';
import { startUpload } from '@/server/uploads/start';
import { openPlace } from '@/server/places/open';
import { dropLibrary, freshLibrary, furnished, newcomer, open, refusedAs, turns } from '../library';

/** Rounds of each race; more by EMBRIN_RACE_ROUNDS, for a search at leisure. */
const rounds = Number(process.env['EMBRIN_RACE_ROUNDS'] ?? 12);

let keeper: Actor;
let ann: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  keeper = await freshLibrary();
  ann = await newcomer(keeper, 'Ann Reader');
  home = await furnished(keeper);
  await open(keeper, home.series.id, ann, 'reader');
});
afterAll(dropLibrary);

const revisionOf = async (placeId: string): Promise<number> =>
  (await writableDb().select({ revision: place.revision }).from(place).where(eq(place.id, placeId)))[0]?.revision ?? -1;

it('makes no folder open to those whom a sheet shuts out at the same moment, there or further above', async () => {
  for (let round = 0; round < rounds; round += 1) {
    const outer = await createFolder(keeper, { parentId: home.dossier.id, name: `Race ${round}` });
    const inner = await createFolder(keeper, { parentId: outer.id, name: 'Inner' });
    expect(await refusedAs(openPlace(ann, { placeId: inner.id }))).toBe('done');
    const shut = turns(round % 2).then(() => stand(outer.id));
    const made = await Promise.all(
      Array.from({ length: 4 }, (_, maker) => makeSome(maker % 2 === 0 ? outer.id : inner.id, maker)),
    );
    await shut;
    for (const id of made.flat()) expect(await refusedAs(openPlace(ann, { placeId: id }))).toBe('not-found');
  }
});

/** Makes a place stand alone, with nobody named. */
const stand = (placeId: string) =>
  setAccess(keeper, { on: { kind: 'place', id: placeId }, follows: false, revision: 0, message: null, grants: [] });

/** Makes six folders in a place, one after the other. */
async function makeSome(parentId: string, maker: number): Promise<string[]> {
  const ids = [];
  for (let at = 0; at < 6; at += 1) ids.push((await createFolder(keeper, { parentId, name: `${maker} ${at}` })).id);
  return ids;
}

it('leaves every place with its parent’s way, whatever is moved while places are made in it', async () => {
  for (let round = 0; round < rounds; round += 1) {
    const target = await createDossier(keeper, { seriesId: home.series.id, name: `Target ${round}`, reference: null });
    const outer = await createFolder(keeper, { parentId: home.dossier.id, name: `Moved ${round}` });
    const inner = await createFolder(keeper, { parentId: outer.id, name: 'Inner' });
    const moved = turns(20 + 4 * (round % 6)).then(() => movePlace(keeper, { placeId: outer.id, toId: target.id }));
    await Promise.all(Array.from({ length: 4 }, (_, maker) => makeSome(maker % 2 === 0 ? outer.id : inner.id, maker)));
    await moved;
  }
  const { rows } = await writableDb().execute(sql`
    select child.id from place as child join place as parent on parent.id = child.parent_id
    where child.lineage <> parent.lineage || child.id`);
  expect(rows).toEqual([]);
});

it('gives papers what their home gives, whoever sets that while they are filed', async () => {
  const column = async (name: string, placeId: string) =>
    (await defineColumn(keeper, { ...plainFields, name, type: 'text', placeId })).id;
  const [outerId, innerId] = [await column('Outer', home.series.id), await column('Inner', home.series.id)];
  const give = async (placeId: string, columnId: string, value: string) =>
    setGiven(keeper, {
      placeId,
      revision: await revisionOf(placeId),
      given: [{ columnId, mode: 'fixed', value, binding: null }],
    });
  for (let round = 0; round < rounds; round += 1) {
    const outer = await createFolder(keeper, { parentId: home.dossier.id, name: `Given ${round}` });
    const inner = await createFolder(keeper, { parentId: outer.id, name: 'Inner' });
    const [, , paperId] = await Promise.all([
      give(outer.id, outerId, `outer ${round}`),
      turns(round % 4).then(() => give(inner.id, innerId, `inner ${round}`)),
      turns(round % 5).then(() => fileBuffer(keeper, inner.id, `${round}.txt`, Buffer.from(`paper ${round}`))),
    ]);
    const [paper] = await writableDb().select().from(document).where(eq(document.id, paperId));
    expect(paper?.shownValues).toMatchObject({ [outerId]: `outer ${round}`, [innerId]: `inner ${round}` });
  }
});

it('keeps a keeper, though two take it from each other at once', async () => {
  for (let round = 0; round < rounds; round += 1) {
    const ben = await newcomer(keeper, `Ben ${round}`);
    await setKeeper(keeper, { personId: ben.personId, keeper: true });
    const second = { ...ben, keeper: true };
    const outcomes = await Promise.all([
      refusedAs(setKeeper(keeper, { personId: ben.personId, keeper: false })),
      refusedAs(setKeeper(second, { personId: keeper.personId, keeper: false })),
    ]);
    expect(outcomes.filter((outcome) => outcome === 'done')).toHaveLength(1);
    const both = [keeper.personId, ben.personId];
    const left = await writableDb()
      .select({ id: person.id, keeper: person.keeper })
      .from(person)
      .where(inArray(person.id, both));
    expect(left.filter((each) => each.keeper)).toHaveLength(1);
    // For the next round it is the first again.
    await writableDb().update(person).set({ keeper: true }).where(eq(person.id, keeper.personId));
    await writableDb().update(person).set({ keeper: false }).where(eq(person.id, ben.personId));
  }
});

it('gives each of many dossiers that are made at once its own number', async () => {
  const made = await Promise.all(
    Array.from({ length: 20 }, (_, at) =>
      createDossier(keeper, { seriesId: home.series.id, name: `At once ${at}`, reference: null }),
    ),
  );
  expect(new Set(made.map((each) => each.reference)).size).toBe(20);
});

it('refuses an upload into a place that is removed at the same moment, in words', async () => {
  const folder = await createFolder(keeper, { parentId: home.dossier.id, name: 'Going' });
  let goOn = (): void => undefined;
  let removed: Promise<unknown> = Promise.resolve();
  await new Promise<void>((gone) => {
    removed = transaction(['tree'], async (tx) => {
      await tx.delete(place).where(eq(place.id, folder.id));
      gone();
      await new Promise<void>((done) => (goOn = done));
    });
  });
  // It still sees the place, and then waits for what becomes of it.
  const begun = refusedAs(startUpload(keeper, crypto.randomUUID(), 4, { placeId: folder.id, fileName: 'late.txt' }));
  await turns(500);
  goOn();
  await removed;
  expect(await begun).toBe('not-found');
});
