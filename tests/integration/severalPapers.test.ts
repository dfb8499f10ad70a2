import { eq } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import { fileBuffer } from '@/demo/file';
import { defineColumn } from '@/server/columns/define';
import { setValues } from '@/server/columns/setValues';
import { db } from '@/server/db/client';
import { blob, document } from '@/server/db/schema';
import { destroyPapers } from '@/server/disposal/destroy';
import { disposePapers } from '@/server/disposal/dispose';
import { actablePapers } from '@/server/documents/actable';
import { copyPapers, forecastCopy, takeNewer } from '@/server/documents/copy';
import { crossFile, leavePlaces } from '@/server/documents/crossFile';
import { docketOf } from '@/server/documents/docket';
import type { Actor } from '@/server/gate/actor';
import { journalOf } from '@/server/journal/read';
import { createFolder } from '@/server/places/create';
import { setLock, setStandstill } from '@/server/standstill/standstill';
import { verifyLibrary } from '@/server/verify/verify';
import { dropLibrary, furnished, refusedAs, sharedLibrary } from '../library';
import { contentOf } from '../reading';

let keeper: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let folders: string[];

beforeAll(async () => {
  ({ keeper, reader, home } = await sharedLibrary());
  folders = [];
  for (const name of ['One', 'Two', 'Three'])
    folders.push((await createFolder(keeper, { parentId: home.year.id, name })).id);
});
afterAll(dropLibrary);

const file = (name: string, placeId = home.year.id): Promise<string> =>
  fileBuffer(keeper, placeId, `${name}.txt`, Buffer.from(`the words of ${name}`));
const docket = (documentId: string, actor = keeper) => docketOf(actor, { documentId });
const placesOf = async (id: string) => (await docket(id)).filings.map(({ placeId }) => placeId).sort();

describe('filing in several places', () => {
  it('is one act, leaves out what is there already, and is undone in one', async () => {
    const [one, two] = [await file('first'), await file('second')];
    await crossFile(keeper, { documentIds: [one], toIds: [folders[0] ?? ''], kind: 'pointer' });
    const { filed } = await crossFile(keeper, { documentIds: [one, two], toIds: folders, kind: 'pointer' });
    expect(filed).toHaveLength(5);
    expect(await placesOf(one)).toEqual([...folders].sort());
    expect(await leavePlaces(keeper, { filings: [...filed] })).toEqual({ left: 5 });
    expect([await placesOf(one), await placesOf(two)]).toEqual([[folders[0]], []]);
    expect(await leavePlaces(keeper, { filings: [...filed] })).toEqual({ left: 0 });
  });

  it('is in all of them or in none, where one takes nothing', async () => {
    const id = await file('all or none');
    const closed = await createFolder(keeper, { parentId: home.year.id, name: 'Shut' });
    await setStandstill(keeper, { placeId: closed.id, closed: true, locked: false, reason: '', revision: 0 });
    const into = (toIds: string[], actor = keeper) => crossFile(actor, { documentIds: [id], toIds, kind: 'pointer' });
    expect(await refusedAs(into([...folders, closed.id]))).toBe('closed-place');
    expect(await refusedAs(into(['00000000-0000-4000-8000-000000000000', ...folders]))).toBe('not-found');
    expect(await refusedAs(into(folders, reader))).toBe('not-allowed');
    expect(await placesOf(id)).toEqual([]);
  });
});

