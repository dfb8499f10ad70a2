import { eq } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import { impactInWords } from '@/core/access/impactWords';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { accessSheet } from '@/server/access/sheet';
import { forecastStandstill, setLock, setStandstill } from '@/server/standstill/standstill';
import { defineColumn } from '@/server/columns/define';
import { setCells, setValues } from '@/server/columns/setValues';
import { db } from '@/server/db/client';
import { document, place } from '@/server/db/schema';
import { disposePapers } from '@/server/disposal/dispose';
import { movePapers, renamePaper, setRemark } from '@/server/documents/amend';
import { contentFor, currentOf } from '@/server/documents/content';
import { docketOf } from '@/server/documents/docket';
import { journalOf } from '@/server/journal/read';
import { renamePlace } from '@/server/places/amend';
import { createFolder } from '@/server/places/create';
import { movePlace } from '@/server/places/move';
import { openPlace } from '@/server/places/open';
import { startUpload } from '@/server/uploads/start';
import { dropLibrary, freshLibrary, furnished, newcomer, open, refusedAs } from '../library';
import { placeOn, say } from '../sheets';

let keeper: Actor;
let officer: Actor;
let manager: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let folder: string;
let paper: string;
let column: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  officer = await newcomer(keeper, 'Off Icer');
  manager = await newcomer(keeper, 'Man Ager');
  home = await furnished(keeper);
  folder = (await createFolder(keeper, { parentId: home.year.id, name: 'July' })).id;
  paper = await fileBuffer(keeper, folder, 'Minutes.txt', Buffer.from('Minutes\n'));
  column = (await defineColumn(keeper, { ...plainFields, placeId: home.series.id, name: 'Remark', type: 'text' })).id;
  await say(keeper, placeOn(home.series.id), [
    { who: officer, gives: ['see', 'take', 'add', 'amend'] },
    { who: manager, gives: ['manage'] },
  ]);
});
afterAll(dropLibrary);

const revisionOf = async (documentId: string): Promise<number> => {
  const [row] = await db().select({ revision: document.revision }).from(document).where(eq(document.id, documentId));
  return row?.revision ?? 0;
};
const placeRevision = async (placeId: string): Promise<number> => {
  const [row] = await db().select({ revision: place.revision }).from(place).where(eq(place.id, placeId));
  return row?.revision ?? 0;
};
const still = async (who: Actor, placeId: string, more: { locked?: boolean; closed?: boolean; reason?: string }) =>
  setStandstill(who, {
    placeId,
    locked: false,
    closed: false,
    reason: '',
    ...more,
    revision: await placeRevision(placeId),
  });

/** What becomes of every way to change a paper. */
const changes = async (who: Actor, documentId: string) => ({
  rename: await refusedAs(renamePaper(who, { documentId, title: 'Other', revision: await revisionOf(documentId) })),
  remark: await refusedAs(setRemark(who, { documentId, remark: 'x', revision: await revisionOf(documentId) })),
  values: await refusedAs(setValues(who, { documentIds: [documentId], values: { [column]: 'x' } })),
  move: await refusedAs(movePapers(who, { documentIds: [documentId], toId: home.year.id })),
  dispose: await refusedAs(disposePapers(who, { documentIds: [documentId] })),
});
const all = (kind: string) => ({ rename: kind, remark: kind, values: kind, move: kind, dispose: kind });

describe('a locked paper', () => {
  it('is not changed, renamed, moved or disposed of, by keepers neither, until a manager unlocks it', async () => {
    expect(await refusedAs(setLock(officer, { documentIds: [paper], locked: true }))).toBe('not-allowed');
    expect(await setLock(manager, { documentIds: [paper], locked: true })).toEqual({ turned: [paper] });
    expect(await setLock(manager, { documentIds: [paper], locked: true })).toEqual({ turned: [] });
    expect(await changes(keeper, paper)).toEqual(all('locked'));
    expect({ ...(await changes(officer, paper)), move: 'locked' }).toEqual(all('locked'));
    const { capabilities, still: by } = await docketOf(officer, { documentId: paper });
    expect([capabilities, by]).toEqual([['see', 'take', 'add'], 'locked']);
    expect((await contentFor(officer, currentOf(paper), 'take')).fileName).toBe('Minutes.txt');
    const { outcomes } = await setCells(officer, { cells: [{ documentId: paper, columnId: column, text: 'x' }] });
    expect(outcomes.map((outcome) => outcome.state)).toEqual(['refused']);
    await setLock(manager, { documentIds: [paper], locked: false });
    expect(
      await refusedAs(setRemark(officer, { documentId: paper, remark: 'y', revision: await revisionOf(paper) })),
    ).toBe('done');
    const words = (await journalOf(officer, { subject: 'document', id: paper, before: null })).map(
      (line) => line.words,
    );
    expect(words.slice(1, 3)).toEqual(['unlocked “Minutes”', 'locked “Minutes”']);
  });

  it('still has its sheet changed by who manages it: that is no change to the paper', async () => {
    await setLock(manager, { documentIds: [paper], locked: true });
    expect(await refusedAs(accessSheet(manager, { on: { kind: 'paper', id: paper } }))).toBe('done');
    await setLock(manager, { documentIds: [paper], locked: false });
  });
});

