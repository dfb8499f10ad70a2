import { eq, sql } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import { setAccess } from '@/server/access/change';
import { atMoment } from '@/server/base/clock';
import { db, writableDb } from '@/server/db/client';
import { blob, blobChunk, destroyedPaper, document, journal, library, reading, version } from '@/server/db/schema';
import { destroyExpired, destroyPapers } from '@/server/disposal/destroy';
import { disposePapers, putBackPapers } from '@/server/disposal/dispose';
import { disposedPapers } from '@/server/disposal/list';
import { docketOf } from '@/server/documents/docket';
import { crossFile } from '@/server/documents/crossFile';
import type { Actor } from '@/server/gate/actor';
import { journalOf } from '@/server/journal/read';
import { createLabel, putLabel } from '@/server/labels/labels';
import { pickUp } from '@/server/hand/hand';
import { changeSettings, librarySettings } from '@/server/library/settings';
import { createFolder } from '@/server/places/create';
import { setStandstill } from '@/server/standstill/standstill';
import { verifyLibrary } from '@/server/verify/verify';
import { dropLibrary, type furnished, newcomer, open, refusedAs, sharedLibrary } from '../library';
import { contentOf, fileAndRead } from '../reading';

let keeper: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  ({ keeper, reader, home } = await sharedLibrary());
});
afterAll(dropLibrary);

let counter = 0;
const file = (content: string, placeId = home.year.id): Promise<string> =>
  fileBuffer(keeper, placeId, `paper ${(counter += 1)}.txt`, Buffer.from(content));
const disposed = async (content: string, placeId?: string): Promise<string> => {
  const id = await file(content, placeId);
  await disposePapers(keeper, { documentIds: [id] });
  return id;
};
const inTray = async (actor: Actor, words = '', order: 'newest' | 'oldest' | 'title' = 'newest') =>
  disposedPapers(actor, { words, order, most: 100 });
const isThere = async (id: string): Promise<boolean> =>
  (await db().select({ id: document.id }).from(document).where(eq(document.id, id))).length === 1;
const hasContent = async (sha256: string): Promise<boolean> =>
  (await db().select({ sha256: blob.sha256 }).from(blob).where(eq(blob.sha256, sha256))).length === 1;

async function setTrayDays(trayDays: number | null): Promise<void> {
  await writableDb().update(library).set({ trayDays });
}
const daysFromNow = (days: number): Date => new Date(Date.now() + days * 86_400_000);

describe('the disposal tray', () => {
  it('says who put what there, from where and for how long still, by words and in an order', async () => {
    await setTrayDays(30);
    const one = await file('alpha');
    const two = await file('beta');
    await disposePapers(keeper, { documentIds: [one] });
    await disposePapers(keeper, { documentIds: [two] });
    const { papers, total, trayDays } = await inTray(keeper);
    expect([total, trayDays, papers.map(({ id }) => id)]).toEqual([2, 30, [two, one]]);
    expect(papers[0]).toMatchObject({ disposedBy: keeper.name, mayDestroy: true, still: null });
    expect(Date.parse(papers[0]?.dueAt ?? '') - Date.parse(papers[0]?.disposedAt ?? '')).toBe(30 * 86_400_000);
    expect((await inTray(keeper, '', 'oldest')).papers.map(({ id }) => id)).toEqual([one, two]);
    expect((await inTray(keeper, papers[1]?.title)).papers.map(({ id }) => id)).toEqual([one]);
    expect((await inTray(keeper, 'KEA keeper paper')).total).toBe(2);
    expect((await inTray(keeper, 'no such words')).total).toBe(0);
    expect((await inTray(keeper, '%')).total).toBe(0);
    expect((await inTray(reader)).total).toBe(0);
    await putBackPapers(keeper, { documentIds: [one, two] });
  });

  it('gives papers back to another place where their own is closed, with all their filings', async () => {
    const closed = await createFolder(keeper, { parentId: home.year.id, name: 'Closed' });
    const elsewhere = await createFolder(keeper, { parentId: home.year.id, name: 'Elsewhere' });
    const listed = await createFolder(keeper, { parentId: home.year.id, name: 'Listed' });
    const id = await file('to be rehomed', closed.id);
    await crossFile(keeper, { documentIds: [id], toIds: [listed.id], kind: 'pointer' });
    await disposePapers(keeper, { documentIds: [id] });
    await setStandstill(keeper, { placeId: closed.id, closed: true, locked: false, reason: '', revision: 0 });
    expect((await inTray(keeper)).papers.find((paper) => paper.id === id)?.still).toBe('closedPlace');
    expect(await refusedAs(putBackPapers(keeper, { documentIds: [id] }))).toBe('closed-place');
    expect(await refusedAs(destroyPapers(keeper, { documentIds: [id] }))).toBe('closed-place');
    expect(await refusedAs(putBackPapers(keeper, { documentIds: [id], toId: closed.id }))).toBe('closed-place');
    await putBackPapers(keeper, { documentIds: [id], toId: elsewhere.id });
    const docket = await docketOf(keeper, { documentId: id });
    expect([docket.homeId, docket.disposedAt, docket.filings.map(({ placeId }) => placeId)]).toEqual([
      elsewhere.id,
      null,
      [listed.id],
    ]);
    const { entries } = { entries: await journalOf(keeper, { subject: 'document', id, before: null }) };
    expect(entries[0]?.words).toContain('from the disposal tray into “Elsewhere”');
  });
});

