import { eq, sql } from 'drizzle-orm';
import { plainView, type ViewSpec } from '@/core/views/spec';
import { readCsv, writeCsv } from '@/core/interchange/block';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { atMoment } from '@/server/base/clock';
import { retireColumn } from '@/server/columns/define';
import { setValues } from '@/server/columns/setValues';
import { writableDb } from '@/server/db/client';
import { columnDef, journal, view } from '@/server/db/schema';
import { reorderPapers } from '@/server/documents/reorder';
import { journalOf } from '@/server/journal/read';
import { createGroup, removeGroup, setActive } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { viewTable } from '@/server/views/download';
import { lookAtPlace } from '@/server/views/look';
import { crossTable } from '@/server/views/open';
import { changeView, removeView, reorderView, saveView, viewsAt } from '@/server/views/saved';
import { dropLibrary, newcomer, open } from '../library';
import {
  beginViewing,
  keeper,
  auditor,
  reader,
  home,
  auditors,
  remark,
  fields,
  refusedAs,
  namesAt,
  titles,
  folder,
} from './viewing';

beforeAll(beginViewing);
afterAll(dropLibrary);

describe('a saved view', () => {
  it('is seen by whom it is for, on its place and all below, and by nobody else', async () => {
    const { id: placeId } = home.dossier;
    await saveView(keeper, { ...fields, placeId, name: 'Mine', audience: 'me' });
    await saveView(keeper, { ...fields, placeId, name: 'Ours', audience: 'groups', groupIds: [auditors] });
    await saveView(keeper, { ...fields, placeId, name: 'Everyone’s' });
    await saveView(reader, { ...fields, placeId, name: 'A reader’s own', audience: 'me' });
    expect(await namesAt(keeper, home.year.id)).toEqual(['Mine', 'Ours', 'Everyone’s']);
    expect(await namesAt(auditor, home.year.id)).toEqual(['Ours', 'Everyone’s']);
    expect(await namesAt(reader, home.year.id)).toEqual(['Everyone’s', 'A reader’s own']);
    expect(await namesAt(keeper, home.series.id)).toEqual([]);
    const later = await createFolder(keeper, { parentId: home.dossier.id, name: 'Made later' });
    expect(await namesAt(auditor, later.id)).toEqual(['Ours', 'Everyone’s']);
    const { views } = await viewsAt(keeper, { placeId });
    // The names of views that are not for all stay out of the place's journal.
    const told = JSON.stringify(await journalOf(reader, { subject: 'place', id: placeId, before: null }));
    expect(told).toContain('Everyone’s');
    expect(told).not.toMatch(/Mine|Ours|own/u);
    expect(views.map(({ name, others }) => [name, others])).toEqual([
      ['Mine', 0],
      ['Ours', 1],
      ['Everyone’s', 2],
    ]);
  });

  it('is saved for others only by who manages the place, and for at least one group that is there', async () => {
    const placeId = home.dossier.id;
    expect(await refusedAs(saveView(reader, { ...fields, placeId }))).toBe('not-allowed');
    expect(await refusedAs(saveView(keeper, { ...fields, placeId, audience: 'groups' }))).toBe('invalid');
    const { id: gone } = await createGroup(keeper, { name: 'Gone' });
    await removeGroup(keeper, { groupId: gone });
    expect(await refusedAs(saveView(keeper, { ...fields, placeId, audience: 'groups', groupIds: [gone] }))).toBe(
      'gone',
    );
    expect((await viewsAt(reader, { placeId })).mayShare).toBe(false);
    expect((await viewsAt(keeper, { placeId })).mayShare).toBe(true);
  });

  it('is changed under the revision that was seen, by its owner or who manages the place', async () => {
    const place = await folder('Changing');
    const { id: viewId } = await saveView(keeper, { ...fields, placeId: place.id });
    expect(await refusedAs(changeView(reader, { ...fields, viewId, revision: 0 }))).toBe('not-allowed');
    const spec: ViewSpec = { ...plainView, below: true };
    await changeView(keeper, { ...fields, viewId, revision: 0, name: 'Renamed', spec });
    expect(await refusedAs(changeView(keeper, { ...fields, viewId, revision: 0 }))).toBe('conflict');
    expect(await refusedAs(removeView(keeper, { viewId, revision: 0 }))).toBe('conflict');
    expect((await viewsAt(reader, { placeId: place.id })).views[0]).toMatchObject({
      name: 'Renamed',
      spec: { below: true },
      mayChange: false,
    });
    await removeView(keeper, { viewId, revision: 1 });
    expect(await refusedAs(removeView(keeper, { viewId, revision: 1 }))).toBe('not-found');
    const [last] = await writableDb()
      .select({ act: journal.act })
      .from(journal)
      .orderBy(sql`id desc`)
      .limit(1);
    expect(last?.act).toBe('view.removed');
  });

  it('opens by itself where it says so: the nearest, one’s own first; only one of each audience', async () => {
    const place = await folder('Opening');
    const opens = async (who: Actor) => {
      const { views, opensId } = await viewsAt(who, { placeId: place.id });
      return views.find((each) => each.id === opensId)?.name;
    };
    expect(await opens(reader)).toBeUndefined();
    await saveView(keeper, { ...fields, placeId: home.series.id, name: 'Far', opensHere: true });
    expect([await opens(reader), await opens(keeper)]).toEqual(['Far', 'Far']);
    await saveView(keeper, { ...fields, placeId: place.id, name: 'Near', opensHere: true });
    await saveView(reader, { ...fields, placeId: place.id, name: 'Own', audience: 'me', opensHere: true });
    expect([await opens(reader), await opens(keeper)]).toEqual(['Own', 'Near']);
    await saveView(keeper, { ...fields, placeId: place.id, name: 'Nearer', opensHere: true });
    expect([await opens(reader), await opens(keeper)]).toEqual(['Own', 'Nearer']);
  });

  it('has its tab where it was put', async () => {
    const place = await folder('Tabs');
    const ids = [];
    for (const name of ['One', 'Two', 'Three'])
      ids.push((await saveView(keeper, { ...fields, placeId: place.id, name })).id);
    const [one = '', , three = ''] = ids;
    await reorderView(keeper, { viewId: three, beforeId: one });
    expect((await namesAt(keeper, place.id)).slice(0, 3)).toEqual(['Three', 'One', 'Two']);
    await reorderView(keeper, { viewId: three, beforeId: null });
    expect((await namesAt(keeper, place.id)).slice(0, 3)).toEqual(['One', 'Two', 'Three']);
    expect(await refusedAs(reorderView(reader, { viewId: three, beforeId: null }))).toBe('not-allowed');
    expect(await refusedAs(reorderView(keeper, { viewId: three, beforeId: crypto.randomUUID() }))).toBe('conflict');
  });

  it('stays when its owner leaves, for who manages the place to look after', async () => {
    const place = await folder('Left behind');
    const leaver = await newcomer(keeper, 'Lea Ver');
    await open(keeper, place.id, leaver, 'manager');
    const { id: viewId } = await saveView(leaver, { ...fields, placeId: place.id, name: 'Left' });
    await setActive(keeper, { personId: leaver.personId, active: false });
    expect((await viewsAt(keeper, { placeId: place.id })).views.find((each) => each.id === viewId)).toMatchObject({
      name: 'Left',
      mayChange: true,
      ownerName: 'Lea Ver',
    });
    await changeView(keeper, { ...fields, viewId, revision: 0, name: 'Taken over' });
  });

  it('survives what an older or a broken version wrote: the plain ledger stands in', async () => {
    const place = await folder('Broken');
    const { id } = await saveView(keeper, { ...fields, placeId: place.id, name: 'Broken' });
    await writableDb()
      .update(view)
      .set({ spec: { layout: 'of another time' } as unknown as ViewSpec })
      .where(eq(view.id, id));
    expect((await viewsAt(keeper, { placeId: place.id })).views[0]).toMatchObject({ name: 'Broken', spec: plainView });
  });
});

