import type { GroupRole } from '@/core/people/model';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { atMoment } from '@/server/base/clock';
import { writableDb } from '@/server/db/client';
import { library } from '@/server/db/schema';
import { keepMembershipsCurrent } from '@/server/scopes/memberships';
import { changeGroup, createGroup, listPeople } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { dropLibrary, freshLibrary, furnished, newcomer, refusedAs } from '../library';
import { placeOn, say, sees } from '../sheets';

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

describe('a group', () => {
  const term = (who: Actor, from: string | null, until: string | null, role: GroupRole = 'member') => ({
    member: { kind: 'person' as const, id: who.personId },
    role,
    from,
    until,
  });

  /** What the first request of a day does before it is answered. */
  async function asByARequest(): Promise<void> {
    const [settings] = await writableDb()
      .select({ timeZone: library.timeZone, membershipDay: library.membershipDay })
      .from(library);
    if (settings) await keepMembershipsCurrent(settings);
  }

  it('opens and closes by the days of a term, on the day in the library’s own time zone', async () => {
    const place = await folder('By term');
    const inside = await paper(place.id, 'by term');
    const { id: groupId } = await createGroup(keeper, { name: 'Term' });
    await say(keeper, placeOn(place.id), [{ who: { groupId }, gives: ['see'] }], false);
    const seesAt = async (iso: string) =>
      atMoment(new Date(iso), async () => {
        await asByARequest();
        return sees(ben, inside);
      });
    await changeGroup(keeper, {
      groupId,
      name: 'Term',
      terms: [term(ben, '2027-04-01', '2028-03-31', 'chair')],
      revision: 0,
    });
    // British summer time: the day begins at 23:00 the evening before, by UTC.
    expect(await seesAt('2027-03-31T22:59:00Z')).toBe(false);
    expect(await seesAt('2027-03-31T23:01:00Z')).toBe(true);
    expect(await seesAt('2028-03-31T22:59:00Z')).toBe(true);
    expect(await seesAt('2028-03-31T23:01:00Z')).toBe(false);
    await asByARequest();
    const [settings] = await writableDb().select({ day: library.membershipDay }).from(library);
    expect(settings?.day).toBe(new Intl.DateTimeFormat('en-CA', { timeZone: 'Europe/London' }).format(new Date()));
  });

  it('is brought up to date for all of many who ask at the same moment after midnight', async () => {
    await writableDb().update(library).set({ membershipDay: '2001-01-01' });
    await Promise.all(Array.from({ length: 12 }, asByARequest));
    const [settings] = await writableDb().select({ day: library.membershipDay }).from(library);
    expect(settings?.day).toBe(new Intl.DateTimeFormat('en-CA', { timeZone: 'Europe/London' }).format(new Date()));
  });

  it('cannot be within itself, by whatever way, also when two keepers try at once', async () => {
    const made = await Promise.all(['Loop a', 'Loop b', 'Loop c'].map((name) => createGroup(keeper, { name })));
    const [a, b, c] = made.map((each) => each.id);
    const holds = (outer: string | undefined, inner: string | undefined, name: string) =>
      changeGroup(keeper, {
        groupId: outer ?? '',
        name,
        terms: [{ member: { kind: 'group', id: inner ?? '' }, role: 'member', from: null, until: null }],
        revision: 0,
      });
    expect(await refusedAs(holds(a, a, 'Loop a'))).toBe('into-itself');
    await holds(a, b, 'Loop a');
    await holds(b, c, 'Loop b');
    expect(await refusedAs(holds(c, a, 'Loop c'))).toBe('into-itself');
    const pair = await Promise.all(['Left', 'Right'].map((name) => createGroup(keeper, { name })));
    const tried = await Promise.all([
      refusedAs(holds(pair[0]?.id, pair[1]?.id, 'Left')),
      refusedAs(holds(pair[1]?.id, pair[0]?.id, 'Right')),
    ]);
    expect(tried.sort()).toEqual(['done', 'into-itself']);
  });

  it('shows who is in it as what, and who is in it no longer', async () => {
    const { id: groupId } = await createGroup(keeper, { name: 'Shown' });
    await changeGroup(keeper, {
      groupId,
      name: 'Shown',
      terms: [term(ann, null, null, 'secretary'), term(ben, '2001-01-01', '2001-12-31')],
      revision: 0,
    });
    const { groups, people } = await listPeople(keeper);
    expect(groups.find((each) => each.id === groupId)).toMatchObject({
      memberCount: 1,
      terms: [
        { name: 'Ann Reader', role: 'secretary', current: true },
        { name: 'Ben Other', current: false, until: '2001-12-31' },
      ],
    });
    expect(people.find((each) => each.id === ben.personId)?.groups).not.toContain('Shown');
  });
});
