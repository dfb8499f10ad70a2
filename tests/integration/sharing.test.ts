import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import { eq } from 'drizzle-orm';
import { readySets, type Capability } from '@/core/access/capability';
import type { AccessOn } from '@/core/access/contract';
import { Refusal } from '@/core/errors/refusal';
import type { GroupRole } from '@/core/people/model';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/access/actor';
import { setAccess, undoAccess } from '@/server/access/change';
import { forecastAccess } from '@/server/access/forecast';
import { accessSheet, sortAddresses } from '@/server/access/sheet';
import { whyAccess } from '@/server/access/why';
import { atMoment } from '@/server/clock';
import { config } from '@/server/config';
import { db } from '@/server/db/client';
import { library, person } from '@/server/db/schema';
import { forecastPaperMove, movePapers } from '@/server/documents/amend';
import { contentFor } from '@/server/documents/content';
import { crossFile, forecastFiling, leavePlace } from '@/server/documents/crossFile';
import { docketOf } from '@/server/documents/docket';
import { papersByIds } from '@/server/documents/ledger';
import { journalOf } from '@/server/journal/read';
import { verifyJournal } from '@/server/journal/verify';
import { keepMembershipsCurrent } from '@/server/people/memberships';
import { changeGroup, createGroup, listPeople, removeGroup } from '@/server/people/people';
import { removePlace } from '@/server/places/amend';
import { createFolder } from '@/server/places/create';
import { openPlace } from '@/server/places/open';
import { find } from '@/server/search/find';
import { openView } from '@/server/views/open';
import { dropLibrary, freshLibrary, furnished, inGroup, newcomer, open, plainQuestion } from '../library';

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

const refusedAs = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'done',
    (error: unknown) => (error instanceof Refusal ? error.issue.kind : String(error)),
  );
const folder = (name: string) => createFolder(keeper, { parentId: home.dossier.id, name });
const paper = (placeId: string, name: string) => fileBuffer(keeper, placeId, `${name}.txt`, Buffer.from(name));
const placeOn = (id: string): AccessOn => ({ kind: 'place', id });
const paperOn = (id: string): AccessOn => ({ kind: 'paper', id });
const sees = async (who: Actor, documentId: string): Promise<boolean> =>
  (await papersByIds(who, { documentIds: [documentId] })).length === 1;

interface Saying {
  readonly who: Actor | { readonly groupId: string };
  readonly gives?: readonly Capability[];
  readonly withholds?: readonly Capability[];
}
const grants = (lines: readonly Saying[]) =>
  lines.map(({ who, gives = [], withholds = [] }) => ({
    subject:
      'groupId' in who ? { kind: 'group' as const, id: who.groupId } : { kind: 'person' as const, id: who.personId },
    gives: [...gives],
    withholds: [...withholds],
  }));
async function say(on: AccessOn, lines: readonly Saying[], follows = true, message: string | null = null) {
  const { revision } = await accessSheet(keeper, { on });
  return setAccess(keeper, { on, follows, grants: grants(lines), revision, message });
}

