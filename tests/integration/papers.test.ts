import { count, eq, sql } from 'drizzle-orm';
import type { Actor } from '@/server/gate/actor';
import { writableDb } from '@/server/db/client';
import { journal, version } from '@/server/db/schema';
import {
  forecastPaperMove,
  movePapers,
  putInPlaces,
  renamePaper,
  restoreVersion,
  setRemark,
} from '@/server/documents/amend';
import { docketOf } from '@/server/documents/docket';
import { disposePapers, putBackPapers } from '@/server/disposal/dispose';
import { disposedPapers } from '@/server/disposal/list';
import { ledgerPage } from '@/server/documents/ledger';
import { createFolder } from '@/server/places/create';
import { listChildren } from '@/server/places/open';
import { dropLibrary, freshLibrary, furnished, newcomer, open, refusedAs } from '../library';
import { bytesOf, filed, text } from './sending';

let keeper: Actor;
let reader: Actor;
let contributor: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  reader = await newcomer(keeper, 'Rea Reader');
  contributor = await newcomer(keeper, 'Con Tributor');
});
afterAll(dropLibrary);

const folder = (name: string) => createFolder(keeper, { parentId: home.year.id, name });

describe('papers', () => {
  it('are renamed, noted, moved and moved back, each with one journal entry', async () => {
    const [from, to] = [await folder('Here'), await folder('There')];
    const paper = await filed(keeper, from.id, 'Draft.txt');
    const entries = async () => (await writableDb().select({ n: count() }).from(journal))[0]?.n ?? 0;
    const before = await entries();
    await renamePaper(keeper, { documentId: paper, title: 'Final', revision: 0 });
    await setRemark(keeper, { documentId: paper, remark: ' signed ', revision: 1 });
    const { backTo } = await movePapers(keeper, { documentIds: [paper], toId: to.id });
    expect(await docketOf(keeper, { documentId: paper })).toMatchObject({
      title: 'Final',
      remark: 'signed',
      homeId: to.id,
    });
    await putInPlaces(keeper, { homes: backTo });
    expect((await docketOf(keeper, { documentId: paper })).homeId).toBe(from.id);
    expect((await entries()) - before).toBe(4);
    expect(await refusedAs(renamePaper(keeper, { documentId: paper, title: 'Stale', revision: 0 }))).toBe('conflict');
  });

  it('go into the disposal tray and come back, all or none', async () => {
    const { id: placeId } = await folder('Tray');
    const papers = [await filed(keeper, placeId, 'a.txt'), await filed(keeper, placeId, 'b.txt')];
    await open(keeper, placeId, reader, 'reader');
    expect(await refusedAs(disposePapers(reader, { documentIds: papers }))).toBe('not-allowed');
    expect(
      await refusedAs(disposePapers(keeper, { documentIds: [...papers, '00000000-0000-4000-8000-000000000000'] })),
    ).toBe('not-found');
    await disposePapers(keeper, { documentIds: papers });
    expect(await refusedAs(docketOf(reader, { documentId: papers[0] ?? '' }))).toBe('not-found');
    expect((await disposedPapers(reader, { words: '', order: 'newest', most: 100 })).total).toBe(0);
    expect(
      (await disposedPapers(keeper, { words: '', order: 'newest', most: 100 })).papers.map((each) => each.id).sort(),
    ).toEqual([...papers].sort());
    await putBackPapers(keeper, { documentIds: papers });
    expect((await docketOf(reader, { documentId: papers[0] ?? '' })).disposedAt).toBeNull();
  });

  it('bring an older version back as a new one; versions themselves never change', async () => {
    const { id: placeId } = await folder('Versions');
    const one = text('one');
    const paper = await filed(keeper, placeId, 'v.txt', one);
    await filed(keeper, placeId, 'v.txt', text('two'), { onSameName: 'version' });
    const { revision } = await docketOf(keeper, { documentId: paper });
    expect(await restoreVersion(keeper, { documentId: paper, number: 1, revision })).toEqual({ number: 3 });
    expect(await bytesOf(keeper, paper)).toEqual(one);
    expect(
      (await docketOf(keeper, { documentId: paper })).versions.map((each) => [each.number, each.restoredFrom]),
    ).toEqual([
      [3, 1],
      [2, null],
      [1, null],
    ]);
    await expect(
      writableDb().update(version).set({ fileName: 'x' }).where(eq(version.documentId, paper)),
    ).rejects.toThrow();
    await expect(writableDb().execute(sql`delete from journal`)).rejects.toThrow();
  });

  it('tell before a move who loses and gains sight of them', async () => {
    const [from, to] = [await folder('Open to Rea'), await folder('Open to Con')];
    await open(keeper, from.id, reader, 'reader');
    await open(keeper, to.id, contributor, 'reader');
    const paper = await filed(keeper, from.id, 'p.txt');
    expect(await forecastPaperMove(keeper, { documentIds: [paper], toId: to.id })).toMatchObject({
      paperCount: 1,
      impact: [
        { kind: 'loses', names: ['Rea Reader'], papers: 1 },
        { kind: 'gains', names: ['Con Tributor'] },
      ],
      values: [],
    });
  });
});

