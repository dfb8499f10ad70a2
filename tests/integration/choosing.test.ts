import { putBookmark } from '@/server/desk/bookmarks';
import type { Actor } from '@/server/gate/actor';
import { choosePlaces } from '@/server/places/choose';
import { createFolder } from '@/server/places/create';
import { setStandstill } from '@/server/standstill/standstill';
import { setAccess } from '@/server/access/change';
import { lookAtPlace } from '@/server/views/look';
import { dropLibrary, type furnished, sharedLibrary } from '../library';

let keeper: Actor;
let officer: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  ({ keeper, reader: officer, home } = await sharedLibrary('officer'));
});
afterAll(() => dropLibrary());

const bookmark = (ref: string) => putBookmark(officer, { on: { kind: 'place', ref }, name: '' });
const offered = async (actor: Actor, words = '', withinId: string | null = null) =>
  (await choosePlaces(actor, { words, capability: 'add', withinId })).map(({ name, near, opens }) => [
    name,
    near,
    opens,
  ]);

it('offers first what is bookmarked, then where one was lately, then series and dossiers, each once', async () => {
  const { id: north } = await createFolder(keeper, { parentId: home.year.id, name: 'North' });
  const { id: south } = await createFolder(keeper, { parentId: home.year.id, name: 'South' });
  await bookmark(north);
  await bookmark(home.dossier.id);
  for (const placeId of [north, south]) await lookAtPlace(officer, { placeId });
  expect(await offered(officer)).toEqual([
    ['North', 'bookmarked', false],
    ['Finance', 'bookmarked', true],
    ['South', 'lately', false],
    ['Committees', null, true],
  ]);
  // One's own: nobody else has them before others.
  expect((await offered(keeper)).filter(([, near]) => near === 'bookmarked')).toEqual([]);
});

it('goes down from place to place, and finds words below one alone', async () => {
  expect(await offered(officer, '', home.series.id)).toEqual([['Finance', null, true]]);
  expect((await offered(officer, '', home.year.id)).map(([name]) => name)).toEqual(['North', 'South']);
  expect((await offered(officer, 'south', home.dossier.id)).map(([name]) => name)).toEqual(['South']);
  expect(await offered(officer, 'finance', home.year.id)).toHaveLength(2);
});

it('offers nothing that is closed, closed to one or withdrawn since, bookmarked or not', async () => {
  const { id } = await createFolder(keeper, { parentId: home.year.id, name: 'Closing' });
  await bookmark(id);
  const has = async () => (await offered(officer)).some(([name]) => name === 'Closing');
  expect(await has()).toBe(true);
  await setStandstill(keeper, { placeId: id, closed: true, locked: false, reason: '', revision: 0 });
  expect(await has()).toBe(false);
  await setStandstill(keeper, { placeId: id, closed: false, locked: false, reason: 'more comes', revision: 1 });
  expect(await has()).toBe(true);
  await setAccess(keeper, { on: { kind: 'place', id }, follows: false, revision: 0, message: null, grants: [] });
  expect(await has()).toBe(false);
  expect((await offered(officer, 'closing')).length).toBe(0);
  expect((await offered(officer, '', home.year.id)).some(([name]) => name === 'Closing')).toBe(false);
});
