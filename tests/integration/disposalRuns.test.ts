import { execFileSync } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import Papa from 'papaparse';
import { fileBuffer } from '@/demo/file';
import { atMoment } from '@/server/base/clock';
import { inFolder } from '@/server/cage/file';
import { destroyExpired } from '@/server/disposal/destroy';
import { putBackPapers } from '@/server/disposal/dispose';
import { disposedPapers } from '@/server/disposal/list';
import { movePapers } from '@/server/documents/amend';
import { docketOf } from '@/server/documents/docket';
import { liftHold, placeHold } from '@/server/holds/holds';
import { createFolder, createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { endRuns } from '@/server/retention/certificate';
import { abandonRun, approveRun, destroyRun, leaveOut, prepareRun } from '@/server/retention/run';
import { listRuns, openRun } from '@/server/retention/runs';
import { setLock, setStandstill } from '@/server/standstill/standstill';
import { openView } from '@/server/views/open';
import { dropLibrary, plainQuestion, refusedAs } from '../library';
import { bytesOf } from './sending';
import {
  beginKeeping,
  keeper,
  other,
  reader,
  home,
  office,
  paperOn,
  at,
  made,
  give,
  isThere,
  plainOn,
} from './keepingPapers';

beforeAll(beginKeeping);
afterAll(dropLibrary);

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
    expect(await destroyRun(other, { runId, papers: 2 })).toEqual({ destroyed: 1, kept: 1 });
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
  });

  it('goes on without what was held when it was prepared, and without what is locked since', async () => {
    const series = (await createSeries(keeper, { name: 'Apart', referencePattern: null })).id;
    const dossierId = (await createDossier(keeper, { seriesId: series, name: 'Held and locked', reference: null })).id;
    const own = await made({ name: 'Apart', months: 12 });
    await give(own, series);
    const [held, listed] = [await paperOn('2020-01-01', null, dossierId), await paperOn('2020-01-02', null, dossierId)];
    const { holdId } = await placeHold(keeper, {
      name: 'Short',
      reason: 'Y',
      on: { ...plainOn, documentIds: [held] },
    });
    const { runId } = await prepareRun(keeper, { classIds: [own], placeId: office, note: '' });
    // Whoever approves agrees to what is listed; that a hold is lifted meanwhile adds nothing to it.
    await liftHold(keeper, { holdId, reason: 'Z', revision: 0 });
    expect(await approveRun(other, { runId, revision: 0 })).toEqual({ disposed: 1, kept: 0 });
    expect(await stateOf(runId, held)).toMatchObject({ state: 'held' });
    const still = (locked: boolean, revision: number) =>
      setStandstill(keeper, { placeId: dossierId, closed: false, locked, reason: 'W', revision });
    await still(true, 0);
    expect(await destroyRun(other, { runId, papers: 1 })).toEqual({ destroyed: 0, kept: 1 });
    expect(await atMoment(new Date('2090-01-01'), destroyExpired)).toBe(0);
    await still(false, 1);
    expect(await destroyRun(other, { runId, papers: 1 })).toEqual({ destroyed: 1, kept: 0 });
    expect([await isThere(held), await isThere(listed)]).toEqual([true, false]);
    expect(await endRuns()).toBe(1);
    // It is free for the next.
    const again = await prepareRun(keeper, { classIds: [own], placeId: office, note: '' });
    expect(again.papers).toBe(1);
    await abandonRun(keeper, { runId: again.runId, revision: 0 });
  });

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
  });

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