describe('a sheet', () => {
  it('withholds from one of a group what the group has, and gives it again further down', async () => {
    const place = await folder('Withheld');
    const inner = await createFolder(keeper, { parentId: place.id, name: 'Given again' });
    const { id: groupId } = await createGroup(keeper, { name: 'Both' });
    await changeGroup(keeper, { groupId, name: 'Both', terms: inGroup(ann, ben), revision: 0 });
    const [outer, deeper] = [await paper(place.id, 'outer'), await paper(inner.id, 'deeper')];
    await say(placeOn(place.id), [
      { who: { groupId }, gives: ['see', 'take'] },
      { who: ben, withholds: ['see'] },
    ]);
    expect([await sees(ann, outer), await sees(ben, outer), await sees(ben, deeper)]).toEqual([true, false, false]);
    await say(placeOn(inner.id), [{ who: ben, gives: ['see'] }]);
    expect([await sees(ben, outer), await sees(ben, deeper)]).toEqual([false, true]);
    await removeGroup(keeper, { groupId });
    expect([await sees(ann, outer), await sees(ben, deeper)]).toEqual([false, true]);
    expect((await accessSheet(keeper, { on: placeOn(place.id) })).lines.map((line) => line.name)).toEqual([
      'Ben Other',
    ]);
  });

  it('of a place that stands alone lets in whom it names, and nobody from above', async () => {
    const place = await folder('Alone');
    const inside = await paper(place.id, 'inside');
    await open(keeper, home.dossier.id, ann, 'reader');
    expect(await sees(ann, inside)).toBe(true);
    const papersFor = async () => (await openPlace(ann, { placeId: home.dossier.id })).place.paperCount;
    const before = await papersFor();
    const forecast = await forecastAccess(keeper, {
      on: placeOn(place.id),
      follows: false,
      grants: grants([{ who: ben, gives: ['see'] }]),
    });
    expect(forecast).toMatchObject([
      { kind: 'loses', names: ['Ann Reader'], papers: 1, examples: ['inside'], lastWay: false },
      { kind: 'gains', names: ['Ben Other'], papers: 1 },
    ]);
    await say(placeOn(place.id), [{ who: ben, gives: ['see'] }], false);
    expect([await sees(ann, inside), await sees(ben, inside)]).toEqual([false, true]);
    expect(await accessSheet(keeper, { on: placeOn(home.dossier.id) })).toMatchObject({ aloneBelow: 1 });
    expect(await papersFor()).toBe(before - 1);
  });

  it('of a paper opens that paper alone, and shows of the places on the way only their names', async () => {
    const cleo = await newcomer(keeper, 'Cleo Single');
    const place = await folder('Steps');
    const [shown, hidden] = [await paper(place.id, 'Shown single'), await paper(place.id, 'Hidden beside')];
    await say(paperOn(shown), [{ who: cleo, gives: ['see', 'amend'] }]);
    expect([await sees(cleo, shown), await sees(cleo, hidden)]).toEqual([true, false]);
    const page = await openPlace(cleo, { placeId: place.id });
    expect(page).toMatchObject({ capabilities: [], openTo: 0, place: { bareStep: true, paperCount: 1 } });
    const view = await openView(cleo, { ...plainQuestion, placeId: place.id });
    expect(view.rows.map((row) => row.title)).toEqual(['Shown single']);
    expect((await find(cleo, { words: 'single' })).map((each) => each.name)).toContain('Shown single');
    expect(await docketOf(cleo, { documentId: shown })).toMatchObject({ capabilities: ['see', 'amend'], openTo: 3 });
    expect(await refusedAs(contentFor(cleo, shown, null, 'take'))).toBe('not-allowed');
    await contentFor(cleo, shown, null, 'see');
    const { lastWay } = (await forecastAccess(keeper, { on: paperOn(shown), follows: true, grants: [] }))[0] ?? {
      lastWay: false,
    };
    expect(lastWay).toBe(true);
  });

  it('is saved in one act and undone in one step, unless it has been changed again', async () => {
    const place = await folder('Undone');
    const inside = await paper(place.id, 'undone');
    const first = await say(placeOn(place.id), [{ who: ben, gives: ['see'] }]);
    const second = await say(placeOn(place.id), [{ who: ben, gives: ['see', 'take'] }]);
    expect(await refusedAs(undoAccess(keeper, { entryId: first.entryId ?? 0 }))).toBe('conflict');
    await undoAccess(keeper, { entryId: second.entryId ?? 0 });
    expect(await docketOf(ben, { documentId: inside })).toMatchObject({ capabilities: ['see'] });
    await undoAccess(keeper, { entryId: first.entryId ?? 0 });
    expect(await sees(ben, inside)).toBe(false);
    expect(await refusedAs(undoAccess(ben, { entryId: first.entryId ?? 0 }))).toBe('not-found');
    const again = await say(placeOn(place.id), []);
    expect(again.entryId).toBeNull();
    const lines = await journalOf(keeper, { subject: 'place', id: place.id, before: null });
    expect(lines.filter((line) => line.words.includes('who may open')).map((line) => line.undoes)).toEqual([
      'access',
      'access',
      'access',
      'access',
    ]);
    expect((await verifyJournal()).brokenAt).toBeNull();
  });

  it('keeps the second of two managers from overwriting the first, and takes nobody twice', async () => {
    const place = await folder('Two managers');
    const on = placeOn(place.id);
    const { revision } = await accessSheet(keeper, { on });
    const set = (lines: readonly Saying[]) =>
      setAccess(keeper, { on, follows: true, grants: grants(lines), revision, message: null });
    const both = await Promise.all([
      refusedAs(set([{ who: ann, gives: ['see'] }])),
      refusedAs(set([{ who: ben, gives: ['see'] }])),
    ]);
    expect(both.sort()).toEqual(['conflict', 'done']);
    expect(
      await refusedAs(
        say(on, [
          { who: ann, gives: ['see'] },
          { who: ann, gives: ['take'] },
        ]),
      ),
    ).toBe('invalid');
  });

  it('tells those who are newly named, by mail and with what they may do', async () => {
    const dora = await newcomer(keeper, 'Dora Told');
    const place = await folder('Told of');
    await say(placeOn(place.id), [{ who: dora, gives: ['see', 'take'] }], true, 'For Tuesday.');
    await say(placeOn(place.id), [{ who: dora, gives: ['see'] }], true, 'Not sent: she is not new.');
    const outbox = config().EMBRIN_OUTBOX;
    // Lines are broken softly on the way (RFC 2045, quoted-printable).
    const mails = await Promise.all(
      (await readdir(outbox)).map(async (name) =>
        (await readFile(path.join(outbox, name), 'utf8')).replace(/=\r?\n/gu, ''),
      ),
    );
    const hers = mails.filter((mail) => mail.includes(dora.email) && mail.includes(place.id));
    expect(hers).toHaveLength(1);
    expect(hers[0]).toContain('For Tuesday.');
    expect(hers[0]).toContain('you may see and take copies');
  });

  it('sorts a pasted list of addresses into those here, those unknown and what is none', async () => {
    const text = `Ann Reader <${ann.email}>, ${ben.email.toUpperCase()}\nNew One <new.one@elsewhere.example>; ${ann.email}\nnonsense`;
    const sorted = await sortAddresses(keeper, { on: placeOn(home.dossier.id), text });
    expect(sorted.known.map((each) => each.name)).toEqual(['Ann Reader', 'Ben Other']);
    expect(sorted.unknown).toEqual([{ name: 'New One', address: 'new.one@elsewhere.example' }]);
    expect(sorted.wrong).toEqual(['nonsense']);
  });

  it('says why someone may open it, link by link, and why not', async () => {
    const place = await folder('Asked why');
    const { id: inner } = await createGroup(keeper, { name: 'Inner circle' });
    const { id: outer } = await createGroup(keeper, { name: 'Outer circle' });
    await changeGroup(keeper, { groupId: inner, name: 'Inner circle', terms: inGroup(ann), revision: 0 });
    await changeGroup(keeper, {
      groupId: outer,
      name: 'Outer circle',
      terms: [{ member: { kind: 'group', id: inner }, role: 'member', from: null, until: null }],
      revision: 0,
    });
    await say(placeOn(place.id), [{ who: { groupId: outer }, gives: ['see', 'take'] }], false);
    const asked = paperOn(await paper(place.id, 'asked'));
    const why = await whyAccess(keeper, { on: asked, personId: ann.personId });
    expect(why).toMatchObject({ comesTo: 'Ann Reader may see and take copies', maySee: true });
    expect(why.links.at(-1)).toBe('“Asked why”: Outer circle (by way of Inner circle) may see and take copies.');
    const whyNot = await whyAccess(keeper, { on: asked, personId: ben.personId });
    expect(whyNot).toMatchObject({ comesTo: 'Ben Other may do nothing', maySee: false });
    expect(whyNot.links.at(-1)).toBe('“Asked why” stands alone: only what is said there counts.');
    expect((await whyAccess(keeper, { on: asked, personId: keeper.personId })).links).toEqual([
      'A keeper manages all.',
    ]);
    expect(await refusedAs(whyAccess(ann, { on: asked, personId: ben.personId }))).toBe('not-allowed');
  });
});

