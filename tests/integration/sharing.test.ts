import { readySets } from '@/core/access/capability';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { setAccess, undoAccess } from '@/server/access/change';
import { forecastAccess } from '@/server/access/forecast';
import { accessMatrix } from '@/server/access/matrix';
import { accessSheet, sortAddresses } from '@/server/access/sheet';
import { whyAccess } from '@/server/access/why';
import { contentFor, currentOf } from '@/server/documents/content';
import { crossFile } from '@/server/documents/crossFile';
import { docketOf } from '@/server/documents/docket';
import { journalOf } from '@/server/journal/read';
import { verifyJournal } from '@/server/journal/verify';
import { changeGroup, createGroup, removeGroup, setActive } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { openPlace } from '@/server/places/open';
import { find } from '@/server/search/find';
import { openView } from '@/server/views/open';
import { dropLibrary, freshLibrary, furnished, inGroup, newcomer, open, plainQuestion, refusedAs } from '../library';
import { grants, paperOn, placeOn, say, sees, type Saying } from '../sheets';
import { mailsTo } from '../mails';

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

describe('a sheet', () => {
  it('withholds from one of a group what the group has, and gives it again further down', async () => {
    const place = await folder('Withheld');
    const inner = await createFolder(keeper, { parentId: place.id, name: 'Given again' });
    const { id: groupId } = await createGroup(keeper, { name: 'Both' });
    await changeGroup(keeper, { groupId, name: 'Both', terms: inGroup(ann, ben), revision: 0 });
    const [outer, deeper] = [await paper(place.id, 'outer'), await paper(inner.id, 'deeper')];
    await say(keeper, placeOn(place.id), [
      { who: { groupId }, gives: ['see', 'take'] },
      { who: ben, withholds: ['see'] },
    ]);
    expect([await sees(ann, outer), await sees(ben, outer), await sees(ben, deeper)]).toEqual([true, false, false]);
    await say(keeper, placeOn(inner.id), [{ who: ben, gives: ['see'] }]);
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
    await say(keeper, placeOn(place.id), [{ who: ben, gives: ['see'] }], false);
    expect([await sees(ann, inside), await sees(ben, inside)]).toEqual([false, true]);
    expect(await accessSheet(keeper, { on: placeOn(home.dossier.id) })).toMatchObject({ aloneBelow: 1 });
    expect(await papersFor()).toBe(before - 1);
  });

  it('of a paper opens that paper alone, and shows of the places on the way only their names', async () => {
    const cleo = await newcomer(keeper, 'Cleo Single');
    const place = await folder('Steps');
    const [shown, hidden] = [await paper(place.id, 'Shown single'), await paper(place.id, 'Hidden beside')];
    await say(keeper, paperOn(shown), [{ who: cleo, gives: ['see', 'amend'] }]);
    expect([await sees(cleo, shown), await sees(cleo, hidden)]).toEqual([true, false]);
    const page = await openPlace(cleo, { placeId: place.id });
    expect(page).toMatchObject({ capabilities: [], openTo: null, place: { bareStep: true, paperCount: 1 } });
    const view = await openView(cleo, { ...plainQuestion, placeId: place.id });
    expect(view.rows.map((row) => row.title)).toEqual(['Shown single']);
    expect((await find(cleo, { words: 'single' })).map((each) => each.name)).toContain('Shown single');
    expect(await docketOf(cleo, { documentId: shown })).toMatchObject({ capabilities: ['see', 'amend'], openTo: null });
    expect(await refusedAs(contentFor(cleo, currentOf(shown), 'take'))).toBe('not-allowed');
    await contentFor(cleo, currentOf(shown), 'see');
    const { lastWay } = (await forecastAccess(keeper, { on: paperOn(shown), follows: true, grants: [] }))[0] ?? {
      lastWay: false,
    };
    expect(lastWay).toBe(true);
  });

  it('is saved in one act and undone in one step, unless it has been changed again', async () => {
    const place = await folder('Undone');
    const inside = await paper(place.id, 'undone');
    const first = await say(keeper, placeOn(place.id), [{ who: ben, gives: ['see'] }]);
    const second = await say(keeper, placeOn(place.id), [{ who: ben, gives: ['see', 'take'] }]);
    expect(await refusedAs(undoAccess(keeper, { entryId: first.entryId ?? 0 }))).toBe('conflict');
    await undoAccess(keeper, { entryId: second.entryId ?? 0 });
    expect(await docketOf(ben, { documentId: inside })).toMatchObject({ capabilities: ['see'] });
    await undoAccess(keeper, { entryId: first.entryId ?? 0 });
    expect(await sees(ben, inside)).toBe(false);
    expect(await refusedAs(undoAccess(ben, { entryId: first.entryId ?? 0 }))).toBe('not-found');
    const again = await say(keeper, placeOn(place.id), []);
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
        say(keeper, on, [
          { who: ann, gives: ['see'] },
          { who: ann, gives: ['take'] },
        ]),
      ),
    ).toBe('invalid');
  });

  it('tells those who are newly named, by mail and with what they may do', async () => {
    const dora = await newcomer(keeper, 'Dora Told');
    const place = await folder('Told of');
    await say(keeper, placeOn(place.id), [{ who: dora, gives: ['see', 'take'] }], true, 'For Tuesday.');
    await say(keeper, placeOn(place.id), [{ who: dora, gives: ['see'] }], true, 'Not sent: she is not new.');
    const hers = (await mailsTo(dora.email)).filter((mail) => mail.includes(place.id));
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
    await say(keeper, placeOn(place.id), [{ who: { groupId: outer }, gives: ['see', 'take'] }], false);
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

describe('a manager from whom something below is kept', () => {
  it('is not told of it: not on the sheet, in a forecast, in the matrix, or in why', async () => {
    const mel = await newcomer(keeper, 'Mel Manager');
    const place = await folder('Managed');
    const shown = await createFolder(keeper, { parentId: place.id, name: 'Shown below' });
    const hidden = await createFolder(keeper, { parentId: place.id, name: 'Hidden below' });
    const single = await paper(shown.id, 'Single hidden');
    await paper(hidden.id, 'In the hidden');
    await say(keeper, placeOn(place.id), [{ who: mel, gives: ['manage'] }], false);
    await say(keeper, placeOn(hidden.id), [{ who: mel, withholds: ['see'] }]);
    await say(keeper, paperOn(single), [{ who: ben, gives: ['see'] }], false);
    const on = placeOn(place.id);
    expect(await accessSheet(mel, { on })).toMatchObject({ placesBelow: 1, aloneBelow: 0, paperCount: 0 });
    const forecast = await forecastAccess(mel, {
      on,
      follows: false,
      grants: grants([
        { who: mel, gives: ['manage'] },
        { who: ann, gives: ['see'] },
      ]),
    });
    expect(forecast).toMatchObject([{ kind: 'gains', names: ['Ann Reader'], papers: 0, places: 2 }]);
    const matrix = { placeId: place.id, who: 'people', personId: null, show: 'all' } as const;
    const told = await accessMatrix(mel, matrix);
    expect(told.rows.map((row) => [row.name, row.papersApart])).toEqual([
      ['Managed', 0],
      ['Shown below', 0],
    ]);
    expect((await accessMatrix(keeper, matrix)).rows.map((row) => [row.name, row.papersApart])).toEqual([
      ['Managed', 0],
      ['Shown below', 1],
      ['Hidden below', 0],
    ]);
    const asked = await paper(shown.id, 'Opened elsewhere');
    const elsewhere = await folder('Not for Mel');
    await say(keeper, placeOn(elsewhere.id), [{ who: ben, gives: ['see'] }], false);
    await crossFile(keeper, { documentIds: [asked], toIds: [elsewhere.id], kind: 'opening' });
    expect((await accessSheet(mel, { on: paperOn(asked) })).openings).toEqual([null]);
    expect((await accessSheet(keeper, { on: paperOn(asked) })).openings).toEqual(['Finance, Not for Mel']);
    const why = await whyAccess(mel, { on: paperOn(asked), personId: ben.personId });
    expect(why.maySee).toBe(true);
    expect(JSON.stringify(why)).not.toContain('Not for Mel');
    expect(why.links.at(-1)).toBe(
      'It is also filed in a place that is not open to you, which lets its readers in: they may see.',
    );
    expect(JSON.stringify(await whyAccess(keeper, { on: paperOn(asked), personId: ben.personId }))).toContain(
      'Not for Mel',
    );
  });
});

it('gives someone who is switched off nothing, also by a sheet that still names them', async () => {
  const gone = await newcomer(keeper, 'Gone Away');
  const place = await folder('Switched off');
  await open(keeper, place.id, gone, 'manager');
  await setActive(keeper, { personId: gone.personId, active: false });
  const why = await whyAccess(keeper, { on: placeOn(place.id), personId: gone.personId });
  expect(why).toMatchObject({ maySee: false, links: ['The account is turned off.'] });
  expect(readySets.manager).toBe(31);
});
