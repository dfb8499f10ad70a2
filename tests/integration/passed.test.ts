import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { undoAccess, withdrawAccess } from '@/server/access/change';
import { markPassed, passedByMe, passedToMe } from '@/server/access/passed';
import { disposePapers } from '@/server/disposal/dispose';
import { valuesTable } from '@/server/interchange/table';
import { notCopiable } from '@/server/documents/content';
import { createGroup, changeGroup } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { viewTable } from '@/server/views/download';
import { dropLibrary, freshLibrary, furnished, inGroup, newcomer, refusedAs } from '../library';
import { paperOn, placeOn, say, sees } from '../sheets';

let keeper: Actor;
let ann: Actor;
let bob: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let report: string;
let folder: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  ann = await newcomer(keeper, 'Ann Ager');
  bob = await newcomer(keeper, 'Bob Eker');
  home = await furnished(keeper);
  folder = (await createFolder(keeper, { parentId: home.year.id, name: 'July' })).id;
  report = await fileBuffer(keeper, folder, 'Report.txt', Buffer.from('Report\n'));
  await say(keeper, placeOn(home.dossier.id), [{ who: ann, gives: ['manage'] }]);
});
afterAll(dropLibrary);

const names = async (who: Actor) => (await passedToMe(who)).map((row) => row.name);

describe('what was opened to someone by name', () => {
  it('is in their list, with who opened it, and where they may know that', async () => {
    await say(ann, paperOn(report), [{ who: bob, gives: ['see', 'take'] }]);
    const [row, ...others] = await passedToMe(bob);
    expect(others).toEqual([]);
    expect(row).toMatchObject({
      on: paperOn(report),
      name: 'Report',
      where: { id: folder, name: 'Finance, July' },
      by: 'Ann Ager',
      set: 3,
      seen: false,
    });
  });

  it('is not there by way of a group, nor what they opened to themselves, nor what they may no longer see', async () => {
    const group = await createGroup(keeper, { name: 'Readers' });
    await changeGroup(keeper, { groupId: group.id, name: 'Readers', terms: inGroup(bob), revision: 0 });
    await say(keeper, placeOn(home.year.id), [{ who: { groupId: group.id }, gives: ['see'] }]);
    expect(await names(bob)).toEqual(['Report']);
    await say(ann, paperOn(report), [
      { who: bob, gives: ['see', 'take'] },
      { who: ann, gives: ['manage'] },
    ]);
    expect(await names(ann)).toEqual(['Finance']);
    const gone = await fileBuffer(keeper, folder, 'Gone.txt', Buffer.from('Gone\n'));
    await say(ann, paperOn(gone), [{ who: bob, gives: ['see'] }]);
    expect((await names(bob)).sort()).toEqual(['Gone', 'Report']);
    await disposePapers(keeper, { documentIds: [gone] });
    expect(await names(bob)).toEqual(['Report']);
  });

  it('is marked as seen and taken out by them alone, and comes back when it is opened anew', async () => {
    await markPassed(bob, { on: [paperOn(report)], as: 'seen' });
    expect((await passedToMe(bob)).map((row) => row.seen)).toEqual([true]);
    await markPassed(bob, { on: [paperOn(report)], as: 'takenOut' });
    expect(await names(bob)).toEqual([]);
    expect(await sees(bob, report)).toBe(true);
    await markPassed(bob, { on: [paperOn(report)], as: 'back' });
    expect(await names(bob)).toEqual(['Report']);
    await markPassed(bob, { on: [paperOn(report)], as: 'takenOut' });
    await say(ann, paperOn(report), [{ who: bob, gives: ['see', 'take', 'amend'] }]);
    expect((await passedToMe(bob)).map((row) => [row.name, row.seen])).toEqual([['Report', false]]);
    expect(
      await refusedAs(
        markPassed(
          { ...bob, seenBy: { personId: '', name: '', scopes: new Map(), byOpening: new Set() } },
          { on: [paperOn(report)], as: 'seen' },
        ),
      ),
    ).toBe('not-allowed');
  });
});

describe('what someone opened to others', () => {
  it('is listed for them, and taken back at once; the taking back can be undone', async () => {
    const opened = await passedByMe(ann);
    expect(opened.map((row) => [row.name, row.to, row.mayWithdraw])).toEqual([['Report', 'Bob Eker', true]]);
    const [row] = opened;
    if (!row) throw new Error('Nothing was opened');
    await say(keeper, placeOn(home.year.id), []);
    expect(await refusedAs(withdrawAccess(bob, { on: row.on, subject: row.subject }))).toBe('not-allowed');
    const { entryId } = await withdrawAccess(ann, { on: row.on, subject: row.subject });
    expect(await sees(bob, report)).toBe(false);
    expect(await passedByMe(ann)).toEqual([]);
    expect(await refusedAs(withdrawAccess(ann, { on: row.on, subject: row.subject }))).toBe('not-found');
    await undoAccess(ann, { entryId });
    expect(await sees(bob, report)).toBe(true);
  });
});

describe('who may see and not take copies', () => {
  const view = { below: true, filter: '', conditions: [], groupings: [], sorts: [], columns: ['kind'] };

  it('gets no list of such papers out of the library, and of others one that says what it leaves out', async () => {
    const open = await fileBuffer(keeper, home.year.id, 'Open.txt', Buffer.from('Open\n'));
    await say(keeper, placeOn(home.year.id), [{ who: bob, gives: ['see', 'take'] }]);
    await say(keeper, placeOn(folder), [{ who: bob, withholds: ['take'] }]);
    await say(keeper, paperOn(report), []);
    const { rows, leftOut } = await viewTable(bob, { ...view, placeId: home.year.id });
    expect([rows.map((row) => row[0]), leftOut]).toEqual([['Title', 'Open'], 1]);
    expect(await refusedAs(viewTable(bob, { ...view, placeId: folder }))).toBe('not-allowed');
    const table = await valuesTable(bob, home.year.id, undefined, []);
    expect(table.rows.flat().join()).not.toContain('Report');
    expect(table.name).toContain('without 1 paper that may not be copied');
    expect(await refusedAs(valuesTable(bob, folder, undefined, []))).toBe('not-allowed');
    expect(await notCopiable(bob, { documentIds: [report, open, crypto.randomUUID()] })).toEqual([report]);
  });
});