describe('a paper filed elsewhere as well', () => {
  async function scene(name: string) {
    const [source, target] = [await folder(`${name} source`), await folder(`${name} target`)];
    await say(placeOn(source.id), [], false);
    await say(placeOn(target.id), [{ who: ben, gives: ['see', 'take'] }], false);
    return { source, target, id: await paper(source.id, `${name} paper`) };
  }
  const listed = async (who: Actor, placeId: string) =>
    (await openView(who, { ...plainQuestion, placeId })).rows.map((row) => row.title);

  it('as a pointer is listed there for those who see it anyway, and changes nobody’s access', async () => {
    const { target, id } = await scene('Pointer');
    expect(await forecastFiling(keeper, { documentIds: [id], placeId: target.id, kind: 'pointer' })).toEqual([]);
    await crossFile(keeper, { documentIds: [id], toId: target.id, kind: 'pointer' });
    expect(await listed(keeper, target.id)).toEqual(['Pointer paper']);
    expect(await listed(ben, target.id)).toEqual([]);
    expect(await refusedAs(docketOf(ben, { documentId: id }))).toBe('not-found');
    expect(await refusedAs(removePlace(keeper, { placeId: target.id }))).toBe('not-empty');
  });

  it('as an opening lets that place’s readers in, who learn nothing of its home', async () => {
    const { source, target, id } = await scene('Opening');
    expect(await forecastFiling(keeper, { documentIds: [id], placeId: target.id, kind: 'opening' })).toMatchObject([
      { kind: 'gains', names: ['Ben Other'], papers: 1 },
    ]);
    await crossFile(keeper, { documentIds: [id], toId: target.id, kind: 'opening' });
    expect(await listed(ben, target.id)).toEqual(['Opening paper']);
    const docket = await docketOf(ben, { documentId: id });
    expect(docket).toMatchObject({ isHome: false, homeId: target.id, homePath: [], capabilities: ['see', 'take'] });
    const told = JSON.stringify([
      docket,
      await papersByIds(ben, { documentIds: [id] }),
      await find(ben, { words: 'opening paper' }),
      await journalOf(ben, { subject: 'document', id, before: null }),
      await openView(ben, {
        ...plainQuestion,
        placeId: target.id,
        counts: ['place', 'openTo'],
        groupings: [{ of: 'place', by: 'value', order: 'own', direction: 'up' }],
      }),
    ]);
    expect(told).not.toContain(source.id);
    expect(told).not.toContain('Opening source');
    expect(await listed(keeper, target.id)).toEqual(['Opening paper']);
    expect((await openPlace(ben, { placeId: target.id })).place.paperCount).toBe(1);
    await leavePlace(keeper, { documentId: id, placeId: target.id });
    expect(await sees(ben, id)).toBe(false);
    expect(await sees(keeper, id)).toBe(true);
  });

  it('is opened by those alone who manage it at home, and filed by those who may add where it goes', async () => {
    const { source, target, id } = await scene('Rights');
    const eve = await newcomer(keeper, 'Eve Adder');
    await say(placeOn(source.id), [{ who: eve, gives: ['see'] }], false);
    const file = (kind: 'pointer' | 'opening') => crossFile(eve, { documentIds: [id], toId: target.id, kind });
    expect(await refusedAs(file('pointer'))).toBe('not-found');
    await say(placeOn(target.id), [{ who: eve, gives: ['see', 'add'] }], false);
    expect(await refusedAs(file('opening'))).toBe('not-allowed');
    expect(await refusedAs(file('pointer'))).toBe('done');
    expect(await refusedAs(leavePlace(eve, { documentId: id, placeId: target.id }))).toBe('not-allowed');
    expect(await refusedAs(leavePlace(keeper, { documentId: id, placeId: source.id }))).toBe('invalid');
  });

  it('keeps what the paper itself withholds, whatever place would let someone in', async () => {
    const { target, id } = await scene('Withholding');
    await crossFile(keeper, { documentIds: [id], toId: target.id, kind: 'opening' });
    await say(paperOn(id), [{ who: ben, withholds: ['see'] }]);
    expect(await sees(ben, id)).toBe(false);
    await say(paperOn(id), [{ who: ben, withholds: ['take'] }]);
    expect(await docketOf(ben, { documentId: id })).toMatchObject({ capabilities: ['see'] });
  });

  it('that moves into a place which lists it is there once, and who lost it is said before', async () => {
    const { source, target, id } = await scene('Moving');
    await say(placeOn(source.id), [{ who: ann, gives: ['see'] }], false);
    await crossFile(keeper, { documentIds: [id], toId: target.id, kind: 'pointer' });
    expect((await forecastPaperMove(keeper, { documentIds: [id], toId: target.id })).impact).toMatchObject([
      { kind: 'loses', names: ['Ann Reader'] },
      { kind: 'gains', names: ['Ben Other'] },
    ]);
    await movePapers(keeper, { documentIds: [id], toId: target.id });
    expect(await listed(keeper, target.id)).toEqual(['Moving paper']);
    expect((await docketOf(keeper, { documentId: id })).filings).toEqual([]);
    expect([await sees(ann, id), await sees(ben, id)]).toEqual([false, true]);
  });
});

