/**
 * Measures a large series: `npm run bench:rack [-- --dossiers 500 --years 15]`. Twelve meetings a year in each dossier, each
 * with its planned folder; three papers expected of each meeting and one of each year; a paper in every folder. Opening the
 * rack and previewing a change of the plan, as the keeper and as a reader of half the dossiers; beside them a bare loop that
 * counts as many slots, and the plain SQL that counts the papers of each cell, in the same run.
 */
import { sql } from 'drizzle-orm';
import type { Expectation } from '@/core/plans/expectation';
import type { Actor } from '@/server/gate/actor';
import { writableDb, disconnect } from '@/server/db/client';
import { document } from '@/server/db/schema';
import { paperAllows } from '@/server/gate/visible';
import { forecastPlan, planOf, setPlan } from '@/server/plans/plans';
import { openRack } from '@/server/expected/rack';
import { createSeries } from '@/server/places/create';
import { stopTally } from '@/server/tally/host';
import { dropPlanted, freshLibrary, newcomer } from '../tests/library';
import { placeOn, say } from '../tests/sheets';
import { fillWithPapers } from './large';

const wanted = (name: string, plain: number): number => {
  const at = process.argv.indexOf(`--${name}`);
  return at === -1 ? plain : Number(process.argv[at + 1]);
};
const dossiers = wanted('dossiers', 500);
const years = wanted('years', 15);
const meetings = 12;
const firstYear = 2026 - years + 1;

const folderId = crypto.randomUUID();
const paper = (name: string, timing: Expectation['timing'], dueDays: number): Expectation => ({
  id: crypto.randomUUID(),
  timing,
  name,
  folderId: timing === 'meeting' ? folderId : null,
  conditions: [{ of: 'title', text: 'starts', words: name }],
  dueDays,
  dueFrom: 'start',
});
const expected = [
  paper('Agenda', 'meeting', -5),
  paper('Minutes', 'meeting', 14),
  paper('Letter', 'meeting', 30),
  paper('Certificate', 'year', 100),
];

/** Dossiers, years, meetings and their folders, past the use-cases: made as a person would they take a quarter of an hour. */
async function layOut(keeper: Actor, seriesId: string): Promise<string[]> {
  await writableDb().transaction(async (tx) => {
    await tx.execute(
      sql`insert into filing_year (start_year) select generate_series(${firstYear}::integer, 2026) on conflict do nothing`,
    );
    await tx.execute(sql`
      create temporary table made on commit drop as
      select n, gen_random_uuid() as id from generate_series(1, ${dossiers}::integer) as n`);
    await tx.execute(sql`
      create temporary table made_year on commit drop as
      select made.id as dossier_id, year, gen_random_uuid() as id from made, generate_series(${firstYear}::integer, 2026) as year`);
    await tx.execute(sql`
      insert into place (id, parent_id, kind, name, name_key, search_key, reference, position, scope_id, lineage, created_by)
      select made.id, series.id, 'dossier', 'Committee ' || n, 'committee ' || n, 'committee ' || n, 'C-' || lpad(n::text, 4, '0'), n,
        series.scope_id, series.lineage || made.id, ${keeper.personId}::uuid
      from made, place as series where series.id = ${seriesId}::uuid`);
    await tx.execute(sql`
      insert into place (id, parent_id, kind, name, name_key, search_key, filing_year, position, scope_id, lineage, created_by)
      select made_year.id, dossier.id, 'year', year::text, year::text, year::text, year, year, dossier.scope_id,
        dossier.lineage || made_year.id, ${keeper.personId}::uuid
      from made_year join place as dossier on dossier.id = made_year.dossier_id`);
    await tx.execute(sql`
      insert into meeting (id, dossier_id, day, title)
      select gen_random_uuid(), dossier_id, make_date(year, 4, 10) + month * interval '1 month', 'Ordinary meeting'
      from made_year, generate_series(0, ${meetings - 1}::integer) as month`);
    await tx.execute(sql`
      insert into place (id, parent_id, kind, name, name_key, search_key, filing_year, position, scope_id, lineage, planned_key, planned_name, meeting_day, created_by)
      select folder.id, year.id, 'folder', folder.name, lower(folder.name), lower(folder.name), year.filing_year, folder.number,
        year.scope_id, year.lineage || folder.id, ${folderId} || ' ' || folder.meeting_id, folder.name, folder.day, ${keeper.personId}::uuid
      from (
        select gen_random_uuid() as id, meeting.id as meeting_id, dossier_id, day, to_char(day, 'FMDD Mon') || ' meeting' as name,
          row_number() over (partition by dossier_id order by day) as number,
          extract(year from day - interval '3 months')::integer as year
        from meeting
      ) as folder
      join place as year on year.parent_id = folder.dossier_id and year.filing_year = folder.year`);
  });
  const rows = await writableDb().execute<{ id: string }>(sql`select id from place where kind = 'folder' order by id`);
  return rows.rows.map((row) => row.id);
}

