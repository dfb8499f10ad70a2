import { eq } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { writableDb } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { forecastPaperMove, movePapers, putInPlaces } from '@/server/documents/amend';
import { crossFile, forecastFiling, leavePlace } from '@/server/documents/crossFile';
import { docketOf } from '@/server/documents/docket';
import { papersByIds } from '@/server/documents/ledger';
import { journalOf } from '@/server/journal/read';
import { removePlace } from '@/server/places/amend';
import { createFolder } from '@/server/places/create';
import { openRack } from '@/server/expected/rack';
import { openPlace, listChildren } from '@/server/places/open';
import { find } from '@/server/search/find';
import { openView } from '@/server/views/open';
import { dropLibrary, freshLibrary, furnished, newcomer, plainQuestion, refusedAs } from '../library';
import { paperOn, placeOn, say, sees } from '../sheets';
import { askTally } from '@/server/tally/host';
import { questioner } from '@/server/tally/questioner';
import { snapshot } from '@/server/db/transaction';

let keeper: Actor;
let ann: Actor;
let ben: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  keeper = await freshLibrary();
  ann = await newcomer(keeper, 'Ann Reader');
  ben = await newcomer(keeper, 'Ben Other');
  home = await furnished(keeper);
});
afterAll(dropLibrary);

const folder = (name: string) => createFolder(keeper, { parentId: home.dossier.id, name });
const paper = (placeId: string, name: string) => fileBuffer(keeper, placeId, `${name}.txt`, Buffer.from(name));

