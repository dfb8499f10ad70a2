import { plainFields } from '@/core/columns/contract';
import { contract } from '@/core/contract';
import { plainDesk } from '@/core/desk/arrangement';
import { mostBookmarks } from '@/core/desk/contract';
import { fileBuffer } from '@/demo/file';
import { setAccess } from '@/server/access/change';
import { defineColumn } from '@/server/columns/define';
import { arrangeDesk, arrangementOf } from '@/server/desk/arrangement';
import { bookmarksOf, putBookmark, removeBookmark, reorderBookmark } from '@/server/desk/bookmarks';
import { figuresOf } from '@/server/desk/figures';
import { keepersToAsk, lackingOf, openedLately } from '@/server/desk/lately';
import { newsFor } from '@/server/desk/news';
import { writableDb } from '@/server/db/client';
import { bookmark } from '@/server/db/schema';
import { disposePapers } from '@/server/disposal/dispose';
import { renamePaper } from '@/server/documents/amend';
import { docketOf } from '@/server/documents/docket';
import type { Actor } from '@/server/gate/actor';
import { createFolder } from '@/server/places/create';
import { rememberPage } from '@/server/reading/read';
import { dropLibrary, type furnished, newcomer, open, refusedAs, sharedLibrary } from '../library';

let keeper: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  ({ keeper, reader, home } = await sharedLibrary());
});
afterAll(dropLibrary);

const file = (name: string, placeId = home.year.id, actor = keeper): Promise<string> =>
  fileBuffer(actor, placeId, `${name}.txt`, Buffer.from(name));
const paper = (ref: string) => ({ kind: 'paper', ref }) as const;
const names = async (actor: Actor): Promise<string[]> => (await bookmarksOf(actor)).map(({ name }) => name);

async function shutAway(): Promise<string> {
  const { id } = await createFolder(keeper, { parentId: home.year.id, name: `Shut ${crypto.randomUUID()}` });
  await setAccess(keeper, { on: { kind: 'place', id }, follows: false, revision: 0, message: null, grants: [] });
  return id;
}

describe('bookmarks', () => {
  it.each([
    ['paper', 'no id'],
    ['place', '/find?if=x'],
    ['search', 'https://elsewhere.example/find?if=x'],
    ['search', '//elsewhere.example/find?x'],
    ['search', '/find?a b'],
    ['search', 'javascript:alert(1)'],
    ['search', `/find?${'x'.repeat(4000)}`],
  ] as const)('are not on a %s at %s', (kind, ref) => {
    expect(contract['bookmark.put'].input.safeParse({ on: { kind, ref }, name: '' }).success).toBe(false);
  });

  it('are a person’s own, of papers, places and searches, in an order by hand', async () => {
    const [one, two] = [await file('one'), await file('two')];
    const search = { kind: 'search', ref: '/find?if=%5B%5D' } as const;
    await putBookmark(reader, { on: paper(one), name: '' });
    await putBookmark(reader, { on: { kind: 'place', ref: home.dossier.id }, name: '' });
    await putBookmark(reader, { on: search, name: 'ferry' });
    // Put twice, also at the same moment, it is there once.
    await Promise.all([1, 2].map(() => putBookmark(reader, { on: paper(two), name: '' })));
    expect(await names(reader)).toEqual(['one', 'Finance', 'ferry', 'two']);
    expect(await names(keeper)).toEqual([]);
    await reorderBookmark(reader, { on: paper(two), before: search });
    await reorderBookmark(reader, { on: paper(one), before: null });
    expect(await names(reader)).toEqual(['Finance', 'two', 'ferry', 'one']);
    expect(await refusedAs(reorderBookmark(reader, { on: paper(home.year.id), before: null }))).toBe('not-found');
    await removeBookmark(reader, { on: search });
    expect(await names(reader)).toEqual(['Finance', 'two', 'one']);
  });

  it('lead to nothing that is not open, and are there again once it is', async () => {
    const secret = await file('secret', await shutAway());
    expect(await refusedAs(putBookmark(reader, { on: paper(secret), name: '' }))).toBe('not-found');
    const [kept, gone] = [await file('kept'), await file('gone')];
    await putBookmark(reader, { on: paper(kept), name: '' });
    await putBookmark(reader, { on: paper(gone), name: '' });
    await disposePapers(keeper, { documentIds: [gone] });
    expect(await names(reader)).not.toContain('gone');
    await setAccess(keeper, {
      on: { kind: 'paper', id: kept },
      follows: false,
      revision: 0,
      message: null,
      grants: [],
    });
    expect(await names(reader)).not.toContain('kept');
    await setAccess(keeper, { on: { kind: 'paper', id: kept }, follows: true, revision: 1, message: null, grants: [] });
    expect(await names(reader)).toContain('kept');
  });

  it('are limited in number', async () => {
    const other = await newcomer(keeper, 'Col Lector');
    await open(keeper, home.dossier.id, other, 'reader');
    await writableDb()
      .insert(bookmark)
      .values(
        Array.from({ length: mostBookmarks }, (_, at) => ({
          personId: other.personId,
          kind: 'search' as const,
          ref: `/find?if=${at}`,
          position: at,
          at: new Date(),
        })),
      );
    expect(await refusedAs(putBookmark(other, { on: { kind: 'place', ref: home.dossier.id }, name: '' }))).toBe(
      'invalid',
    );
  });
});

