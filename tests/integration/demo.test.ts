/**
 * The demo library held to what is known of it otherwise. Its gaps: `oracle/demoGaps`. What its papers are owed, worked out once more from what was filed, when, and as what: no rules, no tally, only
 * titles, types, places and days, with the days counted by PostgreSQL's own calendar.
 */
import { and, eq, sql } from 'drizzle-orm';
import { buildDemo, demoPapers, storyEnds } from '@/demo/build';
import { typeOf } from '@/demo/describe';
import { keeper } from '@/demo/people';
import { markedScans } from '@/demo/signatures';
import { atMoment } from '@/server/base/clock';
import { db } from '@/server/db/client';
import { tenantForms } from '@/demo/papers';
import { disposalRun, disposalRunItem, person, place } from '@/server/db/schema';
import type { Actor } from '@/server/gate/actor';
import { gapsOf } from '@/server/expected/gaps';
import { openRack } from '@/server/expected/rack';
import { listHolds } from '@/server/holds/holds';
import { listSeries } from '@/server/places/open';
import { openRun } from '@/server/retention/runs';
import { signOffLines } from '@/server/signoff/lines';
import { papersOfSlice } from '@/server/views/open';
import { dropLibrary, emptyLibrary } from '../library';
import { boardGaps, tenantGaps, workGaps } from '../oracle/demoGaps';
import { sees } from '../sheets';

const today = storyEnds.toISOString().slice(0, 10);
const allSeries = ['Board & committees', 'Berth tenants', 'Suppliers', 'Works', 'Governing papers'];

interface Fact {
  readonly id: string;
  readonly title: string;
  /** The names of its places, from the series down. */
  readonly path: readonly string[];
  readonly type: string | null;
  readonly filed: string;
  /** It lies in the disposal tray: holds are on it all the same. */
  readonly inTray: boolean;
}

let facts: Fact[];
let maren: Actor;

/** A day so many months later, as PostgreSQL adds them (month ends are kept within the month). */
async function later(day: string, months: number): Promise<string> {
  const { rows } = await db().execute<{ day: string }>(
    sql`select to_char(${day}::date + make_interval(months => ${months}), 'YYYY-MM-DD') as day`,
  );
  return rows[0]?.day ?? '';
}

/** Somebody of the demo by name. */
async function who(name: string): Promise<Actor> {
  const [row] = await db().select().from(person).where(eq(person.name, name));
  if (!row) throw new Error(`${name} is not there`);
  return { personId: row.id, name: row.name, email: row.email, keeper: row.keeper };
}

beforeAll(async () => {
  await emptyLibrary();
  await buildDemo(() => undefined, { asText: allSeries, withDuties: true });
  maren = await who(keeper.name);
  const { rows } = await db().execute<{
    id: string;
    title: string;
    path: string[];
    type: string | null;
    filed: string;
    inTray: boolean;
  }>(sql`
    select d.id, d.title, d.disposed_at is not null as "inTray", to_char(d.filed_at at time zone 'Europe/London', 'YYYY-MM-DD') as filed,
      (select array_agg(p.name order by step.at) from unnest(h.lineage) with ordinality as step (id, at)
        join place p on p.id = step.id where p.kind <> 'library') as path,
      (select t.name from term t join column_def c on c.name = 'Paper type' where t.id::text = d.shown_values ->> c.id::text) as type
    from document d join place h on h.id = d.home_id`);
  facts = rows;
});
afterAll(dropLibrary);

const inSeries = (series: string, type?: string): Fact[] =>
  facts.filter((fact) => !fact.inTray && fact.path[0] === series && (type === undefined || fact.type === type));

type Conditions = Parameters<typeof papersOfSlice>[1]['conditions'];
async function shown(conditions: Conditions): Promise<string[]> {
  const [root] = await db().select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  const slice = { placeId: root?.id ?? '', below: true, filter: '', sorts: [], conditions };
  return [...(await atMoment(storyEnds, () => papersOfSlice(maren, slice, 1000))).ids].sort();
}

