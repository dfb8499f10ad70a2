import { Readable } from 'node:stream';
import { listOf, readySets, setOf, type Capability, type ReadySet } from '@/core/access/capability';
import type { Actor } from '@/server/gate/actor';
import { setAccess } from '@/server/access/change';
import { forecastAccess } from '@/server/access/forecast';
import { accessSheet, subjectChoices } from '@/server/access/sheet';
import { placeAllows } from '@/server/gate/visible';
import { db } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { docketOf } from '@/server/documents/docket';
import { ledgerPage } from '@/server/documents/ledger';
import { journalOf } from '@/server/journal/read';
import { changeGroup, createGroup, invite, join, listPeople, setActive, setKeeper } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { movePlace } from '@/server/places/move';
import { listSeries, openPlace } from '@/server/places/open';
import { find } from '@/server/search/find';
import { ownUpload, receive } from '@/server/uploads/receive';
import { settleUpload } from '@/server/uploads/settle';
import { startUpload } from '@/server/uploads/start';
import { dropLibrary, freshLibrary, furnished, inGroup, newcomer, open, refusedAs } from '../library';

let keeper: Actor;
let people: Actor[];
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  people = [await newcomer(keeper, 'Ann One'), await newcomer(keeper, 'Ben Two'), await newcomer(keeper, 'Cleo Three')];
});
afterAll(dropLibrary);

async function filed(actor: Actor, placeId: string, fileName: string): Promise<string> {
  const id = crypto.randomUUID();
  const content = Buffer.from(`${fileName} ${id}`);
  await startUpload(actor, id, content.length, { placeId, fileName });
  await receive(await ownUpload(actor, id), 0, Readable.from([content]));
  const outcome = await settleUpload(actor, id);
  return outcome.state === 'filed' ? outcome.documentId : '';
}

const said = (who: Actor, gives: readonly Capability[], withholds: readonly Capability[] = []) => ({
  subject: { kind: 'person' as const, id: who.personId },
  gives: [...gives],
  withholds: [...withholds],
});

describe('what is not open to someone', () => {
  it('does not exist for them: not in lists, counts, the ledger, search, journal or by its id', async () => {
    const { series, year } = await furnished(keeper, 'Hidden series');
    const [visible, hidden] = [
      await createFolder(keeper, { parentId: year.id, name: 'Shown folder' }),
      await createFolder(keeper, { parentId: year.id, name: 'Hidden folder' }),
    ];
    const [shownPaper, hiddenPaper] = [
      await filed(keeper, visible.id, 'Zanzibar open.txt'),
      await filed(keeper, hidden.id, 'Zanzibar closed.txt'),
    ];
    const visitor = await newcomer(keeper, 'Vi Sitor');
    expect(await listSeries(visitor)).toEqual([]);
    await open(keeper, visible.id, visitor, 'reader');
    expect(await listSeries(visitor)).toMatchObject([{ id: series.id, bareStep: true, paperCount: 1 }]);
    expect((await openPlace(visitor, { placeId: year.id })).children.map((each) => each.name)).toEqual([
      'Shown folder',
    ]);
    expect((await find(visitor, { words: 'zanzibar' })).map((each) => each.id)).toEqual([shownPaper]);
    expect((await find(visitor, { words: 'folder' })).map((each) => each.name)).toEqual(['Shown folder']);
    expect((await find(keeper, { words: 'zanzibar' })).length).toBe(2);
    const ask = (placeId: string) =>
      ledgerPage(visitor, { placeId, sort: 'title', direction: 'up', filter: '', after: null, limit: 10 });
    expect(await refusedAs(ask(hidden.id))).toBe('not-found');
    expect((await ask(year.id)).totals?.papers).toBe(0);
    expect(await refusedAs(docketOf(visitor, { documentId: hiddenPaper }))).toBe('not-found');
    expect(await refusedAs(journalOf(visitor, { subject: 'document', id: hiddenPaper, before: null }))).toBe(
      'not-found',
    );
    expect(await refusedAs(journalOf(visitor, { subject: 'place', id: year.id, before: null }))).toBe('not-found');
  });

  it('is not named by the journal either: a move tells only the side one may know', async () => {
    const [from, to] = [
      await createFolder(keeper, { parentId: home.dossier.id, name: 'Secret source' }),
      await createFolder(keeper, { parentId: home.dossier.id, name: 'Open target' }),
    ];
    const moved = await createFolder(keeper, { parentId: from.id, name: 'Travels' });
    await movePlace(keeper, { placeId: moved.id, toId: to.id });
    const witness = await newcomer(keeper, 'Wit Ness');
    await open(keeper, to.id, witness, 'reader');
    const lines = (await journalOf(witness, { subject: 'place', id: moved.id, before: null })).map(
      (line) => line.words,
    );
    expect(lines[0]).toBe('moved “Travels” from “a place not open to you” to “Open target”');
    expect(JSON.stringify(lines)).not.toContain('Secret source');
  });
});