describe('the ledger', () => {
  it('comes in pages that join without gap or double, in every sort and both ways, as a plain sort has it', async () => {
    const { id: placeId } = await folder('Long');
    const names = [
      'Appendix 10',
      'appendix 2',
      'Appendix 1',
      'Über',
      'Zeta',
      'alpha',
      '50 % off_all',
      'Minutes',
      'minutes (2)',
    ];
    for (const name of names) await filed(keeper, placeId, `${name}.txt`, text(name), { onSameName: 'both' });
    for (const sort of ['title', 'kind', 'size', 'pages', 'filedBy', 'filedAt', 'changedAt'] as const) {
      const whole = await ledgerPage(keeper, { placeId, sort, direction: 'up', filter: '', after: null, limit: 100 });
      for (const direction of ['up', 'down'] as const) {
        const ids: string[] = [];
        let after: string | null = null;
        do {
          const page = await ledgerPage(keeper, { placeId, sort, direction, filter: '', after, limit: 2 });
          ids.push(...page.rows.map((row) => row.id));
          after = page.next;
        } while (after !== null);
        const expected = whole.rows.map((row) => row.id);
        expect(ids).toEqual(direction === 'up' ? expected : expected.reverse());
      }
    }
    const byTitle = await ledgerPage(keeper, {
      placeId,
      sort: 'title',
      direction: 'up',
      filter: '',
      after: null,
      limit: 100,
    });
    const collator = new Intl.Collator('en-GB', { numeric: true });
    expect(byTitle.rows.map((row) => row.title)).toEqual(byTitle.rows.map((row) => row.title).sort(collator.compare));
    expect(byTitle.totals).toMatchObject({ papers: names.length });
  });

  it('filters by what is typed, with no powers for % and _', async () => {
    const [long] = (await listChildren(keeper, { placeId: home.year.id })).filter((each) => each.name === 'Long');
    const filter = async (words: string) =>
      (
        await ledgerPage(keeper, {
          placeId: long?.id ?? '',
          sort: 'title',
          direction: 'up',
          filter: words,
          after: null,
          limit: 100,
        })
      ).rows.map((row) => row.title);
    expect(await filter('uber')).toEqual(['Über']);
    expect(await filter('50 %')).toEqual(['50 % off all']);
    expect(await filter('%')).toEqual(['50 % off all']);
    expect(
      await refusedAs(
        ledgerPage(keeper, {
          placeId: long?.id ?? '',
          sort: 'title',
          direction: 'up',
          filter: '',
          after: '{"forged":1}',
          limit: 5,
        }),
      ),
    ).toBe('invalid');
  });
});
