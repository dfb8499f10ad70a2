import { eq, sql } from 'drizzle-orm';
import { Client } from 'pg';
import { plainFields } from '@/core/columns/contract';
import { Refusal } from '@/core/errors/refusal';
import { plainView, type ViewSpec } from '@/core/views/spec';
import type { SavedView } from '@/core/views/saved';
import { readCsv, writeCsv } from '@/core/interchange/block';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { atMoment } from '@/server/base/clock';
import { defineColumn, retireColumn } from '@/server/columns/define';
import { setValues } from '@/server/columns/setValues';
import { writableDb } from '@/server/db/client';
import { columnDef, document, journal, tallyChange, view } from '@/server/db/schema';
import { disposePapers, movePapers, putBackPapers, renamePaper } from '@/server/documents/amend';
import { reorderPapers } from '@/server/documents/reorder';
import { createLabel, putLabel } from '@/server/labels/labels';
import { journalOf } from '@/server/journal/read';
import { listenFor } from '@/server/live/hub';
import { changeGroup, createGroup, removeGroup, setActive } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { viewTable } from '@/server/views/download';
import { lookAtPlace } from '@/server/views/look';
import { crossTable, openView } from '@/server/views/open';
import { changeView, removeView, reorderView, saveView, viewsAt } from '@/server/views/saved';
import { sweepChanges } from '@/server/tally/sweep';
import { dropLibrary, freshLibrary, furnished, inGroup, newcomer, open, plainQuestion } from '../library';

let keeper: Actor;
let auditor: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let auditors: string;
let remark: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  auditor = await newcomer(keeper, 'Sunniva Dale');
  reader = await newcomer(keeper, 'Rea Der');
  home = await furnished(keeper);
  for (const who of [auditor, reader]) await openAlso(who);
  auditors = (await createGroup(keeper, { name: 'Auditors' })).id;
  await changeGroup(keeper, { groupId: auditors, name: 'Auditors', terms: inGroup(auditor), revision: 0 });
  remark = (await defineColumn(keeper, { ...plainFields, placeId: home.series.id, name: 'Remark', type: 'text' })).id;
});
afterAll(dropLibrary);

/** Opens the dossier to one more reader; each has a series of steps of their own on the way. */
async function openAlso(who: Actor): Promise<void> {
  if (who === auditor) await open(keeper, home.dossier.id, who, 'reader');
  else await open(keeper, home.series.id, who, 'reader');
}

const fields = {
  name: 'For the auditor',
  purpose: '',
  audience: 'all' as SavedView['audience'],
  groupIds: [] as string[],
  opensHere: false,
  spec: plainView,
};
const refusedAs = (asked: Promise<unknown>): Promise<string> =>
  asked.then(
    () => 'answered',
    (error: unknown) => (error instanceof Refusal ? error.issue.kind : String(error)),
  );
const namesAt = async (who: Actor, placeId: string): Promise<string[]> =>
  (await viewsAt(who, { placeId })).views.map((each) => each.name);
const titles = async (who: Actor, placeId: string, more: object = {}): Promise<string[]> =>
  (await openView(who, { ...plainQuestion, placeId, ...more })).rows.map((row) => row.title);

async function folder(name: string, papers: readonly string[] = []): Promise<{ id: string; ids: string[] }> {
  const { id } = await createFolder(keeper, { parentId: home.dossier.id, name });
  const ids: string[] = [];
  for (const title of papers) ids.push(await fileBuffer(keeper, id, `${title}.txt`, Buffer.from(`${name} ${title}\n`)));
  return { id, ids };
}

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

