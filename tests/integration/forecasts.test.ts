import fc from 'fast-check';
import { eq, inArray } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import { differences } from '@/core/columns/given';
import type { Values } from '@/core/columns/model';
import { Refusal } from '@/core/errors/refusal';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { defineColumn } from '@/server/columns/define';
import { forecastGiven, setGiven } from '@/server/columns/given';
import { setValues } from '@/server/columns/setValues';
import { db } from '@/server/db/client';
import { columnDef, document } from '@/server/db/schema';
import { forecastPaperMove, movePapers } from '@/server/documents/amend';
import { changeSettings, librarySettings } from '@/server/library/settings';
import { removePlace, renamePlace, setMeeting } from '@/server/places/amend';
import { createFolder } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { forecastMove, movePlace } from '@/server/places/move';
import { openPlace } from '@/server/places/open';
import { dropLibrary, freshLibrary, furnished } from '../library';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
const columns: string[] = [];
const folders: string[] = [];
const papers: string[] = [];

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  for (const name of ['One', 'Two', 'Three'])
    columns.push((await defineColumn(keeper, { ...plainFields, placeId: home.series.id, name, type: 'text' })).id);
  const parents = [home.year.id];
  for (let made = 0; made < 8; made += 1) {
    const parent = parents[(made * 5) % parents.length] ?? home.year.id;
    const { id } = await createFolder(keeper, { parentId: parent, name: `Folder ${made}` });
    parents.push(id);
    folders.push(id);
    for (const which of ['a', 'b'])
      papers.push(await fileBuffer(keeper, id, `${which} ${made}.txt`, Buffer.from(`${which} ${made}\n`)));
  }
  for (const [index, id] of papers.entries())
    if (index % 3 !== 0) await setValues(keeper, { documentIds: [id], values: { [columns[index % 3] ?? '']: 'own' } });
});
afterAll(dropLibrary);

const shown = async (): Promise<Map<string, Values>> =>
  new Map(
    (
      await db()
        .select({ id: document.id, shown: document.shownValues })
        .from(document)
        .where(inArray(document.id, papers))
    ).map((row) => [row.id, row.shown]),
  );

/** What changed between two looks, as a forecast says it: the papers, and of each column how many, and how many of those had something else. */
function changed(before: ReadonlyMap<string, Values>, after: ReadonlyMap<string, Values>) {
  const byColumn = new Map<string, { papers: number; overwritten: number }>();
  let count = 0;
  for (const [id, was] of before) {
    const changes = differences(was, after.get(id) ?? {});
    if (changes.length > 0) count += 1;
    for (const change of changes) {
      const row = byColumn.get(change.columnId) ?? { papers: 0, overwritten: 0 };
      byColumn.set(change.columnId, {
        papers: row.papers + 1,
        overwritten: row.overwritten + (change.before !== null && change.after !== null ? 1 : 0),
      });
    }
  }
  return { papers: count, byColumn };
}
const names = ['One', 'Two', 'Three'];
const asForecast = (of: ReturnType<typeof changed>) =>
  columns.flatMap((id, index) => {
    const row = of.byColumn.get(id);
    return row ? [{ name: names[index], ...row }] : [];
  });
const revisionOf = async (placeId: string) => (await openPlace(keeper, { placeId })).place.revision;

it('says of random sheets just what their setting then does', async () => {
  const sheets = fc.sample(
    fc.record({
      at: fc.nat(folders.length - 1),
      lines: fc.uniqueArray(
        fc.record({
          column: fc.nat(2),
          mode: fc.constantFrom('fixed' as const, 'offered' as const),
          value: fc.constantFrom('own', 'x', 'y'),
        }),
        { selector: (each) => each.column, maxLength: 3 },
      ),
    }),
    { numRuns: 25, seed: 32 },
  );
  for (const { at, lines } of sheets) {
    const placeId = folders[at] ?? '';
    const given = lines.map(({ column, mode, value }) => ({
      columnId: columns[column] ?? '',
      mode,
      value,
      binding: null,
    }));
    const before = await shown();
    const forecast = await forecastGiven(keeper, { placeId, given });
    expect(await shown()).toEqual(before);
    const done = await setGiven(keeper, { placeId, given, revision: await revisionOf(placeId) });
    const what = changed(before, await shown());
    expect(forecast.papers).toBe(what.papers);
    expect(done.papers).toBe(what.papers);
    expect(forecast.columns).toEqual(asForecast(what));
  }
});

