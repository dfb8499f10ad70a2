import { Refusal } from '@/core/errors/refusal';
import type { Actor } from '@/server/gate/actor';
import { db } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { recolourPlace, removePlace, renamePlace, reorderPlace } from '@/server/places/amend';
import { createFolder } from '@/server/places/create';
import { createDossier, proposeReference } from '@/server/dossiers/create';
import { openYear } from '@/server/years/years';
import { forecastMove, movePlace } from '@/server/places/move';
import { listChildren, openPlace } from '@/server/places/open';
import { verifyJournal } from '@/server/journal/verify';
import { isTallyRunning } from '@/server/tally/host';
import { dropLibrary, freshLibrary, furnished, newcomer, open, refusedAs } from '../library';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
});
afterAll(dropLibrary);

describe('making places', () => {
  it('gives dossiers the next free reference, also to two people at once', async () => {
    expect(home.dossier.reference).toBe('C-001');
    const made = await Promise.all(
      ['A', 'B', 'C', 'D'].map((name) => createDossier(keeper, { seriesId: home.series.id, name, reference: null })),
    );
    expect(made.map((each) => each.reference).sort()).toEqual(['C-002', 'C-003', 'C-004', 'C-005']);
    expect(await proposeReference(keeper, { seriesId: home.series.id })).toEqual({ reference: 'C-006' });
  });

  it('refuses a reference that is taken in the series', async () => {
    expect(
      await refusedAs(createDossier(keeper, { seriesId: home.series.id, name: 'Twice', reference: 'C-001' })),
    ).toBe('reference-taken');
  });

  it('refuses two siblings of one name in other case, or otherwise composed', async () => {
    await createFolder(keeper, { parentId: home.year.id, name: 'Café papers' });
    expect(await refusedAs(createFolder(keeper, { parentId: home.year.id, name: 'CAFE\u0301 PAPERS' }))).toBe(
      'name-taken',
    );
  });

  it('opens a filing year in every dossier, once', async () => {
    const startYear = (home.year.filingYear ?? 0) + 1;
    const { made } = await openYear(keeper, { startYear });
    const dossiers = await listChildren(keeper, { placeId: home.series.id });
    expect(made).toBe(dossiers.length);
    expect(await refusedAs(openYear(keeper, { startYear }))).toBe('name-taken');
    const years = await listChildren(keeper, { placeId: home.dossier.id });
    expect(years.filter((each) => each.kind === 'year').map((each) => each.filingYear)).toEqual([
      startYear - 1,
      startYear,
    ]);
  });

  it('goes 32 steps deep and no further', async () => {
    let parentId = home.year.id;
    // Series, dossier and year are three of the steps.
    for (let depth = 4; depth <= 32; depth += 1)
      parentId = (await createFolder(keeper, { parentId, name: `Step ${depth}` })).id;
    expect(await refusedAs(createFolder(keeper, { parentId, name: 'Too deep' }))).toBe('invalid');
  });
});