describe('a column that a view speaks of', () => {
  it('may be renamed; once retired, what asks for it is refused with a word, and answered again when it is back', async () => {
    const place = await folder('Retiring', ['One', 'Two']);
    await setValues(keeper, { documentIds: place.ids.slice(0, 1), values: { [remark]: 'north' } });
    const ask = () => titles(keeper, place.id, { conditions: [{ of: remark, anyOf: ['north'] }] });
    expect(await ask()).toEqual(['One']);
    const revision = async () =>
      (await writableDb().select({ revision: columnDef.revision }).from(columnDef).where(eq(columnDef.id, remark)))[0]
        ?.revision ?? 0;
    await retireColumn(keeper, { columnId: remark, retired: true, revision: await revision() });
    expect(await refusedAs(ask())).toBe('gone');
    expect(await refusedAs(titles(keeper, place.id, { sorts: [{ of: remark, direction: 'up' }] }))).toBe('gone');
    await retireColumn(keeper, { columnId: remark, retired: false, revision: await revision() });
    expect(await ask()).toEqual(['One']);
  });
});

describe('the order that people drag papers into', () => {
  it('holds for everyone, and is one of the sorts', async () => {
    const place = await folder('Ordered', ['A', 'B', 'C', 'D']);
    const [a = '', b = '', c = '', d = ''] = place.ids;
    const order = () => titles(reader, place.id, { sorts: [{ of: 'order', direction: 'up' }] });
    expect(await order()).toEqual(['A', 'B', 'C', 'D']);
    await reorderPapers(keeper, { documentIds: [d, c], beforeId: b });
    expect(await order()).toEqual(['A', 'D', 'C', 'B']);
    await reorderPapers(keeper, { documentIds: [a], beforeId: null });
    expect(await order()).toEqual(['D', 'C', 'B', 'A']);
    // Halving the room between two neighbours again and again runs out, and is counted through then.
    for (let times = 0; times < 70; times += 1)
      await reorderPapers(keeper, { documentIds: [times % 2 === 0 ? a : b], beforeId: c });
    expect((await order()).slice(-1)).toEqual(['C']);
    expect(await refusedAs(reorderPapers(reader, { documentIds: [a], beforeId: null }))).toBe('not-allowed');
    expect(await refusedAs(reorderPapers(keeper, { documentIds: [a], beforeId: crypto.randomUUID() }))).toBe(
      'not-found',
    );
    const elsewhere = await folder('Elsewhere', ['E']);
    expect(await refusedAs(reorderPapers(keeper, { documentIds: [a, elsewhere.ids[0] ?? ''], beforeId: null }))).toBe(
      'invalid',
    );
  });
});

