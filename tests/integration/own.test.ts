import type { OwnWay } from '@/core/views/own';
import { fileBuffer } from '@/demo/file';
import { markPassed } from '@/server/access/passed';
import { setAccess } from '@/server/access/change';
import { putBookmark } from '@/server/desk/bookmarks';
import { ledgerPage } from '@/server/documents/ledger';
import type { Actor } from '@/server/gate/actor';
import { pickUp, putDown } from '@/server/hand/hand';
import { changeGroup, createGroup } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { openView } from '@/server/views/open';
import { dropLibrary, type furnished, inGroup, newcomer, plainQuestion, sharedLibrary } from '../library';

let keeper: Actor;
let reader: Actor;
let other: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let folder: string;
const ids = new Map<string, string>();

beforeAll(async () => {
  ({ keeper, reader, home } = await sharedLibrary());
  other = await newcomer(keeper, 'Oth Er');
  folder = (await createFolder(keeper, { parentId: home.year.id, name: 'Passed on' })).id;
  for (const [name, placeId] of [
    ['One', home.year.id],
    ['Two', home.year.id],
    ['Deep', folder],
  ] as const)
    ids.set(name, await fileBuffer(keeper, placeId, `${name}.txt`, Buffer.from(`${name} of these`)));
});
afterAll(() => dropLibrary());

const id = (name: string) => ids.get(name) ?? '';

/** The titles found, which both the tally and SQL have to say. */
async function found(actor: Actor, ...ways: OwnWay[]): Promise<readonly string[]> {
  const conditions = [{ of: 'own' as const, anyOf: ways }];
  const view = { ...plainQuestion, placeId: home.series.id, below: true, conditions };
  const page = await openView(actor, { ...view, counts: ['own'] });
  const titles = page.rows.map(({ title }) => title).sort();
  const ledger = { placeId: home.series.id, below: true, sort: 'title', direction: 'up' as const, filter: '' };
  const { rows } = await ledgerPage(actor, { ...ledger, after: null, limit: 100, conditions });
  expect(rows.map(({ title }) => title).sort()).toEqual(titles);
  return titles;
}

it('finds what is in hand, and forgets what was put down', async () => {
  await pickUp(reader, { documentIds: [id('One'), id('Deep')] });
  expect(await found(reader, 'in-hand')).toEqual(['Deep', 'One']);
  expect(await found(keeper, 'in-hand')).toEqual([]);
  await putDown(reader, { documentIds: [id('Deep')] });
  expect(await found(reader, 'in-hand')).toEqual(['One']);
});

it('finds what is bookmarked, a paper by itself; several ways are alternatives', async () => {
  await putBookmark(reader, { on: { kind: 'paper', ref: id('Two') }, name: '' });
  await putBookmark(reader, { on: { kind: 'place', ref: folder }, name: '' });
  await putBookmark(reader, { on: { kind: 'search', ref: '/find?q=these' }, name: 'These' });
  expect(await found(reader, 'bookmarked')).toEqual(['Two']);
  expect(await found(reader, 'in-hand', 'bookmarked')).toEqual(['One', 'Two']);
});

it('finds what was passed by name and to a group, a place with all below it, on both sides', async () => {
  await setAccess(keeper, {
    on: { kind: 'place', id: folder },
    follows: true,
    revision: 0,
    message: null,
    grants: [{ subject: { kind: 'person', id: reader.personId }, gives: ['see'], withholds: [] }],
  });
  expect(await found(reader, 'passed-to-me')).toEqual(expect.arrayContaining(['Deep']));
  expect(await found(keeper, 'passed-by-me')).toEqual(expect.arrayContaining(['Deep']));
  await markPassed(reader, { on: [{ kind: 'place', id: folder }], as: 'takenOut' });
  await markPassed(reader, { on: [{ kind: 'place', id: home.series.id }], as: 'takenOut' });
  expect(await found(reader, 'passed-to-me')).toEqual([]);

  const { id: groupId } = await createGroup(keeper, { name: 'Readers of one' });
  await changeGroup(keeper, { groupId, name: 'Readers of one', terms: inGroup(other), revision: 0 });
  await setAccess(keeper, {
    on: { kind: 'paper', id: id('One') },
    follows: true,
    revision: 0,
    message: null,
    grants: [{ subject: { kind: 'group', id: groupId }, gives: ['see'], withholds: [] }],
  });
  const view = { ...plainQuestion, placeId: home.series.id, below: true };
  const page = await openView(other, {
    ...view,
    conditions: [{ of: 'own', anyOf: ['passed-to-my-groups'] }],
    counts: ['own'],
  });
  expect(page.rows.map(({ title }) => title)).toEqual(['One']);
  expect(page.counts['own']).toMatchObject({
    values: [{ value: 'passed-to-my-groups', name: 'passed to a group of mine', papers: 1 }],
  });
});

it('tells nobody else of them: not who looks as that person', async () => {
  await pickUp(reader, { documentIds: [id('One')] });
  const seen = {
    ...keeper,
    personId: reader.personId,
    seenBy: { personId: keeper.personId, name: '', scopes: new Map(), byOpening: new Set<string>() },
  } as unknown as Actor;
  expect(await found(seen, 'in-hand', 'bookmarked')).toEqual([]);
});

it('refuses a way that is not known', async () => {
  const view = { ...plainQuestion, placeId: home.series.id, conditions: [{ of: 'own' as const, anyOf: ['borrowed'] }] };
  await expect(openView(reader, view)).rejects.toMatchObject({ issue: { kind: 'invalid' } });
});