it('says of random moves, of papers and of places with all below them, just what they then do', async () => {
  const moves = fc.sample(
    fc.record({
      what: fc.constantFrom('papers', 'place'),
      from: fc.nat(folders.length - 1),
      to: fc.nat(folders.length - 1),
    }),
    { numRuns: 25, seed: 33 },
  );
  let done = 0;
  for (const { what, from, to } of moves) {
    const toId = folders[to] ?? '';
    const before = await shown();
    if (what === 'place') {
      const placeId = folders[from] ?? '';
      const forecast = await forecastMove(keeper, { placeId, toId }).catch((error: unknown) =>
        error instanceof Refusal ? null : Promise.reject(error),
      );
      if (!forecast) continue;
      await movePlace(keeper, { placeId, toId });
      expect(forecast.values).toEqual(asForecast(changed(before, await shown())));
    } else {
      const documentIds = papers.filter((_, index) => index % folders.length === from);
      const forecast = await forecastPaperMove(keeper, { documentIds, toId });
      await movePapers(keeper, { documentIds, toId });
      const after = changed(before, await shown());
      expect(forecast.values.map(({ name, papers: count }) => [name, count])).toEqual(
        asForecast(after).map(({ name, papers: count }) => [name, count]),
      );
    }
    done += 1;
  }
  expect(done).toBeGreaterThan(10);
});

it('keeps what is bound to a place in step with its name, its year’s label and its meeting', async () => {
  const dossier = await createDossier(keeper, { seriesId: home.series.id, name: 'Old name', reference: null });
  const [year] = (await openPlace(keeper, { placeId: dossier.id })).children;
  const folder = await createFolder(keeper, { parentId: year?.id ?? '', name: 'Meeting', meetingDay: '2026-07-14' });
  const id = await fileBuffer(keeper, folder.id, 'Minutes.txt', Buffer.from('Minutes, bound\n'));
  const bindings = ['dossier', 'filingYear', 'meetingDay'] as const;
  const given = columns.map((columnId, index) => ({
    columnId,
    mode: 'fixed' as const,
    value: null,
    binding: bindings[index] ?? null,
  }));
  await setGiven(keeper, { placeId: dossier.id, given, revision: await revisionOf(dossier.id) });
  const values = async () => {
    const [row] = await db().select({ shown: document.shownValues }).from(document).where(eq(document.id, id));
    return columns.map((columnId) => row?.shown[columnId]);
  };
  expect(await values()).toEqual(['Old name', year?.name, '2026-07-14']);
  await renamePlace(keeper, { placeId: dossier.id, name: 'New name', revision: await revisionOf(dossier.id) });
  await setMeeting(keeper, { placeId: folder.id, meetingDay: '2026-09-15', revision: await revisionOf(folder.id) });
  const { filingYears: _years, rootId: _root, ...settings } = await librarySettings();
  await changeSettings(keeper, { ...settings, families: [...settings.families], yearStartMonth: 1 });
  expect(await values()).toEqual(['New name', String(year?.filingYear), '2026-09-15']);
  await setMeeting(keeper, { placeId: folder.id, meetingDay: null, revision: await revisionOf(folder.id) });
  expect((await values())[2]).toBeUndefined();
});

it('removes an empty place with the columns it defined, and what it gave', async () => {
  const folder = await createFolder(keeper, { parentId: home.year.id, name: 'Gone soon' });
  const { id } = await defineColumn(keeper, { ...plainFields, placeId: folder.id, name: 'Its own', type: 'text' });
  await setGiven(keeper, {
    placeId: folder.id,
    given: [{ columnId: id, mode: 'fixed', value: 'x', binding: null }],
    revision: folder.revision,
  });
  await removePlace(keeper, { placeId: folder.id });
  expect(await db().select().from(columnDef).where(eq(columnDef.id, id))).toEqual([]);
});
