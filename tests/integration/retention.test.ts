import { execFileSync } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import Papa from 'papaparse';
import { eq } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import type { ClassFields } from '@/core/retention/contract';
import { fileBuffer } from '@/demo/file';
import { atMoment } from '@/server/base/clock';
import { inFolder } from '@/server/cage/file';
import { defineColumn } from '@/server/columns/define';
import { createList, listOf } from '@/server/columns/lists';
import { mergeTerm } from '@/server/columns/mergeTerms';
import { setValues } from '@/server/columns/setValues';
import { db, writableDb } from '@/server/db/client';
import { document, library, person } from '@/server/db/schema';
import { destroyExpired, destroyPapers } from '@/server/disposal/destroy';
import { disposePapers, putBackPapers } from '@/server/disposal/dispose';
import { disposedPapers } from '@/server/disposal/list';
import { movePapers } from '@/server/documents/amend';
import { docketOf } from '@/server/documents/docket';
import type { Actor } from '@/server/gate/actor';
import { extendHold, holdsOf, liftHold, listHolds, placeHold, releaseFromHold } from '@/server/holds/holds';
import { createFolder, createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { removePlace } from '@/server/places/amend';
import { endRuns } from '@/server/retention/certificate';
import {
  foreseeSchedule,
  giveClass,
  keepingOf,
  putClass,
  removeClass,
  retentionClasses,
  scheduleCsv,
  takeClassAway,
  takeScheduleIn,
} from '@/server/retention/classes';
import { abandonRun, approveRun, destroyRun, leaveOut, listRuns, openRun, prepareRun } from '@/server/retention/runs';
import { setLock, setStandstill } from '@/server/standstill/standstill';
import { openView } from '@/server/views/open';
import { dropLibrary, type furnished, newcomer, plainQuestion, refusedAs, sharedLibrary } from '../library';
import { bytesOf } from './sending';

let keeper: Actor;
let other: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let office: string;
let column: string;
let ends: string;
let terms: { invoice: string; lease: string };

beforeAll(async () => {
  ({ keeper, reader, home } = await sharedLibrary());
  const second = await newcomer(keeper, 'Kit Second');
  await writableDb().update(person).set({ keeper: true }).where(eq(person.id, second.personId));
  other = { ...second, keeper: true };
  const { id: listId } = await createList(keeper, { name: 'Types', terms: ['Invoice', 'Lease'] });
  const [invoice = '', lease = ''] = (await listOf(keeper, listId)).terms.map(({ id }) => id);
  terms = { invoice, lease };
  const define = (name: string, type: 'choice' | 'date') =>
    defineColumn(keeper, {
      ...plainFields,
      placeId: home.series.id,
      name,
      type,
      listId: type === 'choice' ? listId : null,
    });
  column = (await define('Type', 'choice')).id;
  ends = (await define('Lease ends', 'date')).id;
  const records = await createSeries(keeper, { name: 'Records', referencePattern: null });
  office = (await createDossier(keeper, { seriesId: records.id, name: 'Certificates', reference: null })).id;
  await writableDb()
    .update(library)
    .set({ trayDays: 30, trayDaysSince: new Date(0) });
}, 60_000);
afterAll(dropLibrary);

let counter = 0;
const paperOn = (day: string, type: string | null = null, placeId = home.year.id): Promise<string> =>
  atMoment(new Date(`${day}T10:00:00Z`), async () => {
    const id = await fileBuffer(keeper, placeId, `paper ${(counter += 1)}.txt`, Buffer.from(`words of ${counter}`));
    if (type !== null) await setValues(keeper, { documentIds: [id], values: { [column]: type } });
    return id;
  });
const at = <T>(day: string, work: () => Promise<T>): Promise<T> => atMoment(new Date(`${day}T10:00:00Z`), work);
const plain: ClassFields = {
  name: 'Invoices',
  authority: 'Tax law',
  start: 'filed',
  columnId: null,
  months: 72,
  end: 'destroy',
};
const made = async (fields: Partial<ClassFields>): Promise<string> =>
  (await putClass(keeper, { classId: null, fields: { ...plain, ...fields }, revision: 0 })).id;
const give = (classId: string, placeId: string, termId: string | null = null) =>
  giveClass(keeper, { classId, placeId, ofType: termId === null ? null : { columnId: column, termId } });
const isThere = async (id: string): Promise<boolean> =>
  (await db().select({ id: document.id }).from(document).where(eq(document.id, id))).length === 1;
const plainOn = { placeIds: [], documentIds: [], views: [] };

describe('retention classes', () => {
  it('are given by places to all papers or those of a type; the longest that speaks wins, and the others are told', async () => {
    const invoices = await made({});
    const leases = await made({ name: 'Leases', start: 'column', columnId: ends, months: 144, end: 'look' });
    const [invoice, lease, plainPaper] = [
      await paperOn('2020-02-29', terms.invoice),
      await paperOn('2020-02-29', terms.lease),
      await paperOn('2020-02-29'),
    ];
    expect(await keepingOf(keeper, { documentId: invoice })).toBeNull();
    await give(invoices, home.series.id);
    await give(leases, home.series.id, terms.lease);
    expect(await at('2026-02-28', () => keepingOf(reader, { documentId: invoice }))).toMatchObject({
      className: 'Invoices',
      authority: 'Tax law',
      until: '2026-02-28',
      standing: 'running',
      end: 'destroy',
      start: { from: 'filed', day: '2020-02-29' },
      givenBy: { placeName: 'Committees', typeName: null },
      others: [],
    });
    expect(await at('2026-03-01', () => keepingOf(reader, { documentId: plainPaper }))).toMatchObject({
      standing: 'over',
    });
    // Nothing is guessed: as long as no day is said, it is kept.
    expect(await keepingOf(keeper, { documentId: lease })).toMatchObject({
      className: 'Leases',
      until: null,
      standing: 'noStart',
      others: ['Invoices'],
    });
    await setValues(keeper, { documentIds: [lease], values: { [ends]: '2021-09-30' } });
    expect(await keepingOf(keeper, { documentId: lease })).toMatchObject({ until: '2033-09-30', standing: 'running' });
  });

  it('are counted by the schedule, and are properties of any view that agree with what each paper says', async () => {
    const rows = await retentionClasses(keeper);
    expect(
      rows.map(({ name, papers, rules }) => [
        name,
        papers,
        rules.map(({ placeName, typeName }) => [placeName, typeName]),
      ]),
    ).toEqual([
      ['Invoices', 2, [['Committees', null]]],
      ['Leases', 1, [['Committees', 'Type Lease']]],
    ]);
    const view = { ...plainQuestion, placeId: home.series.id, below: true };
    const page = await openView(reader, {
      ...view,
      conditions: [{ of: 'keptUntil', filled: true }],
      sorts: [{ of: 'keptUntil', direction: 'down' }],
      counts: ['keptClass', 'keptEnd'],
    });
    expect(page.rows.map(({ owed }) => [owed.keeping?.className, owed.keeping?.until])).toEqual([
      ['Leases', '2033-09-30'],
      ['Invoices', '2026-02-28'],
      ['Invoices', '2026-02-28'],
    ]);
    const named = (of: string) => {
      const counts = page.counts[of];
      return counts?.kind === 'values' ? counts.values.map(({ name, papers }) => `${name} ${papers}`) : [];
    };
    expect([named('keptClass'), named('keptEnd')]).toEqual([
      ['Invoices 2', 'Leases 1'],
      ['destroy 2', 'look again 1'],
    ]);
  });

  it('are changed only as they were seen, by keepers, and removed once no place gives them', async () => {
    const id = await made({ name: 'Short lived' });
    const change = (who: Actor, revision: number) =>
      refusedAs(putClass(who, { classId: id, fields: { ...plain, name: 'Short lived', months: 1 }, revision }));
    expect(await change(reader, 0)).toBe('not-allowed');
    expect((await Promise.all([change(keeper, 0), change(other, 0)])).toSorted()).toEqual(['conflict', 'done']);
    expect(await refusedAs(made({ name: 'short LIVED' }))).toBe('name-taken');
    expect(await refusedAs(made({ name: 'Of no column', start: 'column', columnId: home.series.id }))).toBe('invalid');
    await give(id, home.dossier.id);
    expect(await refusedAs(removeClass(keeper, { classId: id, revision: 1 }))).toBe('conflict');
    const rule = (await retentionClasses(keeper)).find((row) => row.id === id)?.rules[0];
    await takeClassAway(keeper, { ruleId: rule?.id ?? '' });
    await removeClass(keeper, { classId: id, revision: 1 });
    expect((await retentionClasses(keeper)).map(({ name }) => name)).toEqual(['Invoices', 'Leases']);
  });

  it('come in as they went out, and a changed schedule says before what it changes', async () => {
    const csv = await scheduleCsv(keeper);
    expect(await foreseeSchedule(keeper, { csv })).toEqual({ added: [], changed: [], same: 2, refused: [] });
    const edited = `${csv.replace(',72,', ',84,')}Minutes,,filed,,,keep\r\nBad,,whenever,,1,destroy\r\n`;
    expect(await foreseeSchedule(keeper, { csv: edited })).toMatchObject({
      added: ['Minutes'],
      changed: ['Invoices'],
      same: 1,
      refused: [{ line: 5 }],
    });
    expect(await refusedAs(takeScheduleIn(reader, { csv: edited }))).toBe('not-allowed');
    expect(await takeScheduleIn(keeper, { csv: edited })).toEqual({ added: 1, changed: 1 });
    expect((await retentionClasses(keeper)).map(({ name, months }) => [name, months])).toEqual([
      ['Invoices', 84],
      ['Leases', 144],
      ['Minutes', null],
    ]);
    await takeScheduleIn(keeper, { csv });
  });

  it('follow a term that is merged into another', async () => {
    const { id: listId } = await createList(keeper, { name: 'Other types', terms: ['Bill', 'Invoice'] });
    const [bill = '', into = ''] = (await listOf(keeper, listId)).terms.map(({ id }) => id);
    const { id: otherColumn } = await defineColumn(keeper, {
      ...plainFields,
      placeId: home.dossier.id,
      name: 'Other type',
      type: 'choice',
      listId,
    });
    const classId = await made({ name: 'Bills', months: 600 });
    await giveClass(keeper, { classId, placeId: home.dossier.id, ofType: { columnId: otherColumn, termId: bill } });
    const id = await paperOn('2020-01-01');
    await setValues(keeper, { documentIds: [id], values: { [otherColumn]: bill } });
    await mergeTerm(keeper, { termId: bill, intoId: into });
    expect(await keepingOf(keeper, { documentId: id })).toMatchObject({
      className: 'Bills',
      givenBy: { typeName: 'Other type Invoice' },
    });
    await takeClassAway(keeper, {
      ruleId: (await retentionClasses(keeper)).find((row) => row.id === classId)?.rules[0]?.id ?? '',
    });
  });

  it('count from the closing of the dossier, and from the end of the filing year', async () => {
    const dossier = (await createDossier(keeper, { seriesId: home.series.id, name: 'Tenant', reference: null })).id;
    const closing = await made({ name: 'After closing', start: 'closed', months: 240 });
    await give(closing, dossier);
    const id = await paperOn('2020-05-05', null, dossier);
    expect(await keepingOf(keeper, { documentId: id })).toMatchObject({
      className: 'After closing',
      standing: 'noStart',
    });
    await at('2024-03-01', () =>
      setStandstill(keeper, { placeId: dossier, closed: true, locked: false, reason: 'Left', revision: 0 }),
    );
    expect(await keepingOf(keeper, { documentId: id })).toMatchObject({ until: '2044-03-01', standing: 'running' });
    const page = await openView(keeper, { ...plainQuestion, placeId: dossier, below: true });
    expect(page.rows[0]?.owed.keeping).toMatchObject({ until: '2044-03-01' });
    const years = await made({ name: 'By year', start: 'yearEnd', months: 300 });
    await give(years, home.year.id);
    const filed = await paperOn('2020-05-05');
    expect((await keepingOf(keeper, { documentId: filed }))?.until).toMatch(/^20\d\d-03-31$/u);
    await takeClassAway(keeper, {
      ruleId: (await retentionClasses(keeper)).find((row) => row.id === years)?.rules[0]?.id ?? '',
    });
  });
});

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
    // The lease of the tests above is under the view as well.
    expect(row).toMatchObject({ name: 'Claim of 2026', thingCount: 3, papers: 4, liftedAt: null });
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

describe('a disposal by the schedule', () => {
  let classId: string;
  let folder: string;
  let dossier: string;
  beforeAll(async () => {
    dossier = (await createDossier(keeper, { seriesId: home.series.id, name: 'Old', reference: null })).id;
    folder = (await createFolder(keeper, { parentId: dossier, name: 'Invoices' })).id;
    // Of its own series, so that no other class speaks.
    const series = await createSeries(keeper, { name: 'Suppliers', referencePattern: null });
    dossier = (await createDossier(keeper, { seriesId: series.id, name: 'Lantern', reference: null })).id;
    folder = (await createFolder(keeper, { parentId: dossier, name: 'Invoices' })).id;
    classId = await made({ name: 'Old invoices', authority: 'Tax law, s. 21', months: 12 });
    await give(classId, series.id);
  });
  const prepared = async (...ids: readonly string[]): Promise<string> => {
    const { runId } = await prepareRun(keeper, { classIds: [classId], placeId: office, note: 'Yearly' });
    const { items } = await openRun(keeper, { runId, states: [], most: 100 });
    expect(items.map(({ documentId }) => documentId).toSorted()).toEqual([...ids].toSorted());
    return runId;
  };
  const stateOf = async (runId: string, id: string) =>
    (await openRun(keeper, { runId, states: [], most: 100 })).items.find(({ documentId }) => documentId === id);

  it('is stopped by a hold, then done: tray, destruction, and a certificate that files itself', async () => {
    const [held, due, gone, young] = [
      await paperOn('2020-01-01', null, folder),
      await paperOn('2020-01-02', null, folder),
      await paperOn('2020-01-03', null, folder),
      await paperOn('2026-11-01', null, folder),
    ];
    await fileBuffer(keeper, folder, 'paper two.txt', Buffer.from('x'));
    const title = (await docketOf(keeper, { documentId: due })).title;
    await at('2020-06-01', () => fileBuffer(keeper, folder, `${title}.txt`, Buffer.from('second version'), 'version'));
    const { holdId } = await placeHold(keeper, {
      name: 'Dispute',
      reason: 'In court',
      on: { ...plainOn, documentIds: [held] },
    });
    const runId = await prepared(held, due, gone);
    expect(await stateOf(runId, held)).toMatchObject({ state: 'held', reason: 'under the hold “Dispute”' });
    // In no second run meanwhile; and nothing of it is destroyed by the schedule alone.
    expect(await refusedAs(prepareRun(other, { classIds: [classId], placeId: office, note: '' }))).toBe('invalid');
    expect(await atMoment(new Date('2090-01-01'), destroyExpired)).toBe(0);

    expect(await refusedAs(approveRun(keeper, { runId, revision: 0 }))).toBe('not-allowed');
    expect(await refusedAs(approveRun(reader, { runId, revision: 0 }))).toBe('not-allowed');
    expect(await refusedAs(approveRun(other, { runId, revision: 7 }))).toBe('conflict');
    const both = await Promise.all([1, 2].map(() => refusedAs(approveRun(other, { runId, revision: 0 }))));
    expect(both.toSorted()).toEqual(['conflict', 'done']);
    expect(await openRun(other, { runId, states: [], most: 10 })).toMatchObject({
      state: 'approved',
      counts: { disposed: 2, held: 1 },
      approvedBy: 'Kit Second',
    });
    expect(
      (await disposedPapers(keeper, { words: '', order: 'newest', most: 10 })).papers.map(({ id }) => id).toSorted(),
    ).toEqual([due, gone].toSorted());

    // A hold that is put on between approval and destruction wins.
    const { holdId: late } = await placeHold(other, {
      name: 'Late',
      reason: 'Audit',
      on: { ...plainOn, documentIds: [gone] },
    });
    expect(await refusedAs(destroyRun(other, { runId, papers: 3 }))).toBe('conflict');
    expect(await destroyRun(other, { runId, papers: 2 })).toEqual({ destroyed: 1, held: 1 });
    expect(await Promise.all([held, due, gone, young].map(isThere))).toEqual([true, false, true, true]);
    expect(await endRuns()).toBe(0);
    await liftHold(other, { holdId: late, reason: 'Over', revision: 0 });
    expect(await atMoment(new Date(Date.now() + 90 * 86_400_000), destroyExpired)).toBe(1);
    // Of two workers one ends it.
    expect((await Promise.all([endRuns(), endRuns()])).toSorted()).toEqual([0, 1]);
    expect(await endRuns()).toBe(0);

    const [run] = await listRuns(keeper);
    expect(run).toMatchObject({ state: 'ended', counts: { destroyed: 2, held: 1 } });
    const certificate = await docketOf(keeper, { documentId: run?.certificateId ?? '' });
    expect(certificate).toMatchObject({ stamp: 'PDF', homeId: office });
    await inFolder(async (folderPath) => {
      const file = path.join(folderPath, 'certificate.pdf');
      await writeFile(file, await bytesOf(keeper, certificate.id));
      const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
      expect(text).toContain('Certificate of destruction');
      expect(text).toContain('Kit Second');
      expect(text).toContain('Tax law, s. 21');
    });
    const list = await openView(keeper, { ...plainQuestion, placeId: office, below: true });
    const csvId = list.rows.find(({ stamp }) => stamp === 'SHEET')?.id ?? '';
    const csv = await bytesOf(keeper, csvId);
    const { data, errors } = Papa.parse<Record<string, string>>(csv.toString().trimEnd(), { header: true });
    expect(errors).toEqual([]);
    // Both versions of the one, and the one of the other, by their hashes.
    expect(data.map((row) => [row['Class'], row['Version'], row['SHA-256']?.length])).toEqual([
      ['Old invoices', '1', 64],
      ['Old invoices', '2', 64],
      ['Old invoices', '1', 64],
    ]);
    await liftHold(keeper, { holdId, reason: 'Over', revision: 0 });
  }, 120_000);

  it('leaves out what somebody says, what is locked, changed or put back meanwhile; and ends without a certificate where nothing went', async () => {
    const [left, locked, changed, back] = [
      await paperOn('2020-01-01', null, folder),
      await paperOn('2020-01-02', null, folder),
      await paperOn('2020-01-03', null, folder),
      await paperOn('2020-01-04', null, folder),
    ];
    const [stays] = (
      await openView(keeper, {
        ...plainQuestion,
        placeId: folder,
        below: true,
        conditions: [{ of: 'keptUntil', span: { is: 'before-today' } }],
      })
    ).rows
      .map(({ id }) => id)
      .filter((id) => ![left, locked, changed, back].includes(id));
    const runId = await prepared(left, locked, changed, back, ...(stays ? [stays] : []));
    const out = (reason: string, ids: readonly string[] = [left, ...(stays ? [stays] : [])]) =>
      leaveOut(keeper, { runId, documentIds: [...ids], out: true, reason });
    expect(await refusedAs(out(''))).toBe('invalid');
    await out('Still of use');
    await leaveOut(keeper, { runId, documentIds: [left], out: false, reason: '' });
    await out('Of use after all', [left]);
    await setLock(keeper, { documentIds: [locked], locked: true });
    const longer = await made({ name: 'Longer', months: 1200 });
    const elsewhere = (await createFolder(keeper, { parentId: dossier, name: 'Kept longer' })).id;
    await give(longer, elsewhere);
    await movePapers(keeper, { documentIds: [changed], toId: elsewhere });
    // Closed dossiers are what schedules are for.
    await setStandstill(keeper, { placeId: dossier, closed: true, locked: false, reason: 'Over', revision: 0 });
    const { revision } = await openRun(keeper, { runId, states: [], most: 1 });
    expect(await approveRun(other, { runId, revision })).toEqual({ disposed: 1, kept: 2 });
    expect(await stateOf(runId, left)).toMatchObject({ state: 'leftOut', reason: 'Of use after all' });
    expect(await stateOf(runId, locked)).toMatchObject({ state: 'refused', reason: 'locked' });
    expect(await stateOf(runId, changed)).toMatchObject({
      state: 'refused',
      reason: expect.stringMatching(/^kept until/u) as unknown,
    });
    await putBackPapers(keeper, { documentIds: [back], toId: office });
    expect(await stateOf(runId, back)).toMatchObject({ state: 'putBack' });
    expect(await endRuns()).toBe(1);
    expect((await listRuns(keeper))[0]).toMatchObject({ state: 'ended', certificateId: null });
    await setStandstill(keeper, { placeId: dossier, closed: false, locked: false, reason: 'Again', revision: 1 });
  }, 60_000);

  it('is abandoned while it waits, and its papers are free for another', async () => {
    const id = await paperOn('2020-01-01', null, folder);
    const { runId } = await prepareRun(keeper, { classIds: [classId], placeId: office, note: '' });
    expect(await refusedAs(abandonRun(reader, { runId, revision: 0 }))).toBe('not-allowed');
    await abandonRun(keeper, { runId, revision: 0 });
    expect(await refusedAs(approveRun(other, { runId, revision: 1 }))).toBe('conflict');
    // Of two who prepare at once one has the papers.
    const both = await Promise.allSettled(
      [keeper, other].map((who) => prepareRun(who, { classIds: [classId], placeId: office, note: '' })),
    );
    const done = both.flatMap((each) => (each.status === 'fulfilled' ? [each.value.runId] : []));
    expect(done).toHaveLength(1);
    await abandonRun(keeper, { runId: done[0] ?? '', revision: 0 });
    const again = await prepareRun(other, { classIds: [classId], placeId: office, note: '' });
    expect(
      (await openRun(other, { runId: again.runId, states: [], most: 100 })).items.map((item) => item.documentId),
    ).toContain(id);
    await abandonRun(other, { runId: again.runId, revision: 0 });
  });
});