describe('copies', () => {
  it('are papers of their own with the values of the original, whose content is kept once', async () => {
    const column = await defineColumn(keeper, {
      ...plainFields,
      name: 'Form of',
      type: 'text',
      placeId: home.series.id,
    });
    const original = await file('form');
    await setValues(keeper, { documentIds: [original], values: { [column.id]: 'berthing' } });
    const { copies } = await copyPapers(keeper, { documentIds: [original], toIds: folders, onSameName: 'number' });
    expect(copies).toHaveLength(3);
    for (const id of copies) {
      const { values, origin, isHome, homeId, versions } = await docket(id);
      expect(values[column.id]).toBe('berthing');
      expect(origin).toMatchObject({ original: { id: original, title: 'form' }, hasNewer: false });
      expect([isHome, folders.includes(homeId), versions.length]).toEqual([true, true, 1]);
    }
    const sha256 = await contentOf(original);
    expect(await db().select({ id: blob.sha256 }).from(blob).where(eq(blob.sha256, sha256))).toHaveLength(1);
    expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
  });

  it('are made of 125 papers in 40 places in one act, as many as it takes', async () => {
    const papers = [];
    for (let at = 0; at < 125; at += 1) papers.push(await file(`set ${at}`));
    const places = [];
    for (let at = 0; at < 40; at += 1)
      places.push((await createFolder(keeper, { parentId: home.year.id, name: `Tenant ${at}` })).id);
    const { copies } = await copyPapers(keeper, { documentIds: papers, toIds: places, onSameName: 'number' });
    expect(new Set(copies).size).toBe(5000);
    const one = await furnished(keeper, 'One more');
    const more = { documentIds: papers, toIds: [...places, one.year.id], onSameName: 'number' as const };
    expect(await refusedAs(copyPapers(keeper, more))).toBe('invalid');
  });

  it('are told of in the journal of a place by their number, to each person as far as they may see them', async () => {
    const [one, two] = [await createFolder(keeper, { parentId: home.year.id, name: 'Told' }), await file('a')];
    await copyPapers(keeper, { documentIds: [two, await file('b')], toIds: [one.id], onSameName: 'number' });
    for (const who of [keeper, reader]) {
      const [line] = await journalOf(who, { subject: 'place', id: one.id, before: null });
      expect(line?.words).toBe('made 2 papers in “Told” by copying');
    }
  });

  it('ask about names once: number them, or leave them out', async () => {
    const original = await file('named');
    const ask = { documentIds: [original], toIds: folders };
    await copyPapers(keeper, { documentIds: [original], toIds: [folders[0] ?? ''], onSameName: 'number' });
    expect(await forecastCopy(keeper, ask)).toEqual({ copies: 3, sameName: 1 });
    const { copies } = await copyPapers(keeper, { ...ask, onSameName: 'leaveOut' });
    expect(copies).toHaveLength(2);
    expect((await copyPapers(keeper, { ...ask, onSameName: 'leaveOut' })).copies).toEqual([]);
    const again = await copyPapers(keeper, { ...ask, onSameName: 'number' });
    for (const id of again.copies) expect((await docket(id)).title).toBe('named (2)');
  });

  it('say that the original has a newer version, and take it as their next', async () => {
    const original = await file('renewed');
    const { copies } = await copyPapers(keeper, { documentIds: [original], toIds: folders, onSameName: 'number' });
    const [copy = ''] = copies;
    const revision = async () => (await docket(copy)).revision;
    expect(await refusedAs(takeNewer(keeper, { documentId: copy, revision: await revision() }))).toBe('invalid');
    await fileBuffer(keeper, home.year.id, 'renewed.txt', Buffer.from('the newer words'), 'version');
    expect((await docket(copy)).origin?.hasNewer).toBe(true);
    expect((await docket(copy, reader)).origin?.hasNewer).toBe(true);
    expect(await refusedAs(takeNewer(reader, { documentId: copy, revision: await revision() }))).toBe('not-allowed');
    // Of two who take it at the same moment one does.
    const at = await revision();
    const both = await Promise.allSettled([1, 2].map(() => takeNewer(keeper, { documentId: copy, revision: at })));
    expect(both.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    expect([await contentOf(copy), (await docket(copy)).versions.length]).toEqual([await contentOf(original), 2]);
    expect((await docket(copy)).origin?.hasNewer).toBe(false);
    expect((await docket(copies[1] ?? '')).origin?.hasNewer).toBe(true);
  });

  it('do not name an original that is kept from a person, and outlive it', async () => {
    const shut = await furnished(keeper, 'Shut away');
    const secret = await file('secret original', shut.year.id);
    const { copies } = await copyPapers(keeper, { documentIds: [secret], toIds: folders, onSameName: 'number' });
    const [copy = ''] = copies;
    expect((await docket(copy, reader)).origin).toMatchObject({ original: null, hasNewer: false });
    expect(
      await refusedAs(copyPapers(reader, { documentIds: [secret], toIds: folders, onSameName: 'number' })),
    ).not.toBe('done');
    await disposePapers(keeper, { documentIds: [secret] });
    expect((await docket(copy)).origin?.original).toBeNull();
    await destroyPapers(keeper, { documentIds: [secret] });
    expect((await docket(copy)).origin?.original).toBeNull();
    expect((await docket(copy)).versions).toHaveLength(1);
    const [row] = await db().select({ id: document.id }).from(document).where(eq(document.id, copy));
    expect(row?.id).toBe(copy);
  });
});

describe('an act on several papers', () => {
  it('is foreseen: with which it can be done, and why not with the rest', async () => {
    const closed = await createFolder(keeper, { parentId: home.year.id, name: 'Ended' });
    const [free, locked, lying] = [await file('free'), await file('locked'), await file('lying', closed.id)];
    await setLock(keeper, { documentIds: [locked], locked: true });
    await setStandstill(keeper, { placeId: closed.id, closed: true, locked: false, reason: '', revision: 0 });
    const documentIds = [free, locked, lying, '00000000-0000-4000-8000-000000000000'];
    for (const act of ['move', 'change', 'dispose'] as const)
      expect(await actablePapers(keeper, { documentIds, act })).toEqual({
        may: [free],
        not: { notAllowed: 0, locked: 1, closed: 1, gone: 1 },
      });
    for (const act of ['lock', 'copy'] as const)
      expect((await actablePapers(keeper, { documentIds, act })).may).toEqual([free, locked, lying]);
    expect(await actablePapers(reader, { documentIds, act: 'dispose' })).toEqual({
      may: [],
      not: { notAllowed: 3, locked: 0, closed: 0, gone: 1 },
    });
  });
});