describe('changing places', () => {
  it('lets the first of two renames win and tells the second, naming neither away', async () => {
    const folder = await createFolder(keeper, { parentId: home.year.id, name: 'Two people' });
    const outcomes = await Promise.all(
      ['First', 'Second'].map((name) =>
        refusedAs(renamePlace(keeper, { placeId: folder.id, name, revision: folder.revision })),
      ),
    );
    expect(outcomes.sort()).toEqual(['conflict', 'done']);
  });

  it('keeps an order for everyone', async () => {
    const folder = await createFolder(keeper, { parentId: home.year.id, name: 'Ordered' });
    const [a, b, c] = [
      await createFolder(keeper, { parentId: folder.id, name: 'A' }),
      await createFolder(keeper, { parentId: folder.id, name: 'B' }),
      await createFolder(keeper, { parentId: folder.id, name: 'C' }),
    ];
    await reorderPlace(keeper, { placeId: c.id, beforeId: a.id });
    await reorderPlace(keeper, { placeId: a.id, beforeId: null });
    const order = await listChildren(keeper, { placeId: folder.id });
    expect(order.map((each) => each.id)).toEqual([c.id, b.id, a.id]);
  });

  it('moves a folder with all below it, its year with it, and every lineage right', async () => {
    const [from, to] = [await createFolder(keeper, { parentId: home.year.id, name: 'From' }), home.dossier];
    const child = await createFolder(keeper, { parentId: from.id, name: 'Child' });
    await movePlace(keeper, { placeId: from.id, toId: to.id });
    const rows = await db().select().from(place);
    const byId = new Map(rows.map((row) => [row.id, row]));
    for (const row of rows) {
      const parent = row.parentId === null ? undefined : byId.get(row.parentId);
      expect(row.lineage).toEqual([...(parent?.lineage ?? []), row.id]);
    }
    expect(byId.get(child.id)?.filingYear).toBeNull();
    expect((await openPlace(keeper, { placeId: child.id })).path.map((step) => step.name)).toEqual([
      'Committees',
      'Finance',
      'From',
    ]);
  });

  it('refuses to move a place into itself or below itself, also by two crossing moves at once', async () => {
    const [a, b] = [
      await createFolder(keeper, { parentId: home.dossier.id, name: 'Cross A' }),
      await createFolder(keeper, { parentId: home.dossier.id, name: 'Cross B' }),
    ];
    expect(await refusedAs(movePlace(keeper, { placeId: a.id, toId: a.id }))).toBe('into-itself');
    const outcomes = await Promise.all([
      refusedAs(movePlace(keeper, { placeId: a.id, toId: b.id })),
      refusedAs(movePlace(keeper, { placeId: b.id, toId: a.id })),
    ]);
    expect(outcomes.sort()).toEqual(['done', 'into-itself']);
  });

  it('says before a move who loses and gains sight, and that is what happens', async () => {
    const [left, right] = [await newcomer(keeper, 'Lena Left'), await newcomer(keeper, 'Rita Right')];
    const [from, to] = [
      await createFolder(keeper, { parentId: home.dossier.id, name: 'Lefts' }),
      await createFolder(keeper, { parentId: home.dossier.id, name: 'Rights' }),
    ];
    await open(keeper, from.id, left, 'reader');
    await open(keeper, to.id, right, 'reader');
    const moved = await createFolder(keeper, { parentId: from.id, name: 'Moved' });
    expect(await forecastMove(keeper, { placeId: moved.id, toId: to.id })).toMatchObject({
      paperCount: 0,
      impact: [
        { kind: 'loses', names: ['Lena Left'], papers: 0 },
        { kind: 'gains', names: ['Rita Right'] },
      ],
      values: [],
    });
    await movePlace(keeper, { placeId: moved.id, toId: to.id });
    expect(await refusedAs(openPlace(left, { placeId: moved.id }))).toBe('not-found');
    expect((await openPlace(right, { placeId: moved.id })).place.name).toBe('Moved');
  });

  it('removes only what is empty', async () => {
    const folder = await createFolder(keeper, { parentId: home.dossier.id, name: 'Emptyish' });
    await createFolder(keeper, { parentId: folder.id, name: 'Inside' });
    expect(await refusedAs(removePlace(keeper, { placeId: folder.id }))).toBe('not-empty');
    const [inside] = await listChildren(keeper, { placeId: folder.id });
    await removePlace(keeper, { placeId: inside?.id ?? '' });
    await removePlace(keeper, { placeId: folder.id });
    expect(await refusedAs(openPlace(keeper, { placeId: folder.id }))).toBe('not-found');
  });

  it('answers a made-up id and one that is not open alike', async () => {
    const stranger = await newcomer(keeper, 'Sam Stranger');
    const made = '00000000-0000-4000-8000-000000000000';
    const say = async (placeId: string) =>
      openPlace(stranger, { placeId }).catch((error: unknown) => (error instanceof Refusal ? error.issue : null));
    expect(await say(home.dossier.id)).toEqual(await say(made));
    expect(await refusedAs(recolourPlace(stranger, { placeId: home.dossier.id, colour: 'reed' }))).toBe('not-found');
  });
});

it('leaves a journal whose chain is whole', async () => {
  const { entries, brokenAt } = await verifyJournal();
  expect(brokenAt).toBeNull();
  expect(entries).toBeGreaterThan(50);
});

it('fills no tally for reading places alone, so that a script which does can exit', async () => {
  expect((await listChildren(keeper, { placeId: home.series.id })).length).toBeGreaterThan(0);
  expect(isTallyRunning()).toBe(false);
});