describe('destroying', () => {
  it('leaves nothing of what papers said, and of the papers one line of the journal', async () => {
    const { id, sha256 } = await fileAndRead(
      keeper,
      home.year.id,
      'secret.txt',
      Buffer.from('the text that has to go\n'),
    );
    const label = await createLabel(keeper, { name: 'Mark', hue: 'teal', shared: true });
    await putLabel(keeper, { labelId: label.id, documentIds: [id], on: true });
    await pickUp(keeper, { documentIds: [id] });
    const [kept] = await db().select({ contentId: blob.contentId }).from(blob).where(eq(blob.sha256, sha256));
    await disposePapers(keeper, { documentIds: [id] });
    expect(await destroyPapers(keeper, { documentIds: [id] })).toEqual({ destroyed: 1 });
    expect([await isThere(id), await hasContent(sha256)]).toEqual([false, false]);
    const [left] = await db().select().from(destroyedPaper).where(eq(destroyedPaper.id, id));
    expect(left).toMatchObject({
      title: 'secret',
      homeName: `Finance, ${home.year.name}`,
      destroyedBy: keeper.personId,
    });
    for (const [table, column, value] of [
      [version, version.documentId, id],
      [blobChunk, blobChunk.contentId, kept?.contentId ?? ''],
      [reading, reading.sha256, sha256],
    ] as const)
      expect(
        await db()
          .select({ one: sql`1` })
          .from(table)
          .where(eq(column, value)),
      ).toEqual([]);
    const lines = await journalOf(keeper, { subject: 'place', id: home.year.id, before: null });
    expect(lines[0]?.words).toBe('destroyed “secret” that lay in the disposal tray');
    // Whoever might not have been told of the paper is told of nothing that names it.
    const told = await journalOf(reader, { subject: 'place', id: home.year.id, before: null });
    expect(told.filter(({ words }) => words.includes('secret'))).toEqual([]);
    expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
  });

  it('keeps content that another paper has', async () => {
    const [one, two] = [await disposed('the same words'), await file('the same words')];
    const sha256 = await contentOf(two);
    await destroyPapers(keeper, { documentIds: [one] });
    expect(await hasContent(sha256)).toBe(true);
    await disposePapers(keeper, { documentIds: [two] });
    await destroyPapers(keeper, { documentIds: [two] });
    expect(await hasContent(sha256)).toBe(false);
  });

  it('is for those who manage, of what lies in the tray, and for all of it or none', async () => {
    const [kept, gone] = [await file('kept'), await disposed('gone')];
    const amender = await newcomer(keeper, 'Ame Nder');
    await open(keeper, home.dossier.id, amender, 'officer');
    expect((await inTray(amender)).papers.find(({ id }) => id === gone)?.mayDestroy).toBe(false);
    for (const [who, ids] of [
      [keeper, [kept]],
      [keeper, [gone, kept]],
      [keeper, [gone, '00000000-0000-4000-8000-000000000000']],
      [amender, [gone]],
      [reader, [gone]],
    ] as const)
      expect(await refusedAs(destroyPapers(who, { documentIds: [...ids] }))).toBe('not-found');
    expect([await isThere(kept), await isThere(gone)]).toEqual([true, true]);
  });

  it('is once, and either that or put back, where two do it at the same moment', async () => {
    const id = await disposed('wanted by two');
    const both = await Promise.allSettled([
      destroyPapers(keeper, { documentIds: [id] }),
      putBackPapers(keeper, { documentIds: [id] }),
      destroyPapers(keeper, { documentIds: [id] }),
    ]);
    const isBack = await isThere(id);
    expect(both[1]?.status === 'fulfilled').toBe(isBack);
    expect(both.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
  });

  it('takes no content away from a paper that is filed with it at the same moment', async () => {
    for (const round of [1, 2, 3, 4, 5, 6]) {
      const words = `filed and destroyed at once ${round}`;
      const id = await disposed(words);
      const [filed] = await Promise.all([file(words), destroyPapers(keeper, { documentIds: [id] })]);
      expect(await hasContent(await contentOf(filed))).toBe(true);
    }
    expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
  });

  it('tells nobody of a destroyed paper by what the journal said of it before', async () => {
    const id = await file('kept from the reader');
    const on = { kind: 'paper', id } as const;
    await setAccess(keeper, { on, follows: false, revision: 0, message: null, grants: [] });
    const named = async () =>
      (await journalOf(reader, { subject: 'place', id: home.year.id, before: null })).some(({ words }) =>
        words.includes(`paper ${counter}`),
      );
    expect(await named()).toBe(false);
    await disposePapers(keeper, { documentIds: [id] });
    await destroyPapers(keeper, { documentIds: [id] });
    expect(await named()).toBe(false);
  });
});

describe('the days in the tray', () => {
  it('do not end within a week of a change of their number, so that a slip can be mended', async () => {
    await setTrayDays(1000);
    const id = await atMoment(daysFromNow(-50), () => disposed('long in the tray'));
    const { rootId: _root, filingYears: _years, closedYears: _closed, families, ...settings } = await librarySettings();
    await changeSettings(keeper, { ...settings, families: [...families], trayDays: 9 });
    expect(await atMoment(daysFromNow(6), destroyExpired)).toBe(0);
    const due = (await inTray(keeper)).papers.find((paper) => paper.id === id)?.dueAt ?? '';
    expect(Math.round((Date.parse(due) - Date.now()) / 86_400_000)).toBe(7);
    expect(await atMoment(daysFromNow(8), destroyExpired)).toBeGreaterThan(0);
    expect(await isThere(id)).toBe(false);
  });

  it('end as the library says, are said in its own name, and wait for places that stand still', async () => {
    const still = await createFolder(keeper, { parentId: home.year.id, name: 'Still' });
    const [id, waiting] = [await disposed('expires'), await disposed('waits', still.id)];
    await setStandstill(keeper, { placeId: still.id, closed: false, locked: true, reason: '', revision: 0 });
    await setTrayDays(null);
    expect(await atMoment(daysFromNow(10_000), destroyExpired)).toBe(0);
    await setTrayDays(30);
    expect(await atMoment(daysFromNow(29), destroyExpired)).toBe(0);
    expect(await isThere(id)).toBe(true);
    expect(await atMoment(daysFromNow(31), destroyExpired)).toBeGreaterThan(0);
    expect([await isThere(id), await isThere(waiting)]).toEqual([false, true]);
    const entries = await db().select().from(journal).where(eq(journal.act, 'papers.expired'));
    expect(entries.find(({ subjects }) => subjects.includes(id))?.personId).toBeNull();
    expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
  });
});