describe('a paper filed elsewhere as well', () => {
  async function scene(name: string) {
    const [source, target] = [await folder(`${name} source`), await folder(`${name} target`)];
    await say(keeper, placeOn(source.id), [], false);
    await say(keeper, placeOn(target.id), [{ who: ben, gives: ['see', 'take'] }], false);
    return { source, target, id: await paper(source.id, `${name} paper`) };
  }
  const listed = async (who: Actor, placeId: string) =>
    (await openView(who, { ...plainQuestion, placeId })).rows.map((row) => row.title);

  it('as a pointer is listed there for those who see it anyway, and changes nobody’s access', async () => {
    const { target, id } = await scene('Pointer');
    expect(await forecastFiling(keeper, { documentIds: [id], placeId: target.id, kind: 'pointer' })).toEqual([]);
    await crossFile(keeper, { documentIds: [id], toIds: [target.id], kind: 'pointer' });
    expect(await listed(keeper, target.id)).toEqual(['Pointer paper']);
    expect(await listed(ben, target.id)).toEqual([]);
    expect(await refusedAs(docketOf(ben, { documentId: id }))).toBe('not-found');
    expect(await refusedAs(removePlace(keeper, { placeId: target.id }))).toBe('not-empty');
  });

  /** What else may be said that has nothing to do with the home being told. */
  const besides: Readonly<Record<string, (scene: { source: string; id: string }) => Promise<unknown>>> = {
    'where nothing else is said': () => Promise.resolve(),
    'where its own sheet speaks of somebody else': ({ id }) => say(keeper, paperOn(id), [{ who: ann, gives: ['see'] }]),
    'where an empty folder below its home is open to them': async ({ source }) =>
      say(keeper, placeOn((await createFolder(keeper, { parentId: source, name: 'Empty' })).id), [
        { who: ben, gives: ['see'] },
      ]),
  };
  it.each(Object.keys(besides))(
    'as an opening lets that place’s readers in, who learn nothing of its home, %s',
    async (how) => {
      const { source, target, id } = await scene(`Opening ${how}`);
      await besides[how]?.({ source: source.id, id });
      const title = `Opening ${how} paper`;
      expect(await forecastFiling(keeper, { documentIds: [id], placeId: target.id, kind: 'opening' })).toMatchObject([
        { kind: 'gains', names: ['Ben Other'], papers: 1 },
      ]);
      await crossFile(keeper, { documentIds: [id], toIds: [target.id], kind: 'opening' });
      expect(await listed(ben, target.id)).toEqual([title]);
      const docket = await docketOf(ben, { documentId: id });
      expect(docket).toMatchObject({ isHome: false, homeId: target.id, homePath: [], capabilities: ['see', 'take'] });
      const row = (await openView(ben, { ...plainQuestion, placeId: target.id })).rows[0];
      expect(row).toMatchObject({ homeId: target.id });
      const told = JSON.stringify([
        docket,
        await papersByIds(ben, { documentIds: [id] }),
        (await find(ben, { words: title })).filter((each) => each.kind === 'paper'),
        await journalOf(ben, { subject: 'document', id, before: null }),
        await openView(ben, {
          ...plainQuestion,
          placeId: target.id,
          counts: ['place', 'openTo'],
          groupings: [{ of: 'place', by: 'value', order: 'own', direction: 'up' }],
        }),
      ]);
      expect(told).not.toContain(source.id);
      expect(told).not.toContain(`Opening ${how} source`);
      expect(await listed(keeper, target.id)).toEqual([title]);
      expect((await openPlace(ben, { placeId: target.id })).place.paperCount).toBe(1);
      expect(
        (await openView(ben, { ...plainQuestion, placeId: home.series.id, below: true })).rows
          .filter((each) => each.id === id)
          .map((each) => each.homeId),
      ).toEqual([target.id]);
      await leavePlace(keeper, { documentId: id, placeId: target.id });
      expect(await sees(ben, id)).toBe(false);
      expect(await sees(keeper, id)).toBe(true);
    },
  );

  it('is opened by those alone who manage it at home, and filed by those who may add where it goes', async () => {
    const { source, target, id } = await scene('Rights');
    const eve = await newcomer(keeper, 'Eve Adder');
    await say(keeper, placeOn(source.id), [{ who: eve, gives: ['see'] }], false);
    const file = (kind: 'pointer' | 'opening') => crossFile(eve, { documentIds: [id], toIds: [target.id], kind });
    expect(await refusedAs(file('pointer'))).toBe('not-found');
    await say(keeper, placeOn(target.id), [{ who: eve, gives: ['see', 'add'] }], false);
    expect(await refusedAs(file('opening'))).toBe('not-allowed');
    expect(await refusedAs(file('pointer'))).toBe('done');
    expect(await refusedAs(leavePlace(eve, { documentId: id, placeId: target.id }))).toBe('not-allowed');
    expect(await refusedAs(leavePlace(keeper, { documentId: id, placeId: source.id }))).toBe('invalid');
  });

  it('tells who comes in by it to those alone who may let them in, and is not taken out of a closed place', async () => {
    const { source, target, id } = await scene('Asked');
    const gus = await newcomer(keeper, 'Gus Adder');
    await say(keeper, placeOn(source.id), [{ who: gus, gives: ['see'] }], false);
    await say(
      keeper,
      placeOn(target.id),
      [
        { who: gus, gives: ['see', 'add'] },
        { who: ben, gives: ['see'] },
      ],
      false,
    );
    const ask = (kind: 'pointer' | 'opening' | null) =>
      forecastFiling(gus, { documentIds: [id], placeId: target.id, kind });
    expect([await refusedAs(ask('opening')), await refusedAs(ask(null)), await ask('pointer')]).toEqual([
      'not-allowed',
      'not-allowed',
      [],
    ]);
    await crossFile(keeper, { documentIds: [id], toIds: [target.id], kind: 'opening' });
    expect(await refusedAs(ask('pointer'))).toBe('not-allowed');
    expect(await forecastFiling(keeper, { documentIds: [id], placeId: target.id, kind: 'pointer' })).toMatchObject([
      { kind: 'loses', names: ['Ben Other'] },
    ]);
    await writableDb().update(place).set({ closed: true }).where(eq(place.id, target.id));
    expect(await refusedAs(leavePlace(keeper, { documentId: id, placeId: target.id }))).toBe('closed-place');
  });

  it('is told in the journal without the places that a reader may not know of, also when its move is undone', async () => {
    const { source, target, id } = await scene('Told');
    const also = await paper(source.id, 'Told paper too');
    const hal = await newcomer(keeper, 'Hal Reader');
    const moved = await movePapers(keeper, { documentIds: [id, also], toId: target.id });
    await putInPlaces(keeper, { homes: moved.backTo, undoing: moved.entryId });
    await movePapers(keeper, { documentIds: [id, also], toId: target.id });
    await say(keeper, placeOn(target.id), [{ who: hal, gives: ['see'] }], false);
    const words = (await journalOf(hal, { subject: 'document', id, before: null })).map((line) => line.words);
    expect(words.filter((each) => each.startsWith('moved')).length).toBe(3);
    expect(words.join()).not.toContain('Told source');
  });

  it('keeps what the paper itself withholds, whatever place would let someone in', async () => {
    const { target, id } = await scene('Withholding');
    await crossFile(keeper, { documentIds: [id], toIds: [target.id], kind: 'opening' });
    await say(keeper, paperOn(id), [{ who: ben, withholds: ['see'] }]);
    expect(await sees(ben, id)).toBe(false);
    await say(keeper, paperOn(id), [{ who: ben, withholds: ['take'] }]);
    expect(await docketOf(ben, { documentId: id })).toMatchObject({ capabilities: ['see'] });
  });

  it('that moves into a place which lists it is there once, and who lost it is said before', async () => {
    const { source, target, id } = await scene('Moving');
    await say(keeper, placeOn(source.id), [{ who: ann, gives: ['see'] }], false);
    await crossFile(keeper, { documentIds: [id], toIds: [target.id], kind: 'pointer' });
    expect((await forecastPaperMove(keeper, { documentIds: [id], toId: target.id })).impact).toMatchObject([
      { kind: 'loses', names: ['Ann Reader'] },
      { kind: 'gains', names: ['Ben Other'] },
    ]);
    await movePapers(keeper, { documentIds: [id], toId: target.id });
    expect(await listed(keeper, target.id)).toEqual(['Moving paper']);
    expect((await docketOf(keeper, { documentId: id })).filings).toEqual([]);
    expect([await sees(ann, id), await sees(ben, id)]).toEqual([false, true]);
  });

  it('counts once in a year of a dossier, however many of its folders list it', async () => {
    const [one, other] = [
      await createFolder(keeper, { parentId: home.year.id, name: 'Once here' }),
      await createFolder(keeper, { parentId: home.year.id, name: 'Once there' }),
    ];
    const held = async () => {
      const rack = await openRack(keeper, { seriesId: home.series.id });
      const row = rack.rows.find((each) => each.dossierId === home.dossier.id);
      return [row?.cells[0]?.papers, (await openPlace(keeper, { placeId: home.year.id })).place.paperCount];
    };
    const before = await held();
    const id = await paper(one.id, 'Counted once');
    await crossFile(keeper, { documentIds: [id], toIds: [other.id], kind: 'pointer' });
    await crossFile(keeper, { documentIds: [id], toIds: [home.year.id], kind: 'pointer' });
    expect(await held()).toEqual(before.map((count) => Number(count) + 1));
  });

  it('stands in the rack under a year that is but a step for its reader, who is told of nothing expected there', async () => {
    const inner = await createFolder(keeper, { parentId: home.year.id, name: 'Alone in its year' });
    const id = await paper(inner.id, 'Seen alone');
    const ida = await newcomer(keeper, 'Ida Reader');
    await say(keeper, placeOn(inner.id), [{ who: ida, gives: ['see'] }]);
    expect(await sees(ida, id)).toBe(true);
    const rack = await openRack(ida, { seriesId: home.series.id });
    expect(rack.rows.map((row) => row.cells.map((cell) => [cell?.papers, cell?.squares]))).toEqual([[[1, '']]]);
  });
});

it('counts papers below places by the tally as by SQL, for each person', async () => {
  const parents = await writableDb().select({ id: place.id, parentId: place.parentId }).from(place);
  const counted = async () => askTally('below', { placeId: home.series.id, placeIds: [] }, questioner(keeper));
  while ((await counted()) === null) await new Promise((next) => setTimeout(next, 20));
  let papers = 0;
  for (const who of [keeper, ann, ben])
    for (const { id: placeId } of parents) {
      const told = await listChildren(who, { placeId }).catch(() => null);
      // Within a transaction counts are SQL's.
      const bySql = await snapshot(() => listChildren(who, { placeId })).catch(() => null);
      expect(told).toEqual(bySql);
      papers += told?.reduce((sum, row) => sum + row.paperCount, 0) ?? 0;
    }
  expect(papers).toBeGreaterThan(40);
});
