import fc from 'fast-check';
import { sql } from 'drizzle-orm';
import { Readable } from 'node:stream';
import { Refusal } from '@/core/errors/refusal';
import { has, listOf, readySets, setOf, type ReadySet } from '@/core/access/capability';
import { resolve, type Step } from '@/core/access/resolve';
import type { Actor } from '@/server/access/actor';
import { asGrant, standings } from '@/server/access/scopes';
import { accessSheet, forecastAccess, setAccess, subjectChoices } from '@/server/access/sheet';
import { paperAllows, placeAllows, placeIsKnown } from '@/server/access/visible';
import { db } from '@/server/db/client';
import { accessGrant, document, place } from '@/server/db/schema';
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
import { dropLibrary, freshLibrary, furnished, newcomer, open } from '../library';

let keeper: Actor;
let people: Actor[];
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  people = [await newcomer(keeper, 'Ann One'), await newcomer(keeper, 'Ben Two'), await newcomer(keeper, 'Cleo Three')];
});
afterAll(dropLibrary);

const refusedAs = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'done',
    (error: unknown) => (error instanceof Refusal ? error.issue.kind : String(error)),
  );

async function filed(actor: Actor, placeId: string, fileName: string): Promise<string> {
  const id = crypto.randomUUID();
  const content = Buffer.from(`${fileName} ${id}`);
  await startUpload(actor, id, content.length, { placeId, fileName });
  await receive(await ownUpload(actor, id), 0, Readable.from([content]));
  const outcome = await settleUpload(actor, id);
  return outcome.state === 'filed' ? outcome.documentId : '';
}

/** For each person: what the SQL of the gate lets through against what core/access resolves from the sheets. */
async function gateAgreesWithCore(): Promise<void> {
  const places = await db().select().from(place);
  const grants = await db().select().from(accessGrant);
  const papers = await db().select({ id: document.id, homeId: document.homeId }).from(document);
  const all = await standings(db());
  const stepOf = new Map(
    places.map((each): [string, Step] => [
      each.id,
      { follows: each.follows, grants: grants.filter((row) => row.placeId === each.id).map(asGrant) },
    ]),
  );
  for (const who of people) {
    const standing = all.find((each) => each.personId === who.personId);
    if (!standing) throw new Error(`${who.name} has no standing`);
    const expected = new Map(
      places.map((each) => [
        each.id,
        resolve(
          each.lineage.map((id) => stepOf.get(id) ?? { follows: true, grants: [] }),
          standing,
        ),
      ]),
    );
    for (const capability of ['see', 'take', 'add', 'amend', 'manage'] as const) {
      const allowed = await db().select({ id: place.id }).from(place).where(placeAllows(who, capability));
      const rightly = places.filter((each) => has(expected.get(each.id) ?? 0, capability));
      expect(allowed.map((each) => each.id).sort()).toEqual(rightly.map((each) => each.id).sort());
      const allowedPapers = await db().select({ id: document.id }).from(document).where(paperAllows(who, capability));
      const rightlyPapers = papers.filter((each) => has(expected.get(each.homeId) ?? 0, capability));
      expect(allowedPapers.map((each) => each.id).sort()).toEqual(rightlyPapers.map((each) => each.id).sort());
    }
    const seen = places.filter((each) => has(expected.get(each.id) ?? 0, 'see'));
    const steps = new Set(seen.flatMap((each) => each.lineage));
    const known = await db().select({ id: place.id }).from(place).where(placeIsKnown(who));
    expect(known.map((each) => each.id).sort()).toEqual([...steps].sort());
  }
}

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
    const sheet = await accessSheet(keeper, { placeId: dossier.id });
    expect(sheet.lines).toMatchObject([{ name: 'Ann One', fromName: 'Sheets', capabilities: ['see', 'take'] }]);
    expect(sheet.openTo).toEqual(['Ann One', 'Kea Keeper']);
    const grants = [{ subject: { kind: 'person' as const, id: ben.personId }, capabilities: ['add' as const] }];
    expect(await forecastAccess(keeper, { placeId: dossier.id, grants })).toEqual({ gaining: ['Ben Two'], losing: [] });
    await setAccess(keeper, { placeId: dossier.id, revision: sheet.revision, grants });
    expect(await refusedAs(setAccess(keeper, { placeId: dossier.id, revision: sheet.revision, grants: [] }))).toBe(
      'conflict',
    );
    expect((await openPlace(ben, { placeId: dossier.id })).capabilities).toEqual(['see', 'add']);
    expect((await subjectChoices(keeper, { placeId: dossier.id, words: 'two' })).map((each) => each.name)).toEqual(
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
      await refusedAs(accessSheet(who, { placeId: place.id })),
    ]).toEqual(outcomes);
  });

  it('does not let a manager shut themselves out, nor anyone give what is not theirs to give', async () => {
    const place = await createFolder(keeper, { parentId: home.dossier.id, name: 'Own way in' });
    const manager = await newcomer(keeper, 'Mana Ger');
    await open(keeper, place.id, manager, 'manager');
    const { revision } = await accessSheet(manager, { placeId: place.id });
    expect(await refusedAs(setAccess(manager, { placeId: place.id, revision, grants: [] }))).toBe('not-allowed');
    expect(
      await refusedAs(
        setAccess(manager, {
          placeId: home.dossier.id,
          revision: 0,
          grants: [{ subject: { kind: 'person', id: manager.personId }, capabilities: ['manage'] }],
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
      placeId: place.id,
      revision: 0,
      grants: [{ subject: { kind: 'group', id }, capabilities: listOf(readySets.officer) }],
    });
    const held = async () =>
      openPlace(cleo, { placeId: place.id }).then(
        (page) => setOf(page.capabilities),
        () => 0,
      );
    const without = await held();
    await changeGroup(keeper, { groupId: id, name: 'Ones', memberIds: [cleo.personId], revision: 0 });
    expect(await held()).toBe(without | readySets.officer);
    await changeGroup(keeper, { groupId: id, name: 'Ones', memberIds: [], revision: 1 });
    expect(await held()).toBe(without);
  });
});