describe('a group', () => {
  const term = (who: Actor, from: string | null, until: string | null, role: GroupRole = 'member') => ({
    member: { kind: 'person' as const, id: who.personId },
    role,
    from,
    until,
  });

  /** What the first request of a day does before it is answered. */
  async function asByARequest(): Promise<void> {
    const [settings] = await db()
      .select({ timeZone: library.timeZone, membershipDay: library.membershipDay })
      .from(library);
    if (settings) await keepMembershipsCurrent(settings);
  }

  it('opens and closes by the days of a term, on the day in the library’s own time zone', async () => {
    const place = await folder('By term');
    const inside = await paper(place.id, 'by term');
    const { id: groupId } = await createGroup(keeper, { name: 'Term' });
    await say(placeOn(place.id), [{ who: { groupId }, gives: ['see'] }], false);
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
    const [settings] = await db().select({ day: library.membershipDay }).from(library);
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

it('gives someone who is switched off nothing, also by a sheet that still names them', async () => {
  const gone = await newcomer(keeper, 'Gone Away');
  const place = await folder('Switched off');
  await open(keeper, place.id, gone, 'manager');
  await db().update(person).set({ active: false }).where(eq(person.id, gone.personId));
  const why = await whyAccess(keeper, { on: placeOn(place.id), personId: gone.personId });
  expect(why).toMatchObject({ maySee: false, links: ['The account is switched off.'] });
  expect(readySets.manager).toBe(31);
});