it('the reviews that are past are those of policies and certificates nobody has looked at for too long', async () => {
  const lastLookedAt = new Map(
    ['Health and safety policy', 'Procurement policy', 'Data protection policy'].map((title) => [title, '2025-06-16']),
  );
  const past: string[] = [];
  for (const [type, months] of [
    ['Policy', 24],
    ['Certificate', 12],
  ] as const)
    for (const { id, title, filed } of inSeries('Governing papers', type))
      if ((await later(lastLookedAt.get(title) ?? filed, months)) < today) past.push(id);
  expect(past.length).toBeGreaterThan(2);
  expect(await shown([{ of: 'reviewOn', span: { is: 'before-today' } }])).toEqual(past.sort());
});

it('what need not be kept any more are the routine letters of two years ago, and invoices of six filing years ago', async () => {
  const over: string[] = [];
  for (const { id, filed } of inSeries('Berth tenants', 'Letter')) if ((await later(filed, 24)) < today) over.push(id);
  const letters = over.length;
  for (const { id, path } of inSeries('Suppliers')) {
    const year = Number(/^\d{4}/u.exec(path[2] ?? '')?.[0]);
    if ((await later(`${year + 1}-03-31`, 72)) < today) over.push(id);
  }
  expect(letters).toBeGreaterThan(0);
  expect(await shown([{ of: 'keptUntil', span: { is: 'before-today' } }])).toEqual(over.sort());
});

it('the disposal of July took the letters whose time was over then, and that of the autumn lists the rest, but for the held', async () => {
  // Letters of one name on one day do not occur; of one name on several days they do, and are numbered.
  const nameOf = (dossier: string, title: string): string => `${dossier}: ${title.replace(/ \(\d+\)$/u, '')}`;
  const there = new Set(facts.map(({ title, path, filed }) => `${nameOf(path[1] ?? '', title)} ${filed}`));
  const runs = await db().select().from(disposalRun).orderBy(disposalRun.preparedAt);
  const [july, autumn] = runs;
  if (!july || !autumn || runs.length !== 2) throw new Error('There are two disposals in the demo');
  const destroyed = await db()
    .select({ title: disposalRunItem.title, dossier: disposalRunItem.dossierName })
    .from(disposalRunItem)
    .where(and(eq(disposalRunItem.runId, july.id), eq(disposalRunItem.state, 'destroyed')));
  const gone: string[] = [];
  for (const { series, dossier, draft } of demoPapers()) {
    const { title, written } = draft;
    const [filed, name] = [written.toISOString().slice(0, 10), nameOf(dossier, title)];
    if (series !== 'Berth tenants' || typeOf(title) !== 'Letter' || there.has(`${name} ${filed}`)) continue;
    expect((await later(filed, 24)) < '2026-07-20').toBe(true);
    gone.push(name);
  }
  expect(gone.length).toBeGreaterThan(0);
  expect(destroyed.map(({ title, dossier }) => nameOf(dossier, title)).sort()).toEqual(gone.sort());

  const oldest = inSeries('Berth tenants', 'Letter').toSorted((a, b) => (a.filed < b.filed ? -1 : 1))[0];
  const due: string[] = [];
  const held: string[] = [];
  for (const { id, path, filed } of inSeries('Berth tenants', 'Letter'))
    if ((await later(filed, 24)) < today) (path[1] === oldest?.path[1] ? held : due).push(id);
  const { items } = await atMoment(storyEnds, () => openRun(maren, { runId: autumn.id, states: [], most: 500 }));
  const listed = (state: string): string[] =>
    items.flatMap((item) => (item.state === state ? [item.documentId] : [])).sort();
  expect([listed('listed'), listed('held')]).toEqual([due.sort(), held.sort()]);
});

it('the holds are on all papers of the pontoon job, and of the tenant whose letter is the oldest', async () => {
  const oldest = inSeries('Berth tenants', 'Letter').toSorted((a, b) => (a.filed < b.filed ? -1 : 1))[0];
  const under = (dossier: string | undefined): number => facts.filter(({ path }) => path[1] === dossier).length;
  const holds = await atMoment(storyEnds, () => listHolds(maren));
  expect(holds.map(({ name, papers }) => [name, papers]).sort()).toEqual([
    ['Ombudsman inquiry', under(oldest?.path[1])],
    ['Pontoon claim', under('Pontoon repair')],
  ]);
});

