import { eq, sql } from 'drizzle-orm';
import { Client } from 'pg';
import { setValues } from '@/server/columns/setValues';
import { writableDb } from '@/server/db/client';
import { document, tallyChange } from '@/server/db/schema';
import { disposePapers, putBackPapers } from '@/server/disposal/dispose';
import { movePapers, renamePaper } from '@/server/documents/amend';
import { createLabel, putLabel } from '@/server/labels/labels';
import { listenFor } from '@/server/live/hub';
import { createDossier } from '@/server/dossiers/create';
import { openView } from '@/server/views/open';
import { sweepChanges } from '@/server/tally/sweep';
import { dropLibrary, newcomer, plainQuestion } from '../library';
import { beginViewing, keeper, auditor, home, remark, titles, folder } from './viewing';

beforeAll(beginViewing);
afterAll(dropLibrary);

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
        await writableDb().execute(sql`update document set remark = remark || '.' where id = ${seen.ids[0]}`);
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