describe('what the tally follows', () => {
  it('is every way in which papers, values, labels and places change', async () => {
    const place = await folder('Followed', ['One', 'Two']);
    const [one = '', two = ''] = place.ids;
    const other = await folder('Followed elsewhere');
    const count = async (conditions: readonly object[]) =>
      (await openView(keeper, { ...plainQuestion, placeId: place.id, conditions: conditions as never })).totals?.papers;
    expect(await count([])).toBe(2);
    await setValues(keeper, { documentIds: [one], values: { [remark]: 'set' } });
    expect(await count([{ of: remark, anyOf: ['set'] }])).toBe(1);
    const { id: label } = await createLabel(keeper, { name: 'Followed', hue: 'plum', shared: true });
    await putLabel(keeper, { labelId: label, documentIds: [one, two], on: true });
    expect(await count([{ of: 'label', anyOf: [label] }])).toBe(2);
    await putLabel(keeper, { labelId: label, documentIds: [two], on: false });
    expect(await count([{ of: 'label', anyOf: [label] }])).toBe(1);
    const [row] = await writableDb().select({ revision: document.revision }).from(document).where(eq(document.id, two));
    await renamePaper(keeper, { documentId: two, title: 'Renamed', revision: row?.revision ?? 0 });
    expect(await count([{ of: 'title', text: 'starts', words: 'ren' }])).toBe(1);
    await movePapers(keeper, { documentIds: [two], toId: other.id });
    expect(await count([])).toBe(1);
    await disposePapers(keeper, { documentIds: [one] });
    expect(await count([])).toBe(0);
    await putBackPapers(keeper, { documentIds: [one] });
    expect(await count([])).toBe(1);
  });

  it('finds what commits late, after later changes were already read', async () => {
    const place = await folder('Late', ['One', 'Two']);
    const [one = '', two = ''] = place.ids;
    const late = new Client({ connectionString: process.env['DATABASE_URL'] });
    await late.connect();
    await late.query('begin');
    await late.query(`update document set title = 'Written first, kept last' where id = $1`, [one]);
    await writableDb().execute(sql`update document set title = 'Written last, kept first' where id = ${two}`);
    expect(await titles(keeper, place.id)).toEqual(['One', 'Written last, kept first']);
    await late.query('commit');
    await late.end();
    expect(await titles(keeper, place.id)).toEqual(['Written first, kept last', 'Written last, kept first']);
  });

  it('is read anew after the connection has been cut', async () => {
    const place = await folder('Cut off', ['One']);
    expect(await titles(keeper, place.id)).toEqual(['One']);
    await writableDb().execute(sql`
      select pg_terminate_backend(pid) from pg_stat_activity
      where datname = current_database() and pid <> pg_backend_pid() and query like '%tally_change%'`);
    const again = await titles(keeper, place.id).catch(() => titles(keeper, place.id));
    expect(again).toEqual(['One']);
  });

  it('leaves traces that are swept after a while, and not before', async () => {
    const traces = () => writableDb().$count(tallyChange);
    const before = await traces();
    expect(before).toBeGreaterThan(0);
    await sweepChanges();
    expect(await traces()).toBe(before);
    await writableDb().execute(sql`update tally_change set at = at - interval '2 hours'`);
    await sweepChanges();
    expect(await traces()).toBe(0);
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

describe('the nudge', () => {
  it('reaches who may see what changed, and who just lost it, and nobody else', async () => {
    const seen = await folder('Seen', ['One']);
    const { id: hidden } = await createDossier(keeper, { seriesId: home.series.id, name: 'Hidden', reference: null });
    const outsider = await newcomer(keeper, 'Out Sider');
    const told: string[] = [];
    const ends = [auditor, outsider].map((who) =>
      listenFor(
        who,
        (changed) => told.push(`${who.name}: ${changed}`),
        () => undefined,
      ),
    );
    const until = async (done: () => boolean, atMostMs = 10_000) => {
      const end = Date.now() + atMostMs;
      while (!done() && Date.now() < end) await new Promise((next) => setTimeout(next, 20));
    };
    try {
      // The first change may come before the hub listens; what is awaited is the one that it hears.
      for (let tries = 0; told.length === 0 && tries < 20; tries += 1) {
        await writableDb().execute(sql`update document set note = note || '.' where id = ${seen.ids[0]}`);
        await until(() => told.length > 0, 500);
      }
      expect(new Set(told)).toEqual(new Set([`${auditor.name}: papers`]));
      told.length = 0;
      await writableDb().execute(sql`update document set home_id = ${hidden} where id = ${seen.ids[0]}`);
      // The place that it left has changed, too: what lies there is no longer what it was.
      await until(() => told.length > 0);
      expect(new Set(told)).toEqual(new Set([`${auditor.name}: all`]));
      told.length = 0;
      await writableDb().execute(sql`update place set name = name || '.' where id = ${hidden}`);
      await writableDb().execute(sql`update place set name = name || '.' where id = ${seen.id}`);
      await until(() => told.length > 0);
      expect(new Set(told)).toEqual(new Set([`${auditor.name}: all`]));
    } finally {
      for (const end of ends) end();
    }
  });
});