describe('the desk', () => {
  it('is arranged by each person for themselves', async () => {
    expect(await arrangementOf(reader)).toEqual(plainDesk);
    await arrangeDesk(reader, { ...plainDesk, folded: ['news'] });
    await arrangeDesk(reader, { ...plainDesk, leftOut: ['mine'] });
    expect([await arrangementOf(reader), await arrangementOf(keeper)]).toEqual([
      { ...plainDesk, leftOut: ['mine'] },
      plainDesk,
    ]);
  });

  it('shows what was open last, at its page, as long as it is open to the person', async () => {
    const [one, two, secret] = [
      await file('first read'),
      await file('then read'),
      await file('kept', await shutAway()),
    ];
    await rememberPage(reader, { documentId: one, page: 3 });
    await rememberPage(reader, { documentId: two, page: 1 });
    await rememberPage(keeper, { documentId: secret, page: 1 });
    expect((await openedLately(reader)).map(({ title, page }) => [title, page])).toEqual([
      ['then read', 1],
      ['first read', 3],
    ]);
    await disposePapers(keeper, { documentIds: [two] });
    expect((await openedLately(reader)).map(({ title }) => title)).toEqual(['first read']);
  });

  it('tells of many papers filed together in one line, and of nothing that is kept from a person', async () => {
    const { id: placeId } = await createFolder(keeper, { parentId: home.year.id, name: 'Import' });
    for (const at of [1, 2, 3, 4]) await file(`imported ${at}`, placeId);
    const secret = await shutAway();
    await file('nobody knows', secret);
    const [first] = await newsFor(reader, { whose: 'all' });
    expect(first).toMatchObject({ verb: 'filed', by: keeper.name, count: 4, placeId, placeName: 'Finance, Import' });
    expect(JSON.stringify(await newsFor(reader, { whose: 'all' }))).not.toMatch(/nobody knows|Shut/u);
    expect((await newsFor(keeper, { whose: 'all' }))[0]).toMatchObject({ count: 1, placeId: secret });
    const changed = (await newsFor(reader, { whose: 'all' }))[0]?.papers[0];
    const { revision } = await docketOf(keeper, { documentId: changed?.id ?? '' });
    await renamePaper(keeper, { documentId: changed?.id ?? '', title: 'Renamed', revision });
    expect((await newsFor(reader, { whose: 'all' })).slice(0, 2).map(({ verb, count }) => [verb, count])).toEqual([
      ['changed', 1],
      ['filed', 3],
    ]);
    expect(await newsFor(reader, { whose: 'mine' })).toEqual([]);
  });

  it('counts values that are needed and missing in what the person filed', async () => {
    const adder = await newcomer(keeper, 'Ad Der');
    await open(keeper, home.dossier.id, adder, 'officer');
    await file('undescribed', home.year.id, adder);
    const needed = { ...plainFields, name: 'Needed', type: 'text', required: true } as const;
    const column = await defineColumn(keeper, { ...needed, placeId: home.series.id });
    expect(await lackingOf(adder)).toEqual([{ columnId: column.id, name: 'Needed', papers: 1 }]);
    expect(await lackingOf(reader)).toEqual([]);
  });

  it('has figures for keepers alone, which add up', async () => {
    expect(await refusedAs(figuresOf(reader))).toBe('not-allowed');
    const { papers, filed, kinds, growth } = await figuresOf(keeper);
    const sum = (rows: readonly { papers: number }[]) => rows.reduce((all, row) => all + row.papers, 0);
    expect([sum(filed), sum(kinds), growth.at(-1)?.papers]).toEqual([papers, papers, papers]);
    expect([growth.length, growth[0]?.papers]).toEqual([12, 0]);
  });

  it('says whom to ask where nothing is open', async () => {
    const nobody = await newcomer(keeper, 'No Body');
    expect(await newsFor(nobody, { whose: 'all' })).toEqual([]);
    expect((await keepersToAsk(nobody)).map(({ name }) => name)).toEqual([keeper.name]);
  });
});