// Last: it leaves the library in a random state.
describe('the one gate', () => {
  it('agrees with core/access for every person, place and paper of random libraries, after random changes', async () => {
    const places = [home.series.id, home.dossier.id, home.year.id];
    for (let index = 0; index < 9; index += 1) {
      const parentId = places[(index * 5) % places.length] ?? home.year.id;
      const kind = await openPlace(keeper, { placeId: parentId });
      const made = await createFolder(keeper, {
        parentId: kind.place.kind === 'series' ? home.year.id : parentId,
        name: `Random ${index}`,
      });
      places.push(made.id);
      await filed(keeper, made.id, `paper ${index}.txt`);
    }
    const group = await createGroup(keeper, { name: 'Twos' });
    await changeGroup(keeper, {
      groupId: group.id,
      name: 'Twos',
      memberIds: people.slice(1).map((each) => each.personId),
      revision: 0,
    });

    const subject = fc.oneof(
      fc.constantFrom(...people).map((who) => ({ kind: 'person' as const, id: who.personId })),
      fc.constant({ kind: 'group' as const, id: group.id }),
      fc.constant({ kind: 'everyone' as const }),
    );
    const grants = fc.uniqueArray(fc.record({ subject, gives: fc.integer({ min: 1, max: 31 }) }), {
      maxLength: 3,
      selector: (each) => (each.subject.kind === 'everyone' ? 'everyone' : each.subject.id),
    });
    const change = fc.oneof(
      fc.record({ what: fc.constant('grants' as const), at: fc.constantFrom(...places), grants }),
      fc.record({
        what: fc.constant('move' as const),
        at: fc.constantFrom(...places.slice(3)),
        to: fc.constantFrom(...places.slice(1)),
      }),
    );
    await fc.assert(
      fc.asyncProperty(change, async (next) => {
        if (next.what === 'move') await refusedAs(movePlace(keeper, { placeId: next.at, toId: next.to }));
        else {
          const [row] = await db()
            .select({ revision: place.accessRevision })
            .from(place)
            .where(sql`${place.id} = ${next.at}`);
          const given = next.grants.map((each) => ({ subject: each.subject, capabilities: listOf(each.gives) }));
          await setAccess(keeper, { placeId: next.at, revision: row?.revision ?? 0, grants: given });
        }
        await gateAgreesWithCore();
      }),
      { seed: 20, numRuns: 40 },
    );
  }, 120_000);
});