const keeper = await freshLibrary();
try {
  const reader = await newcomer(keeper, 'Rea Der');
  const series = await createSeries(keeper, { name: 'Committees', referencePattern: null });
  const folders = [{ id: folderId, parentId: null, timing: 'meeting' as const, pattern: '{meeting:d MMM} meeting' }];
  const places = await layOut(keeper, series.id);
  await setPlan(keeper, { seriesId: series.id, folders, expected, revision: 0 });
  await fillWithPapers(keeper, places, places.length);
  const halves = await writableDb().execute<{ id: string }>(sql`
    select id from place where parent_id = ${series.id}::uuid and kind = 'dossier' and position % 2 = 0 order by position limit 40`);
  // Forty sheets of their own: as many scopes as a large organisation's committees have.
  for (const { id } of halves.rows) await say(keeper, placeOn(id), [{ who: reader, gives: ['see'] }]);
  console.log(
    `${dossiers} dossiers, ${years} years, ${meetings} meetings a year: ${places.length.toLocaleString('en-GB')} folders and papers`,
  );

  const { revision } = await planOf(keeper, { seriesId: series.id });
  const changed = [
    ...folders,
    { id: crypto.randomUUID(), parentId: folderId, timing: 'meeting' as const, pattern: 'Annexes' },
  ];
  const slots = dossiers * years * (meetings * 3 + 1);
  const work: readonly (readonly [name: string, times: number, work: () => Promise<unknown> | unknown])[] = [
    ['rack, as the keeper', 12, () => openRack(keeper, { seriesId: series.id })],
    ['rack, as a reader of forty dossiers', 12, () => openRack(reader, { seriesId: series.id })],
    [
      'plan preview: a folder more for each meeting',
      5,
      () => forecastPlan(keeper, { seriesId: series.id, folders: changed }),
    ],
    ['SQL by hand: only the papers of each cell', 5, () => handWritten(keeper, series.id)],
    ['a bare loop over as many slots', 12, () => bareLoop(slots)],
  ];
  await openRack(keeper, { seriesId: series.id });
  for (const [name, times, each] of work) {
    const taken: number[] = [];
    for (let round = 0; round < times; round += 1) {
      const from = performance.now();
      await each();
      taken.push(performance.now() - from);
    }
    taken.sort((a, b) => a - b);
    console.log(
      `${name.padEnd(48)} median ${(taken[Math.floor(times / 2)] ?? 0).toFixed(0).padStart(6)} ms   most ${(taken.at(-1) ?? 0).toFixed(0).padStart(6)} ms`,
    );
  }
  console.log(
    `answer: ${(JSON.stringify(await openRack(keeper, { seriesId: series.id })).length / 1024).toFixed(0)} KiB, revision ${revision}`,
  );
} finally {
  await stopTally();
  await dropPlanted();
  await disconnect();
}

function bareLoop(count: number): number {
  let gaps = 0;
  const due = new Int32Array(count).map((_each, at) => at % 20_000);
  for (let at = 0; at < count; at += 1) if ((due[at] as number) < 10_000) gaps += 1;
  return gaps;
}

async function handWritten(actor: Actor, seriesId: string): Promise<unknown> {
  return writableDb().execute(sql`
    select home.lineage[3], home.filing_year, count(*), sum(${document.pageCount}), sum(${document.sizeBytes}), max(${document.filedAt})
    from ${document} join place as home on home.id = ${document.homeId}
    where home.lineage @> array[${seriesId}::uuid] and ${paperAllows(actor, 'see')} group by 1, 2`);
}