describe('since I last looked', () => {
  it('speaks of the look before this one, which half an hour makes', async () => {
    const place = await folder('Looked at');
    const at = (minutes: number) => new Date(Date.UTC(2026, 10, 1, 9, minutes));
    const fresh = (minutes: number) =>
      atMoment(at(minutes), () =>
        titles(reader, place.id, { conditions: [{ of: 'changedAt', span: { is: 'since-look' } }] }),
      );
    const file = (title: string, minutes: number) =>
      atMoment(at(minutes), () => fileBuffer(keeper, place.id, `${title}.txt`, Buffer.from(`${title} ${minutes}\n`)));
    await file('Before', 0);
    expect(await fresh(1)).toEqual(['Before']);
    await atMoment(at(5), () => lookAtPlace(reader, { placeId: place.id }));
    expect(await fresh(6)).toEqual(['Before']);
    await file('After', 20);
    await atMoment(at(40), () => lookAtPlace(reader, { placeId: place.id }));
    expect(await fresh(41)).toEqual(['After']);
    // Coming back within the half hour is the same look.
    await atMoment(at(45), () => lookAtPlace(reader, { placeId: place.id }));
    expect(await fresh(46)).toEqual(['After']);
    expect(await refusedAs(lookAtPlace(reader, { placeId: crypto.randomUUID() }))).toBe('not-found');
  });
});

describe('a cross-table, and a view taken away', () => {
  it('count what each person may see, and agree with one another', async () => {
    const place = await folder('Crossed', ['One', 'Two', 'Three']);
    await setValues(keeper, { documentIds: place.ids.slice(0, 2), values: { [remark]: '=cmd()' } });
    const down = { of: remark, by: 'value', order: 'own', direction: 'up' } as const;
    const across = { of: 'kind', by: 'value', order: 'own', direction: 'up' } as const;
    const slice = { placeId: place.id, below: true, filter: '', conditions: [] };
    const table = await crossTable(reader, { ...slice, down, across, measures: [] });
    expect(
      table.rows.map((row) => [row.name, row.totals.papers, row.groups.map((cell) => cell.totals.papers)]),
    ).toEqual([
      ['=cmd()', 2, [2]],
      ['No remark', 1, [1]],
    ]);
    expect(table.heads.map((head) => [head.name, head.totals.papers])).toEqual([['TEXT', 3]]);
    const { rows } = await viewTable(reader, {
      ...slice,
      groupings: [down],
      sorts: [],
      columns: ['kind', remark, 'place'],
    });
    expect(rows).toEqual([
      ['Remark', 'Title', 'Kind', 'Remark', 'Place'],
      ['=cmd()', 'One', 'TEXT', '=cmd()', 'Finance, Crossed'],
      ['=cmd()', 'Two', 'TEXT', '=cmd()', 'Finance, Crossed'],
      ['No remark', 'Three', 'TEXT', '', 'Finance, Crossed'],
    ]);
    // What a spreadsheet would run is text in the file, and the same again when it is read.
    expect(writeCsv(rows)).toContain("'=cmd()");
    expect(readCsv(writeCsv(rows))).toEqual(rows);
  });
});