describe('the access sheet', () => {
  it('says who has what and from where, forecasts a change, and keeps a stale one out', async () => {
    const [ann, ben] = people;
    if (!ann || !ben) throw new Error('Nobody there');
    const { series, dossier } = await furnished(keeper, 'Sheets');
    await open(keeper, series.id, ann, 'reader');
    const on = { kind: 'place' as const, id: dossier.id };
    const sheet = await accessSheet(keeper, { on });
    expect(sheet.lines).toMatchObject([{ name: 'Ann One', fromName: 'Sheets', gives: ['see', 'take'] }]);
    expect(sheet.people.map((each) => each.name)).toEqual(['Ann One', 'Kea Keeper']);
    const next = { on, follows: true, grants: [said(ben, ['add'])] };
    expect(await forecastAccess(keeper, next)).toMatchObject([{ names: ['Ben Two'], kind: 'gains', papers: 0 }]);
    await setAccess(keeper, { ...next, revision: sheet.revision, message: null });
    expect(await refusedAs(setAccess(keeper, { ...next, grants: [], revision: sheet.revision, message: null }))).toBe(
      'conflict',
    );
    expect((await openPlace(ben, { placeId: dossier.id })).capabilities).toEqual(['see', 'add']);
    expect((await subjectChoices(keeper, { on, words: 'two' })).map((each) => each.name)).toEqual(
      expect.arrayContaining(['Ben Two']),
    );
  });

  it.each<[ReadySet, readonly string[]]>([
    ['reader', ['not-allowed', 'not-allowed', 'not-allowed']],
    ['contributor', ['done', 'not-allowed', 'not-allowed']],
    ['officer', ['done', 'done', 'not-allowed']],
    ['manager', ['done', 'done', 'done']],
  ])('lets a %s do just that: file, make a folder, see the sheet', async (as, outcomes) => {
    const place = await createFolder(keeper, { parentId: home.dossier.id, name: `For a ${as}` });
    const who = await newcomer(keeper, `Role ${as}`);
    await open(keeper, place.id, who, as);
    expect([
      await refusedAs(startUpload(who, crypto.randomUUID(), 10, { placeId: place.id, fileName: 'x.txt' })),
      await refusedAs(createFolder(who, { parentId: place.id, name: 'New' })),
      await refusedAs(accessSheet(who, { on: { kind: 'place', id: place.id } })),
    ]).toEqual(outcomes);
  });

  it('does not let a manager shut themselves out, nor anyone give what is not theirs to give', async () => {
    const place = await createFolder(keeper, { parentId: home.dossier.id, name: 'Own way in' });
    const manager = await newcomer(keeper, 'Mana Ger');
    await open(keeper, place.id, manager, 'manager');
    const on = { kind: 'place' as const, id: place.id };
    const { revision } = await accessSheet(manager, { on });
    expect(await refusedAs(setAccess(manager, { on, follows: true, revision, grants: [], message: null }))).toBe(
      'not-allowed',
    );
    expect(
      await refusedAs(
        setAccess(manager, {
          on: { kind: 'place', id: home.dossier.id },
          follows: true,
          revision: 0,
          grants: [said(manager, ['manage'])],
          message: null,
        }),
      ),
    ).toBe('not-found');
  });
});

describe('people', () => {
  it('come in by a link that works once', async () => {
    const { link } = await invite(keeper, { name: 'Once Only', email: 'once@test.example', keeper: false });
    const token = link.slice(link.lastIndexOf('/') + 1);
    const tries = await Promise.all(
      [1, 2].map(() => refusedAs(join({ token, name: 'Once Only', password: 'a long enough password' }))),
    );
    expect(tries.sort()).toEqual(['done', 'gone']);
    expect(await refusedAs(invite(keeper, { name: 'Again', email: 'once@test.example', keeper: false }))).toBe(
      'address-taken',
    );
  });

  it('lose everything when switched off, and have it again when switched on', async () => {
    const [ann] = people;
    if (!ann) throw new Error('Nobody there');
    const before = (await db().select({ id: place.id }).from(place).where(placeAllows(ann, 'see'))).length;
    expect(before).toBeGreaterThan(0);
    await setActive(keeper, { personId: ann.personId, active: false });
    expect((await db().select({ id: place.id }).from(place).where(placeAllows(ann, 'see'))).length).toBe(0);
    await setActive(keeper, { personId: ann.personId, active: true });
    expect((await db().select({ id: place.id }).from(place).where(placeAllows(ann, 'see'))).length).toBe(before);
  });

  it('are managed by keepers alone, of whom one always stays', async () => {
    const [ann] = people;
    if (!ann) throw new Error('Nobody there');
    expect(await refusedAs(listPeople(ann))).toBe('not-allowed');
    expect(await refusedAs(setKeeper(ann, { personId: ann.personId, keeper: true }))).toBe('not-allowed');
    expect(await refusedAs(setKeeper(keeper, { personId: keeper.personId, keeper: false }))).toBe('last-keeper');
    expect(await refusedAs(setActive(keeper, { personId: keeper.personId, active: false }))).toBe('last-keeper');
  });

  it('have capabilities by their groups as long as they are in them', async () => {
    const [, , cleo] = people;
    if (!cleo) throw new Error('Nobody there');
    const place = await createFolder(keeper, { parentId: home.dossier.id, name: 'For the group' });
    const { id } = await createGroup(keeper, { name: 'Ones' });
    await setAccess(keeper, {
      on: { kind: 'place', id: place.id },
      follows: true,
      revision: 0,
      grants: [{ subject: { kind: 'group', id }, gives: listOf(readySets.officer), withholds: [] }],
      message: null,
    });
    const held = async () =>
      openPlace(cleo, { placeId: place.id }).then(
        (page) => setOf(page.capabilities),
        () => 0,
      );
    const without = await held();
    await changeGroup(keeper, { groupId: id, name: 'Ones', terms: inGroup(cleo), revision: 0 });
    expect(await held()).toBe(without | readySets.officer);
    await changeGroup(keeper, { groupId: id, name: 'Ones', terms: [], revision: 1 });
    expect(await held()).toBe(without);
  });
});
