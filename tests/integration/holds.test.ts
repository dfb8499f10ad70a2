import { eq } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import { atMoment } from '@/server/base/clock';
import { defineColumn } from '@/server/columns/define';
import { writableDb } from '@/server/db/client';
import { document } from '@/server/db/schema';
import { destroyExpired, destroyPapers } from '@/server/disposal/destroy';
import { disposePapers } from '@/server/disposal/dispose';
import { disposedPapers } from '@/server/disposal/list';
import { extendHold, holdsOf, liftHold, listHolds, placeHold, releaseFromHold } from '@/server/holds/holds';
import { createFolder } from '@/server/places/create';
import { removePlace } from '@/server/places/amend';
import { dropLibrary, refusedAs } from '../library';
import { beginKeeping, keeper, reader, home, column, terms, paperOn, isThere, plainOn } from './keepingPapers';

beforeAll(beginKeeping);
afterAll(dropLibrary);

describe('a hold', () => {
  it('stops all destruction of what is under it, by hand and by the days of the tray, until it is lifted', async () => {
    const folder = (await createFolder(keeper, { parentId: home.year.id, name: 'Claim' })).id;
    const [inPlace, asPaper, inView, free] = [
      await paperOn('2020-01-01', null, folder),
      await paperOn('2020-01-01'),
      await paperOn('2020-01-01', terms.lease),
      await paperOn('2020-01-01'),
    ];
    const { holdId } = await placeHold(keeper, {
      name: 'Claim of 2026',
      reason: 'In court',
      on: {
        placeIds: [folder],
        documentIds: [asPaper],
        views: [
          {
            placeId: home.series.id,
            below: true,
            conditions: [{ of: column, anyOf: [terms.lease] }],
            name: 'Leases',
          },
        ],
      },
    });
    for (const id of [inPlace, asPaper, inView])
      expect((await holdsOf(reader, { documentId: id })).map(({ name }) => name)).toEqual(['Claim of 2026']);
    expect(await holdsOf(reader, { documentId: free })).toEqual([]);
    const all = [inPlace, asPaper, inView, free];
    await disposePapers(keeper, { documentIds: all });
    for (const id of [inPlace, asPaper, inView])
      expect(await refusedAs(destroyPapers(keeper, { documentIds: [id] }))).toBe('locked');
    expect(await refusedAs(destroyPapers(keeper, { documentIds: all }))).toBe('locked');
    const later = new Date(Date.now() + 90 * 86_400_000);
    expect(await atMoment(later, destroyExpired)).toBe(1);
    expect(await Promise.all(all.map(isThere))).toEqual([true, true, true, false]);
    const tray = await disposedPapers(keeper, { words: '', order: 'newest', most: 10 });
    expect(tray.papers.map(({ still }) => still)).toEqual(['held', 'held', 'held']);
    // The database itself does not let a held paper or place go.
    await expect(writableDb().delete(document).where(eq(document.id, asPaper))).rejects.toThrow();
    const [row] = await listHolds(keeper);
    expect(row).toMatchObject({ name: 'Claim of 2026', thingCount: 3, papers: 3, liftedAt: null });
    const paperThing = row?.things.find(({ kind }) => kind === 'paper');
    await releaseFromHold(keeper, { holdId, thingId: paperThing?.id ?? '', revision: 0 });
    await destroyPapers(keeper, { documentIds: [asPaper] });
    expect(await refusedAs(liftHold(keeper, { holdId, reason: 'Settled', revision: 0 }))).toBe('conflict');
    await liftHold(keeper, { holdId, reason: 'Settled', revision: 1 });
    expect(await atMoment(later, destroyExpired)).toBe(2);
    expect((await listHolds(keeper))[0]).toMatchObject({
      liftedBy: 'Kea Keeper',
      papers: 0,
      wasOn: ['Finance, Claim', 'Leases'],
    });
  });

  it('is put on by keepers, on things they name, and follows no view that means whoever looks', async () => {
    const place = (on: Partial<Parameters<typeof placeHold>[1]['on']>, who = keeper) =>
      refusedAs(placeHold(who, { name: 'X', reason: 'Y', on: { ...plainOn, ...on } }));
    expect(await place({ placeIds: [home.year.id] }, reader)).toBe('not-allowed');
    expect(await place({})).toBe('invalid');
    expect(await place({ documentIds: [home.year.id] })).toBe('not-found');
    const view = { placeId: home.series.id, below: true, name: 'V' };
    for (const condition of [
      { of: 'find', find: 'lease', among: 'everything' } as const,
      { of: 'reviewOn', filled: true } as const,
      { of: 'filedBy', who: ['me'] } as const,
      { of: 'changedAt', span: { is: 'since-look' } } as const,
    ])
      expect([condition.of, await place({ views: [{ ...view, conditions: [condition] }] })]).toEqual([
        condition.of,
        'invalid',
      ]);
  });

  it('of a view whose column is gone holds everything in its place: it fails closed', async () => {
    const { id: gone } = await defineColumn(keeper, {
      ...plainFields,
      placeId: home.dossier.id,
      name: 'Gone',
      type: 'text',
    });
    const id = await paperOn('2020-01-01');
    const { holdId } = await placeHold(keeper, {
      name: 'Of a column',
      reason: 'Z',
      on: {
        ...plainOn,
        views: [{ placeId: home.year.id, below: false, conditions: [{ of: gone, filled: true }], name: 'V' }],
      },
    });
    expect(await holdsOf(keeper, { documentId: id })).toEqual([]);
    await writableDb().execute(`delete from column_def where id = '${gone}'`);
    expect((await holdsOf(keeper, { documentId: id })).map(({ name }) => name)).toEqual(['Of a column']);
    await liftHold(keeper, { holdId, reason: 'Done', revision: 0 });
  });

  it('keeps its place from being removed', async () => {
    const folder = (await createFolder(keeper, { parentId: home.year.id, name: 'Empty' })).id;
    const { holdId } = await placeHold(keeper, { name: 'On it', reason: 'Z', on: { ...plainOn, placeIds: [folder] } });
    await extendHold(keeper, { holdId, on: { ...plainOn, placeIds: [folder] }, revision: 0 });
    expect(await refusedAs(removePlace(keeper, { placeId: folder }))).toBe('locked');
    await liftHold(keeper, { holdId, reason: 'Done', revision: 1 });
    await removePlace(keeper, { placeId: folder });
  });
});