describe('a locked place', () => {
  it('takes papers in and lets none be changed, here and below; it is not renamed or moved itself', async () => {
    await still(manager, home.year.id, { locked: true });
    expect(await changes(keeper, paper)).toEqual(all('locked'));
    expect((await docketOf(officer, { documentId: paper })).still).toBe('lockedPlace');
    expect((await openPlace(officer, { placeId: folder })).stillAbove).toEqual({ closed: false, locked: true });
    expect(
      await refusedAs(renamePlace(keeper, { placeId: folder, name: 'August', revision: await placeRevision(folder) })),
    ).toBe('locked');
    expect(await refusedAs(movePlace(keeper, { placeId: folder, toId: home.dossier.id }))).toBe('locked');
    expect(await refusedAs(fileBuffer(officer, folder, 'Later.txt', Buffer.from('Later\n')))).toBe('done');
    expect(await refusedAs(still(manager, home.year.id, {}))).toBe('invalid');
    await still(manager, home.year.id, { reason: 'Put right by the auditor.' });
    const [line] = await journalOf(manager, { subject: 'place', id: home.year.id, before: null });
    expect(line?.words).toBe('unlocked “2026–27”: Put right by the auditor.');
  });
});

describe('a closed place', () => {
  it('takes nothing in and lets nothing be changed, also in what stands alone below; reopening needs a reason', async () => {
    const alone = (await createFolder(keeper, { parentId: folder, name: 'Alone' })).id;
    await say(keeper, placeOn(alone), [{ who: officer, gives: ['add', 'amend'] }], false);
    await still(manager, home.year.id, { closed: true });
    expect(await changes(keeper, paper)).toEqual(all('closed-place'));
    for (const placeId of [folder, alone])
      expect(await refusedAs(startUpload(officer, crypto.randomUUID(), 4, { placeId, fileName: 'x.txt' }))).toBe(
        'closed-place',
      );
    expect((await openPlace(officer, { placeId: alone })).capabilities).toEqual(['see']);
    expect(await refusedAs(still(officer, home.year.id, { reason: 'Mine' }))).toBe('not-allowed');
    expect(await refusedAs(still(manager, home.year.id, { reason: '' }))).toBe('invalid');
    await still(manager, home.year.id, { reason: 'One paper was missing.' });
    expect(await refusedAs(fileBuffer(officer, alone, 'Now.txt', Buffer.from('Now\n')))).toBe('done');
  });

  it('two who decide at once do not both win', async () => {
    const revision = await placeRevision(folder);
    const both = await Promise.all(
      [keeper, manager].map((who) =>
        refusedAs(setStandstill(who, { placeId: folder, locked: true, closed: false, reason: 'x', revision })),
      ),
    );
    expect(both.sort()).toEqual(['conflict', 'done']);
    await still(keeper, folder, { reason: 'x' });
  });
});

describe('what it would stop', () => {
  const said = async (
    on: Parameters<typeof forecastStandstill>[1]['on'],
    wanted: { locked: boolean; closed: boolean },
  ) =>
    (await forecastStandstill(manager, { on, ...wanted })).map((line) => `${line.names.join()} ${impactInWords(line)}`);

  it('is said before, to the papers that are not stopped already', async () => {
    const inner = await fileBuffer(keeper, folder, 'Inner.txt', Buffer.from('Inner\n'));
    const count = await db().$count(document, eq(document.homeId, folder));
    expect(await said({ kind: 'paper', id: inner }, { locked: true, closed: false })).toEqual([
      'Man Ager,Off Icer may no longer amend (1 paper)',
    ]);
    await setLock(manager, { documentIds: [inner], locked: true });
    expect(await said({ kind: 'place', id: folder }, { locked: true, closed: false })).toEqual([
      `Man Ager,Off Icer may no longer amend (${count - 1} papers)`,
    ]);
    expect(await said({ kind: 'paper', id: inner }, { locked: true, closed: false })).toEqual([]);
    await open(keeper, home.dossier.id, officer, 'officer');
    await still(manager, home.dossier.id, { closed: true });
    expect(await said({ kind: 'place', id: folder }, { locked: true, closed: true })).toEqual([]);
    await still(manager, home.dossier.id, { reason: 'x' });
  });
});