it('the signatures are those of the newest minutes without a scan, of a policy and a lease, and of scans of the board', async () => {
  const idris = await who('Idris Quaye');
  const board = inSeries('Board & committees').filter(({ title }) => title.startsWith('Minutes of '));
  const scans = new Set(board.map(({ title, path }) => `${path.join('/')}/${title}`));
  const newestFirst = (list: readonly Fact[]): Fact[] => list.toSorted((a, b) => (a.filed > b.filed ? -1 : 1));
  const unsigned: Fact[] = [];
  for (const fact of newestFirst(board))
    if (
      !/, signed$|\(draft/u.test(fact.title) &&
      !scans.has(`${fact.path.join('/')}/${fact.title}, signed`) &&
      (await sees(idris, fact.id))
    )
      unsigned.push(fact);
  const [whole, half] = unsigned;
  const scanned = newestFirst(
    board.filter(({ title, path }) => title.endsWith(', signed') && path[1] === 'Full board'),
  );
  const lines = await atMoment(storyEnds, () => signOffLines(maren, { whose: 'all' }));
  const told = lines.map(({ title, words, waitsFor }) =>
    `${title}: ${words.replace(/, version \d+$/u, '')} ${waitsFor.join()}`.trim(),
  );
  const lease = newestFirst(inSeries('Berth tenants').filter(({ title }) => title.startsWith('Berth lease')))[0];
  expect(told.toSorted()).toEqual(
    [
      `${whole?.title}: signed by 3 of 3`,
      `${half?.title}: signed by 1 of 2 so far Maren Tolliver`,
      'Procurement policy: approved by 0 of 2 so far Maren Tolliver,Isolde Carew',
      `${lease?.title}: signed by 0 of 1 so far Rhoda Vance`,
      ...scanned
        .slice(0, markedScans)
        .map(({ title }) => `${title.replace(', signed', '')}: signed on paper by 2 of 2`),
    ].toSorted(),
  );
});

it('the gaps are those of the list, for the keeper', async () => {
  const { gaps } = await atMoment(storyEnds, () => gapsOf(maren, { placeId: null }));
  const told = gaps.map(
    (gap) =>
      `${gap.dossier}: ${gap.name}${gap.meeting ? ` ${gap.meeting.day}` : gap.startYear ? ` ${gap.startYear}` : ''}`,
  );
  const expected = [...boardGaps(), ...tenantGaps(), ...workGaps()];
  expect(told.sort()).toEqual(expected.sort());
  expect(told.length).toBeGreaterThan(15);
  // The racks count the same.
  let counted = 0;
  for (const series of await listSeries(maren)) {
    const rack = await atMoment(storyEnds, () => openRack(maren, { seriesId: series.id }));
    counted += rack.rows.reduce((sum, row) => sum + row.gaps, 0);
    const inDossiers = rack.rows.reduce((sum, row) => sum + row.whole.papers, 0);
    // What is common to all tenants is the series' own: counted once, and in none of the rows.
    const common = series.name === 'Berth tenants' ? tenantForms(storyEnds).length : 0;
    expect(inDossiers + common).toBe(series.paperCount);
  }
  expect(counted).toBe(told.length);
});

it('the gaps are, for the harbour master, those of the two committees, the tenants and the works that are open to her', async () => {
  const petra = await who('Petra Lindqvist-Hale');
  const { gaps } = await atMoment(storyEnds, () => gapsOf(petra, { placeId: null }));
  const hers = boardGaps().filter((gap) => /^(?:Navigation & safety|Works & dredging): /u.test(gap));
  expect(gaps).toHaveLength(hers.length + tenantGaps().length + workGaps().length);
  expect(gaps.filter((gap) => gap.series === 'Board & committees')).toHaveLength(hers.length);
});
